import type { DeviceDescription, HeardValue } from './description'

/** What a line from the device was: values, the fingerprint that it knows, or nothing that is understood. */
export type HeardLine =
  | { readonly is: 'values'; readonly values: readonly (number | string | null)[] }
  | { readonly is: 'fingerprint'; readonly fingerprint: string }
  | { readonly is: 'strange'; readonly why: string }

const asTold = (text: string, h: HeardValue): number | string | null | undefined => {
  const bare = text.trim()
  if (bare === '') return null
  if (h.as === 'text') return bare
  const number = Number(bare)
  return Number.isFinite(number) && /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(bare) ? number : undefined
}

/**
 * Reads one line that a device has said, without its end. Values stand in the order of the description, or each with its name
 * (`name=value`) in any order and number; a line `?3F2A` tells the fingerprint that the device was made for.
 */
export const readDeviceLine = (d: DeviceDescription, line: string): HeardLine => {
  const text = line.trim()
  const told = /^\?([0-9A-Fa-f]{4})$/.exec(text)
  if (told) return { is: 'fingerprint', fingerprint: (told[1] as string).toUpperCase() }
  if (d.hear.length === 0) return { is: 'strange', why: 'nothing is expected to come back' }
  const parts = text.split(d.separator.trim() === '' ? /\s+/ : d.separator)
  if (parts.every((p) => p.includes('='))) return readNamed(d, parts)
  if (parts.length !== d.hear.length)
    return { is: 'strange', why: `${parts.length} values came, ${d.hear.length} are expected` }
  const values = parts.map((p, i) => asTold(p, d.hear[i] as HeardValue))
  const wrong = values.indexOf(undefined)
  return wrong < 0
    ? { is: 'values', values: values as (number | string | null)[] }
    : { is: 'strange', why: `${d.hear[wrong]?.name} is no number: ${(parts[wrong] as string).slice(0, 20)}` }
}

const readNamed = (d: DeviceDescription, parts: readonly string[]): HeardLine => {
  const values: (number | string | null | undefined)[] = new Array(d.hear.length).fill(undefined)
  for (const part of parts) {
    const [name = '', ...rest] = part.split('=')
    const at = d.hear.findIndex((h) => h.name === name.trim())
    if (at < 0) return { is: 'strange', why: `nobody expects a value called ${name.trim().slice(0, 32)}` }
    const value = asTold(rest.join('='), d.hear[at] as HeardValue)
    if (value === undefined)
      return { is: 'strange', why: `${name.trim()} is no number: ${rest.join('=').slice(0, 20)}` }
    values[at] = value
  }
  // What is not named stays as it was told last.
  return { is: 'values', values: values as (number | string | null)[] }
}

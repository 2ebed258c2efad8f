import type { RawItem } from './feed'

const two = (n: number): string => String(n).padStart(2, '0')

/** The time of day to the millisecond, on the reader's own clock. */
export const clockWords = (t: number): string => {
  const d = new Date(t)
  const ms = String(d.getMilliseconds()).padStart(3, '0')
  return `${two(d.getHours())}:${two(d.getMinutes())}:${two(d.getSeconds())}.${ms}`
}

/** One piece as a line of text, for the clipboard and for files. */
export const rawLine = (item: RawItem): string =>
  [clockWords(item.t), item.d === 'in' ? '<' : '>', item.sound ? ' ' : '!', item.words, item.raw].join('\t')

/** Bytes as they are typed: pairs of hexadecimal digits, apart or not, with 0x or without; or what is wrong with them. */
export const typedHex = (text: string): { readonly hex: string } | { readonly problem: string } => {
  const bare = text.toLowerCase().replace(/0x/g, ' ').replace(/,/g, ' ')
  const words = bare.split(/\s+/).filter((w) => w !== '')
  const strange = words.find((w) => !/^[0-9a-f]+$/.test(w))
  if (strange !== undefined)
    return { problem: `“${strange}” is no byte; bytes are two digits of 0 to 9 and a to f` }
  const odd = words.find((w) => w.length % 2 === 1 && w.length > 1)
  if (odd !== undefined) return { problem: `“${odd}” has half a byte too many or too few` }
  const hex = words.map((w) => w.padStart(2, '0')).join('')
  return hex === '' ? { problem: 'there is nothing to send' } : { hex }
}

/** Text with the escapes \\r, \\n, \\t, \\0 and \\xHH as bytes, in UTF-8; or what is wrong with it. */
export const typedText = (text: string): { readonly hex: string } | { readonly problem: string } => {
  const bytes: number[] = []
  const encoder = new TextEncoder()
  const plain: Readonly<Record<string, number>> = { r: 13, n: 10, t: 9, '0': 0, '\\': 92 }
  for (let i = 0; i < text.length; i++) {
    if (text[i] !== '\\') {
      const sign = String.fromCodePoint(text.codePointAt(i) as number)
      bytes.push(...encoder.encode(sign))
      i += sign.length - 1
      continue
    }
    const next = text[++i] ?? ''
    const digits = text.slice(i + 1, i + 3)
    if (next in plain) bytes.push(plain[next] as number)
    else if (next === 'x' && /^[0-9a-f]{2}$/i.test(digits)) {
      bytes.push(Number.parseInt(digits, 16))
      i += 2
    } else return { problem: `“\\${next}” is not known; \\r, \\n, \\t, \\0, \\\\ and \\x41 are` }
  }
  return { hex: bytes.map((b) => b.toString(16).padStart(2, '0')).join('') }
}

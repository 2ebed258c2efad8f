import { type DatagramLayout, datagramLayout } from './layout'

const FORMAT = 1
/** 64,000 fields with words would be less. */
const MOST_CHARACTERS = 8_000_000
const MOST_NAMED = 3

/** A layout as a file: a line a field, in the order in which they lie. */
export const writeLayoutFile = (layout: DatagramLayout): string => {
  const packets = layout.packets.map(({ fields, ...packet }) => {
    const lines = [...fields].sort((a, b) => a.at - b.at).map((f) => `   ${JSON.stringify(f)}`)
    const head = JSON.stringify(packet).slice(0, -1)
    return `  ${head},"fields":[\n${lines.join(',\n')}${lines.length > 0 ? '\n' : ''}  ]}`
  })
  const { craft, order } = layout
  return (
    `{"clavik":"datagram layout","format":${FORMAT},\n "craft":${JSON.stringify(craft)},"order":"${order}",\n "packets":[\n` +
    `${packets.join(',\n')}${packets.length > 0 ? '\n' : ''} ]}\n`
  )
}

/** Where in a layout something lies, with the names of packet and field. */
const placeWords = (value: unknown, path: readonly PropertyKey[]): string => {
  let at: unknown = value
  const words: string[] = []
  for (const key of path) {
    at = (at as Record<PropertyKey, unknown> | undefined)?.[key]
    if (typeof key === 'number') {
      const name = (at as { name?: unknown } | undefined)?.name
      words.push(typeof name === 'string' ? `“${name.slice(0, 60)}”` : `number ${key + 1}`)
    } else if (key !== 'packets' && key !== 'fields') words.push(String(key))
  }
  return words.join(' ') || 'the layout'
}

/** Reads a layout file, or says in a sentence what is wrong with it and where. Nothing of a file with a fault is taken. */
export const readLayoutFile = (text: string): { layout: DatagramLayout } | { problem: string } => {
  if (text.length > MOST_CHARACTERS) return { problem: 'This is too large for a layout of datagrams.' }
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (error) {
    return { problem: `This is not a layout of datagrams: ${(error as Error).message}.` }
  }
  if (typeof json !== 'object' || json === null || !('clavik' in json))
    return { problem: 'This is not a layout of datagrams.' }
  const { clavik, format, ...rest } = json as { clavik: unknown; format?: unknown }
  if (clavik !== 'datagram layout')
    return { problem: `This is a ${String(clavik).slice(0, 20)} file, not a layout of datagrams.` }
  if (typeof format !== 'number' || format > FORMAT)
    return {
      problem: `This layout has format ${String(format).slice(0, 20)}; this Clavik reads up to ${FORMAT}.`,
    }
  const read = datagramLayout.safeParse(rest)
  if (read.success) return { layout: read.data }
  const { issues } = read.error
  const faults = issues.slice(0, MOST_NAMED).map((i) => `${placeWords(rest, i.path)}: ${i.message}`)
  const more = issues.length > faults.length ? `; and ${issues.length - faults.length} more` : ''
  return { problem: `The layout in this file is not valid: ${faults.join('; ')}${more}.` }
}

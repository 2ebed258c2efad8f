import type { DeviceDescription } from './description'
import { packetBytes } from './write-line'

/** The length of a packet is one byte. */
const MOST_PACKET = 255

/** What is wrong with a description as a whole, in sentences. */
export const deviceFindings = (d: DeviceDescription): string[] => {
  const said: string[] = []
  for (const list of [d.send, d.hear]) {
    const names = new Set<string>()
    for (const { name } of list) {
      if (names.has(name)) said.push(`“${name}” is there twice.`)
      names.add(name)
    }
  }
  for (const s of d.send) if (s.value.trim() === '') said.push(`“${s.name}” has no value to be sent.`)
  if (d.form === 'line' && d.check !== 'none' && d.separator.includes('*'))
    said.push('The check stands behind a *, so that cannot be what is between values.')
  const bytes = packetBytes(d) + (d.marked ? 2 : 0)
  if (d.form === 'packet' && bytes > MOST_PACKET)
    said.push(`A packet carries at most ${MOST_PACKET} bytes; these values take ${bytes}.`)
  if (d.form === 'packet' && d.check === 'none')
    said.push('Without a check a damaged packet is taken for a sound one.')
  return said
}

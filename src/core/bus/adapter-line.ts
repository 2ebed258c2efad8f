import type { BusFrame } from './bus-frame'

/** What an adapter says: a message from the bus, that it has done something, or that it will not. */
export type FromAdapter =
  | { readonly is: 'frame'; readonly frame: BusFrame }
  | { readonly is: 'done' }
  | { readonly is: 'refused' }
  | { readonly is: 'version'; readonly text: string }
  | { readonly is: 'status'; readonly flags: number }
  | { readonly is: 'strange'; readonly text: string }

/** Bits a second, in the order of the digits by which the ASCII line protocol of serial adapters names them. */
export const busSpeeds = [
  10_000, 20_000, 50_000, 100_000, 125_000, 250_000, 500_000, 800_000, 1_000_000,
] as const
export type BusSpeed = (typeof busSpeeds)[number]

/** What opens the bus at a speed: closed first, whatever it was before. */
export const openingLines = (speed: BusSpeed): readonly string[] => [
  'C\r',
  `S${busSpeeds.indexOf(speed)}\r`,
  'O\r',
]
export const CLOSING_LINE = 'C\r'

const hex = (n: number, digits: number): string => n.toString(16).toUpperCase().padStart(digits, '0')

/** A message as an adapter is told to send it: `t1232AABB` or `T0123456780`. */
export const frameLine = ({ id, extended, data }: BusFrame): string =>
  `${extended ? `T${hex(id, 8)}` : `t${hex(id, 3)}`}${data.length}${Array.from(data, (b) => hex(b, 2)).join('')}\r`

const frameOf = (line: string): BusFrame | null => {
  const extended = line[0] === 'T'
  const digits = extended ? 8 : 3
  const head = new RegExp(`^.([0-9A-Fa-f]{${digits}})([0-8])([0-9A-Fa-f]*)$`).exec(line)
  if (!head) return null
  const [, id = '', length = '', rest = ''] = head
  const bytes = Number(length)
  // Behind the data some adapters tell a time: four digits.
  if (rest.length !== bytes * 2 && rest.length !== bytes * 2 + 4) return null
  const data = Uint8Array.from({ length: bytes }, (_, i) => Number.parseInt(rest.slice(i * 2, i * 2 + 2), 16))
  const number = Number.parseInt(id, 16)
  return number < (extended ? 2 ** 29 : 2 ** 11) ? { id: number, extended, data } : null
}

/** What one line of an adapter means, without its end. */
const lineOf = (line: string): FromAdapter | null => {
  const first = line[0]
  if (first === undefined) return { is: 'done' }
  if (first === 't' || first === 'T') {
    const frame = frameOf(line)
    return frame ? { is: 'frame', frame } : { is: 'strange', text: line }
  }
  // Asked for without data: nobody here answers that.
  if (first === 'r' || first === 'R') return null
  if (first === 'z' || first === 'Z') return { is: 'done' }
  if (first === 'V' || first === 'N') return { is: 'version', text: line.slice(1) }
  if (/^F[0-9A-Fa-f]{2}$/.test(line)) return { is: 'status', flags: Number.parseInt(line.slice(1), 16) }
  return { is: 'strange', text: line }
}

/** What never ends is no line. */
const MOST_LINE = 64
const RETURN = 13
const BELL = 7

/** Cuts what comes from an adapter into lines: a return ends one, a bell says that something was refused. */
export class AdapterReader {
  private held = ''

  push(bytes: Uint8Array): FromAdapter[] {
    const said: FromAdapter[] = []
    for (const b of bytes) {
      if (b === RETURN) {
        const read = lineOf(this.held)
        this.held = ''
        if (read) said.push(read)
      } else if (b === BELL) {
        this.held = ''
        said.push({ is: 'refused' })
      } else if (b === 10) continue
      else if (this.held.length < MOST_LINE) this.held += String.fromCharCode(b)
      else {
        said.push({ is: 'strange', text: this.held })
        this.held = ''
      }
    }
    return said
  }
}

/** What the status bits of an adapter say that concerns a builder; the bits are those of the CAN controller SJA1000 as such adapters pass them on. */
export const statusWords = (flags: number): string[] =>
  (
    [
      [0x01, 'more came from the bus than the adapter could pass on'],
      [0x02, 'more was to be sent than the bus took'],
      [0x04, 'the bus has many errors: look at its ends, its speed and its wires'],
      [0x08, 'messages were lost'],
      [0x20, 'the bus has so many errors that the adapter keeps quiet: look whether anybody else is on it'],
      [0x80, 'there was an error on the bus'],
    ] as const
  ).flatMap(([bit, words]) => ((flags & bit) !== 0 ? [words] : []))

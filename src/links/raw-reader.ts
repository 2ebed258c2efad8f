import { boardEnd, hostEnd } from './board-link'

/** One piece of what goes over a line: a frame or a line, as bytes and in words. */
export interface RawPiece {
  /** As it was sent: bytes as digits, or a line as text. */
  readonly raw: string
  /** What it means. */
  readonly words: string
  /** Whether it could be read. */
  readonly sound: boolean
}

/** A piece longer than this is shown in parts: nobody reads further, and a line without end fills no memory. */
const MOST_PIECE = 262_144

/** Cuts a stream into pieces and says what each means; for eyes, beside whoever really reads it. */
export interface RawReader {
  readonly push: (bytes: Uint8Array) => RawPiece[]
}

/** Of a piece that is longer only so much is shown as it was sent. */
const MOST_SHOWN = 600

/** Cuts a stream at one byte; what is cut is read by `read`. */
export const cutAt = (end: number, read: (piece: Uint8Array) => RawPiece): RawReader => {
  let held: number[] = []
  const take = (): RawPiece => {
    const bytes = Uint8Array.from(held)
    held = []
    return read(bytes)
  }
  return {
    push: (bytes) => {
      const pieces: RawPiece[] = []
      for (const b of bytes) {
        held.push(b)
        if (b === end || held.length === MOST_PIECE) pieces.push(take())
      }
      return pieces
    },
  }
}

export const hexDigits = (bytes: Uint8Array): string =>
  [...bytes].map((b) => b.toString(16).padStart(2, '0')).join(' ')

export const shortened = (text: string): string =>
  text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)} … and ${text.length - MOST_SHOWN} more` : text

/** A message of a link as one reads it: what it says, then each of its fields. */
const messageWords = (message: { readonly say: string }): string => {
  const { say, ...rest } = message
  const fields = Object.entries(rest).map(([key, value]) => `${key} ${valueWords(value)}`)
  return [say, ...fields].join(' · ')
}

const valueWords = (value: unknown): string => {
  if (value instanceof Uint8Array) return hexDigits(value)
  if (Array.isArray(value)) return value.map(pairWords).join(', ') || 'none'
  if (typeof value === 'object' && value !== null)
    return Object.entries(value)
      .map(([k, v]) => `${k} ${String(v)}`)
      .join(', ')
  return String(value)
}

const pairWords = (item: unknown): string => {
  if (typeof item !== 'object' || item === null) return String(item)
  const values = Object.values(item)
  return values.length === 2 ? `${values[0]}=${values[1]}` : values.join(' ')
}

/** Frames of the board link as they come from a board, or as they go to one. */
const frames = (way: 'from board' | 'to board'): RawReader => {
  const end = way === 'from board' ? hostEnd() : boardEnd()
  return cutAt(0, (piece) => {
    const raw = shortened(hexDigits(piece))
    if (piece.length <= 1) return { raw, words: 'nothing between two ends of a frame', sound: true }
    const { bad, missed } = end
    const [read] = end.decode(piece)
    if (end.strangeVersion !== null)
      return { raw, words: `a frame of version ${end.strangeVersion} of the link`, sound: false }
    if (!read) {
      const broken = end.bad > bad
      return { raw, words: broken ? 'no sound frame' : 'said again', sound: !broken }
    }
    const lost = end.missed - missed
    const before = lost > 0 ? `${lost} missing before · ` : ''
    return { raw, words: `${before}№ ${read.sequence} · ${messageWords(read.message)}`, sound: lost === 0 }
  })
}

/** Names of variables and events by their numbers, as their source told them. */
export interface RawNames {
  readonly variable: (index: number) => string | undefined
  readonly event: (index: number) => string | undefined
}

interface Line {
  readonly say?: unknown
  readonly [field: string]: unknown
}

const numbers = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : [])

/** A message of the simulator link with the names that its numbers stand for; null for one that is read as it is. */
const namedWords = (m: Line, names: RawNames): string | null => {
  const variable = (i: unknown) => names.variable(Number(i)) ?? `variable ${String(i)}`
  switch (m.say) {
    case 'frame': {
      const values = numbers(m.v)
      const told = numbers(m.i).map((i, k) => `${variable(i)} ${String(values[k])}`)
      return `frame · t ${Number(m.t).toFixed(2)} · ${told.join(', ') || 'nothing new'}`
    }
    case 'set':
      return `set № ${String(m.id)} · ${variable(m.i)} ${String(m.v)}`
    case 'event':
      return `event № ${String(m.id)} · ${names.event(Number(m.e)) ?? `event ${String(m.e)}`} ${String(m.v ?? '')}`
    case 'subscribe':
      return `subscribe · ${m.i === 'all' ? 'all' : numbers(m.i).map(variable).join(', ') || 'none'}`
    case 'catalogue':
      return `catalogue · ${numbers(m.variables).length} variables, ${numbers(m.events).length} events`
    default:
      return typeof m.say === 'string' ? messageWords(m as { say: string }) : null
  }
}

/** Lines of the simulator link. */
const lines = (names: RawNames): RawReader => {
  const text = new TextDecoder()
  return cutAt(10, (piece) => {
    const line = text.decode(piece).replace(/\r?\n$/, '')
    const broken = line.includes('\uFFFD')
    const raw = shortened(broken ? hexDigits(piece) : line)
    try {
      const message = JSON.parse(line) as unknown
      const words =
        typeof message === 'object' && message !== null ? namedWords(message as Line, names) : null
      return { raw, words: shortened(words ?? line), sound: words !== null && !broken }
    } catch {
      // The first piece may begin in the middle of a line.
      return { raw, words: shortened(line), sound: false }
    }
  })
}

/** Readers for eyes of what comes in and of what goes out. */
export interface RawReaders {
  readonly in: RawReader
  readonly out: RawReader
}

export const boardReaders = (): RawReaders => ({ in: frames('from board'), out: frames('to board') })
export const simulatorReaders = (names: RawNames): RawReaders => ({ in: lines(names), out: lines(names) })

import type { Micros } from '../units-of-measure'
import { ByteReader, ByteWriter } from './bytes'
import { ColumnReader, ColumnWriter } from './columns'
import type { Moment, Standing } from './moment'

/**
 * Some seconds of a recording, by itself: what everything was at its beginning, and what came then. Variables are counted
 * through all recorded sources. A text is the place of it in `texts`; NaN is absent.
 */
export interface Block {
  readonly from: Micros
  readonly until: Micros
  readonly standing: Standing
  /** What each variable was at the beginning. */
  readonly first: Float64Array
  readonly texts: readonly string[]
  readonly frames: Frames
  /** What is no frame, in order. */
  readonly moments: readonly Moment[]
}

/** Frames side by side: those of number n have what lies from `start[n]` to `start[n + 1]`. */
export interface Frames {
  readonly at: Float64Array
  /** The source's own time, as it told it. */
  readonly told: Float64Array
  readonly source: Uint8Array
  readonly start: Uint32Array
  readonly variables: Uint32Array
  readonly values: Float64Array
}

const VERSION = 1

/** How a variable that nothing shows is kept where it changes more often than that: its last value of each span. */
export interface Thinning {
  readonly isExact: (variable: number) => boolean
  readonly span: Micros
  /** Changes a second beyond which it is thinned. */
  readonly mostHz: number
}

export const noThinning: Thinning = { isExact: () => true, span: 0, mostHz: 0 }

/** Adds to one of the counts; gives what it was before. */
const add = (counts: Uint32Array, i: number, more = 1): number => {
  const before = counts[i] as number
  counts[i] = before + more
  return before
}

/** The changes of a block, sorted by variable: frames and values of variable v lie from `start[v]` to `start[v + 1]`. */
const byVariable = ({ frames, first }: Block) => {
  const count = first.length
  const start = new Uint32Array(count + 1)
  for (const v of frames.variables) add(start, v + 1)
  for (let v = 0; v < count; v++) add(start, v + 1, start[v])
  const next = start.slice()
  const frame = new Uint32Array(frames.values.length)
  const values = new Float64Array(frames.values.length)
  for (let f = 0; f + 1 < frames.start.length; f++)
    for (let i = frames.start[f] as number; i < (frames.start[f + 1] as number); i++) {
      const to = add(next, frames.variables[i] as number)
      frame[to] = f
      values[to] = frames.values[i] as number
    }
  return { start, frame, values }
}

/** Which of a variable's changes are kept: of each span the last. */
const lastOfSpans = (
  frame: Uint32Array,
  values: Float64Array,
  at: Float64Array,
  span: Micros,
): { frame: number[]; values: number[] } => {
  const kept = { frame: [] as number[], values: [] as number[] }
  const spanOf = (i: number) => Math.floor((at[frame[i] as number] as number) / span)
  for (let i = 0; i < frame.length; i++) {
    if (i + 1 < frame.length && spanOf(i) === spanOf(i + 1)) continue
    kept.frame.push(frame[i] as number)
    kept.values.push(values[i] as number)
  }
  return kept
}

const writeJson = (to: ByteWriter, json: unknown): void => {
  const bytes = new TextEncoder().encode(JSON.stringify(json))
  to.whole(bytes.length)
  to.raw(bytes)
}

/** A block as bytes that compress well. */
export const encodeBlock = (block: Block, thinning: Thinning = noThinning): Uint8Array => {
  const { frames, first } = block
  const { start, frame, values } = byVariable(block)
  const mostChanges = (thinning.mostHz * (block.until - block.from)) / 1e6
  const counts = new ByteWriter()
  const when = new ByteWriter()
  const columns = new ColumnWriter()
  for (let v = 0; v < first.length; v++) {
    const [from, until] = [start[v] as number, start[v + 1] as number]
    let kept: { frame: ArrayLike<number>; values: ArrayLike<number> } = {
      frame: frame.subarray(from, until),
      values: values.subarray(from, until),
    }
    if (until - from > mostChanges && !thinning.isExact(v))
      kept = lastOfSpans(frame.subarray(from, until), values.subarray(from, until), frames.at, thinning.span)
    counts.whole(kept.frame.length)
    let before = 0
    for (let i = 0; i < kept.frame.length; i++) {
      when.whole((kept.frame[i] as number) - before)
      before = kept.frame[i] as number
    }
    const column = new Float64Array(kept.values.length + 1)
    column[0] = first[v] as number
    column.set(kept.values as ArrayLike<number>, 1)
    columns.write(column)
  }
  const to = new ByteWriter()
  const { from, until, standing, texts, moments } = block
  const head = { version: VERSION, from, until, standing, texts, moments }
  writeJson(to, { ...head, variables: first.length, frames: frames.at.length })
  columns.write(frames.at)
  columns.write(frames.told)
  columns.write(frames.source)
  for (const stream of [counts, when]) {
    to.whole(stream.length)
    to.raw(stream.done())
  }
  columns.done(to)
  return to.done()
}

/** Reads a block. Throws, with the reason, where it is none. */
export const decodeBlock = (bytes: Uint8Array): Block => {
  const reader = new ByteReader(bytes)
  const head = JSON.parse(new TextDecoder().decode(reader.raw(reader.whole())))
  if (head.version !== VERSION) throw new Error(`it is of version ${head.version}, which is not known here`)
  // Each takes a byte at least: no room is made for what cannot be there.
  for (const count of [head.variables, head.frames])
    if (!(Number.isInteger(count) && count >= 0 && count <= bytes.length))
      throw new Error('it says that it has more than there is')
  const stream = () => new ByteReader(reader.raw(reader.whole()))
  const counts = stream()
  const when = stream()
  const columns = new ColumnReader(reader)
  const first = new Float64Array(head.variables)
  const columnsOf: { frame: Uint32Array; values: Float64Array }[] = []
  const perFrame = new Uint32Array(head.frames + 1)
  for (let v = 0; v < head.variables; v++) {
    const count = counts.whole()
    if (count > bytes.length) throw new Error('it says that it has more than there is')
    const frame = new Uint32Array(count)
    let before = 0
    for (let i = 0; i < count; i++) {
      before += when.whole()
      if (before >= head.frames) throw new Error('it has a change in a frame that it has not')
      frame[i] = before
      add(perFrame, before + 1)
    }
    const values = columns.read(count + 1)
    first[v] = values[0] as number
    columnsOf.push({ frame, values })
  }
  const at = columns.read(head.frames)
  const told = columns.read(head.frames)
  const source = Uint8Array.from(columns.read(head.frames))
  const start = perFrame
  for (let f = 0; f < head.frames; f++) add(start, f + 1, start[f])
  const next = start.slice()
  const variables = new Uint32Array(start[head.frames] as number)
  const values = new Float64Array(variables.length)
  for (const [v, column] of columnsOf.entries())
    for (const [i, f] of column.frame.entries()) {
      const to = add(next, f)
      variables[to] = v
      values[to] = column.values[i + 1] as number
    }
  const { from, until, standing, texts, moments } = head
  return {
    from,
    until,
    standing,
    first,
    texts,
    moments,
    frames: { at, told, source, start, variables, values },
  }
}

import { type FieldGuess, FieldHunt } from '@/core/datagrams/field-hunt'
import type { ByteOrder } from '@/core/datagrams/layout'
import type { Millis } from '@/core/units-of-measure'

/** What a hunt is told, in this order; times are the hub's. */
export type ToHunt =
  | { readonly say: 'begin'; readonly bytes: number; readonly order: ByteOrder }
  | { readonly say: 'datagram'; readonly bytes: Uint8Array; readonly at: Millis }
  | { readonly say: 'mark'; readonly at: Millis }

/** What it has found so far, after so many marks. */
export interface Found {
  readonly marks: number
  readonly guesses: readonly FieldGuess[]
}

/** What is found is worked out no more often, and takes no more than a quarter of the time. */
const EVERY_MS: Millis = 300

// A packet of many bytes may be read in so many ways that the page would stand still meanwhile.
let of: Extract<ToHunt, { say: 'begin' }> | null = null
let hunt: FieldHunt | null = null
let last: Millis = 0
let notBefore: Millis = 0

const tell = (): void => {
  const began = performance.now()
  const found: Found = { marks: hunt?.marks.length ?? 0, guesses: hunt?.guesses(last) ?? [] }
  self.postMessage(found)
  const now = performance.now()
  notBefore = now + Math.max(EVERY_MS, 3 * (now - began))
}

self.onmessage = ({ data }: MessageEvent<ToHunt>) => {
  if (data.say === 'begin') {
    of = data
    hunt = null
    tell()
    return
  }
  if (!of) return
  if (data.say === 'datagram') {
    hunt ??= new FieldHunt(of.bytes, data.at, of.order)
    hunt.take(data.bytes, data.at)
    last = data.at
    if (hunt.marks.length > 0 && performance.now() > notBefore) tell()
    return
  }
  hunt?.mark(data.at)
  tell()
}

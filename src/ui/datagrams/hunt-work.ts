import { type FieldGuess, FieldHunt } from '@/core/datagrams/field-hunt'
import type { ByteOrder } from '@/core/datagrams/layout'
import type { Millis } from '@/core/units-of-measure'
import { isOfAnotherStart } from './hub-time'

/** What a hunt is told, in this order; times are the hub's. */
export type ToHunt =
  | { readonly say: 'begin'; readonly bytes: number; readonly order: ByteOrder }
  | { readonly say: 'datagram'; readonly bytes: Uint8Array; readonly at: Millis }
  | { readonly say: 'mark'; readonly at: Millis }

/** What it has found so far, after so many marks. */
export interface Found {
  readonly marks: number
  readonly guesses: readonly FieldGuess[]
  /** Whether a datagram of the packet has come; there is nothing to mark before. */
  readonly heard: boolean
  /** It began anew by itself, as the hub's time did: what was marked before is of another time. */
  readonly anew: boolean
}

export const nothingFound: Found = { marks: 0, guesses: [], heard: false, anew: false }

/** What is found is worked out no more often, and takes no more than a quarter of the time. */
const EVERY_MS: Millis = 300

/** A hunt as it is told of datagrams and marks: says what it has found when there is something new to say. */
export class HuntWork {
  private of: Extract<ToHunt, { say: 'begin' }> | null = null
  private hunt: FieldHunt | null = null
  private last: Millis = 0
  private notBefore: Millis = 0
  private anew = false

  constructor(
    private readonly found: (found: Found) => void,
    private readonly now: () => Millis,
  ) {}

  hear(word: ToHunt): void {
    if (word.say === 'begin') {
      this.of = word
      this.hunt = null
      this.anew = false
      this.tell()
    } else if (word.say === 'mark') {
      this.hunt?.mark(word.at)
      if (this.hunt) this.anew = false
      this.tell()
    } else if (this.of) this.take(word.bytes, word.at, this.of)
  }

  private take(bytes: Uint8Array, at: Millis, { bytes: length, order }: NonNullable<typeof this.of>): void {
    if (this.hunt && isOfAnotherStart(at, this.last)) {
      this.hunt = null
      this.anew = true
    }
    const isBegun = this.hunt === null
    this.hunt ??= new FieldHunt(length, at, order)
    this.hunt.take(bytes, at)
    this.last = at
    if (isBegun || (this.hunt.marks.length > 0 && this.now() > this.notBefore)) this.tell()
  }

  private tell(): void {
    const began = this.now()
    const { hunt, anew } = this
    this.found({
      marks: hunt?.marks.length ?? 0,
      guesses: hunt?.guesses(this.last) ?? [],
      heard: hunt !== null,
      anew,
    })
    const now = this.now()
    this.notBefore = now + Math.max(EVERY_MS, 3 * (now - began))
  }
}

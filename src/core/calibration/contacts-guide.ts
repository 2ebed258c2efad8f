import type { Millis } from '../units-of-measure'
import { type Bounce, type BounceMeasure, bouncesOf, debounceFor, measureBounces, pressesOf } from './bounce'
import type { Asking, Guide, Step } from './guide'
import type { Note } from './note'
import { borderBetween } from './threshold'

/** So many movements of each contact are looked at before it is judged. */
const MOVEMENTS = 20
/** Short and long presses of which the border is found. */
const PRESSES = 8

/** Far more changes than are asked for; what is older is forgotten. */
const MOST_KEPT = 5000

/** What there is to know of the contacts of a switch. */
export interface ContactsWanted {
  /** How many contacts it has, and what they are called. */
  readonly contacts: readonly string[]
  /** A button: it is asked for presses, and for short and long ones where something tells them apart. */
  readonly momentary: boolean
  readonly long: boolean
}

export interface ContactsFound {
  readonly bounce: BounceMeasure
  readonly debounceMs: Millis
  /** The border between short and long presses, where both were made. */
  readonly longMs: Millis | null
}

/** Bounces of a button or a switch, contact by contact, and what tells a short press from a long one. */
export class ContactsGuide implements Guide {
  taken = 0
  objection: string | null = null
  private notes: Note[] = []
  private bounces: readonly (readonly Bounce[])[] = []
  private readonly all: Note[] = []
  private found: BounceMeasure | null = null
  private presses: readonly Millis[] = []
  private border: Millis | null = null

  constructor(private readonly wanted: ContactsWanted) {}

  take(notes: readonly Note[]): void {
    this.notes.push(...notes)
    this.all.push(...notes)
    if (this.all.length > MOST_KEPT) this.all.splice(0, this.all.length - MOST_KEPT)
    if (this.notes.length > MOST_KEPT) this.notes.splice(0, this.notes.length - MOST_KEPT)
  }

  pass(now: Millis): void {
    this.bounces = this.wanted.contacts.map((_, bit) => bouncesOf(this.notes, bit, now * 1000))
    if (!this.found) this.lookForBounces()
    else if (this.wanted.long && this.border === null) this.lookForPresses()
  }

  private lookForBounces(): void {
    if (this.bounces.some((b) => b.length < MOVEMENTS)) return
    this.found = measureBounces(this.bounces.flat())
    this.taken++
    this.begin()
  }

  private lookForPresses(): void {
    this.presses = pressesOf(this.bounces[0] ?? [])
    if (this.presses.length < PRESSES) return
    const border = borderBetween(this.presses)
    if (border === null) {
      this.objection = `${this.presses.length} presses, and they are all of one kind: make some shorter and some longer.`
      return
    }
    this.objection = null
    this.border = Math.min(5000, Math.max(150, Math.round(border / 10) * 10))
    this.taken++
  }

  /** What comes from here on is another step's. */
  private begin(): void {
    const last = this.notes.at(-1)
    this.notes = last ? [last] : []
    this.bounces = []
  }

  /** Every note there was, for a drawing of them. */
  get seen(): readonly Note[] {
    return this.all
  }

  /** How often each contact has moved in this step. */
  get movements(): readonly number[] {
    return this.found
      ? this.wanted.contacts.map(() => MOVEMENTS)
      : this.wanted.contacts.map((_, i) => this.bounces[i]?.length ?? 0)
  }

  /** How long presses were in the step that asks for them. */
  get lengths(): readonly Millis[] {
    return this.presses
  }

  get result(): ContactsFound | null {
    if (!this.found) return null
    return { bounce: this.found, debounceMs: debounceFor(this.found), longMs: this.border }
  }

  get isDone(): boolean {
    return this.found !== null && (!this.wanted.long || this.border !== null)
  }

  get steps(): readonly Step[] {
    const { momentary, long } = this.wanted
    return [
      {
        id: 'bounce',
        words: momentary ? 'Pressed ten times' : 'Gone through ten times',
        done: this.found !== null,
      },
      ...(long ? [{ id: 'lengths', words: 'Pressed short and long', done: this.border !== null }] : []),
    ]
  }

  get asking(): Asking {
    if (!this.found) {
      const least = Math.min(...this.movements)
      const waits = this.wanted.contacts.filter((_, i) => (this.movements[i] ?? 0) < MOVEMENTS)
      const which = this.wanted.contacts.length > 1 ? ` Still to move: ${waits.join(', ')}.` : ''
      return {
        says: this.wanted.momentary
          ? 'Press it and let it go, ten times.'
          : 'Move it through all its positions, there and back.',
        hint: `Seen so far: ${least} of ${MOVEMENTS} movements.${which}`,
        share: Math.min(1, least / MOVEMENTS),
      }
    }
    if (!this.isDone)
      return {
        says: 'Now press it short four times, and long four times.',
        hint: `Seen so far: ${this.presses.length} of ${PRESSES} presses.`,
        share: Math.min(1, this.presses.length / PRESSES),
      }
    return { says: 'It is measured.', hint: 'Its settings are set; undo takes them back.', share: null }
  }
}

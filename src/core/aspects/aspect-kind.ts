import type { z } from 'zod'
import type { ControlAspect, IndicatorAspect, PartKind } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import type { Evaluate, Wanted } from '../signal/expression/compile'
import type { ValueType } from '../signal/expression/value-type'
import type { State } from '../signal/state'
import type { Bytes } from './slot-bytes'
import type { Trial } from './trial'

/** Where an aspect hangs on its board, and what its part says of it. */
export interface Hangs {
  /** In the order of its terminals. */
  readonly places: readonly [Place, ...Place[]]
  /** The lamp hangs between a supply and its place. */
  readonly sinks: boolean
  /** What its binding says it does without a value. */
  readonly rest: string
  /** On the two-wire bus; 0 elsewhere. */
  readonly address: number
}

/** One kind of thing a board does: how it is written in a configuration and told apart. `docs/board-link.md`. */
export interface SlotKind<S> {
  readonly kind: string
  readonly code: number
  /** Its flags, and what follows the first byte. */
  write(slot: S): { readonly flags: number; readonly bytes: readonly number[] }
  read(flags: number, bytes: Bytes): S
  /** The place that is its alone where others share lines with it; its first one where this is left out. */
  ownPlace?(slot: S): Place
  /** The longest state it can be told, in bytes; left out where a state is a number. */
  longestState?(slot: S): number
  /** Bytes of a chip's memory that it works with, beyond what every slot takes; `sizeof` of its device in firmware/core. */
  worksBytes?(slot: S): number
}

/** What an indicator shows at rest, lit as far as it goes, and for a bare value that no binding shapes. */
export interface Presence {
  rest(how: string): State | null
  readonly all: State
  /** A value shown by hand. */
  bare(value: number | string): State | null
  /** Its whole range, at a share of the way. */
  sweep(share: number): State
  /**
   * Tried by itself: a needle at an angle of its dial, as near as its motor can turn (whoever sets its zero is beyond its
   * limits for a moment); a light so strong, past its curve. Null where it knows nothing of that.
   */
  trial?(trial: Trial): State | null
}

/** What shaping is compiled with. What is wrong becomes a mistake of the binding; nothing is thrown. */
export interface Shaper {
  expression(source: string | undefined, wanted: Wanted): Evaluate | null
  /** One that has no `input`. */
  aside(source: string | undefined, wanted: Wanted): Evaluate | null
  /** Whether a layer is active; null where it is not there any more. */
  layerIsActive(layerId: string): (() => boolean) | null
  say(station: 'part' | 'shaping', message: string): void
}

/** From an input to what is shown; null where it has no say. */
export type Shows = (input: number | string | null) => State | null

/**
 * All that the core knows of one kind of indicator. `B` is the schema of its bindings, `O` the settings that its part
 * has for it, where there are any.
 */
export interface IndicatorKind<A extends IndicatorAspect, B extends z.ZodType, O = undefined> {
  readonly kind: A['kind']
  /** What it is called where its part has several kinds. */
  readonly word: string
  readonly binding: B
  /** Lamps before needles before text: 0 goes first. */
  readonly priority: 0 | 1 | 2
  /** An absent input is shown as such rather than leaving the say to the next binding. */
  readonly showsAbsent: boolean
  /** What its shaping has to give. */
  readonly wanted: Wanted
  /** Its shaping gives the state as it is, without any detour; lamps are most of what a frame concerns. */
  readonly packs?: true
  /** A display has several rows, each told by itself. */
  readonly inRows?: true
  terminals(aspect: A): readonly string[]
  slot(aspect: A, hangs: Hangs, own: O | undefined): { readonly kind: string }
  /** What a new binding starts as, but for its variable. */
  fresh(aspect: A): object
  presence(aspect: A, own: O | undefined): Presence
  compile(binding: z.infer<B>, aspect: A, shaper: Shaper, own: O | undefined): Shows | null
  /** The expressions that see `input`. */
  takes(binding: z.infer<B>): readonly string[]
  /** Its one expression, or null where it has several. */
  main(binding: z.infer<B>): string | null
  /** Its shaping in short. */
  shaping(binding: z.infer<B>): string
  /** Every expression put through a change. */
  reworded(binding: z.infer<B>, change: (text: string) => string): z.infer<B>
  /** What it shows, in words short enough for a station, a table or a pin. */
  words(aspect: A, own: O | undefined, state: State): string
  /** A state as strong as the part's own curve and a dimmer (0 to 1) have it. */
  lit?(state: State, dimmed: number, own: O | undefined): State
  /** Whether the part's own settings change what it shines as. */
  isCurved?(own: O | undefined): boolean
  /** What of a shown state cannot be seen, in words, or null. */
  hides?(aspect: A, binding: z.infer<B>, state: State): string | null
}

/** What a control says of itself, as far as words and values need it. */
export interface Stands {
  readonly raw: number | null
  readonly position: string | null
  readonly contradiction: boolean
  readonly output: number | null
  readonly clicks: number
  /** What a position is called on this part. */
  readonly label: (position: string) => string
}

/** All that the core knows of one kind of control. */
export interface ControlKind<A extends ControlAspect, O extends z.ZodType> {
  readonly kind: A['kind']
  readonly word: string
  /** Settings that its part has for it. */
  readonly own: O
  terminals(aspect: A, kind: PartKind): readonly string[]
  slot(aspect: A, hangs: Hangs, own: z.infer<O> | undefined): { readonly kind: string }
  /** When a new binding acts, and with what value. */
  fresh(aspect: A): { readonly when: string; readonly value: string | null }
  /** Whether a binding of it can act at such a moment. */
  does(when: string): boolean
  /** Whether expressions can read where it stands. */
  readonly isReadable: boolean
  /** What it stands at, as expressions see it. */
  type(aspect: A, own: z.infer<O> | undefined): ValueType
  value(aspect: A, stands: Stands): number | string | null
  words(aspect: A, stands: Stands): string
  /** What its pins say. */
  pinWords(aspect: A, raw: number, pins: readonly string[]): string
  /** By how much what its pins tell may go to and fro without a hand. */
  unrest(aspect: A): number
}

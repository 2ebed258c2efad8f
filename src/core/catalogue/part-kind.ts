import type { Degrees, Milliamps, Millimetres, Volts } from '../units-of-measure'
import type { Mount } from './mount'

/** A point of a part where a wire ends, in plain words. */
export interface Terminal {
  readonly id: string
  readonly name: string
  /** Where it goes as a rule, or when it is closed: for who solders it. */
  readonly hint?: string
  readonly role:
    | 'contact'
    | 'common'
    | 'wiper'
    | 'lamp-plus'
    | 'lamp-minus'
    /** Driven by the board: data, clock, select, a motor's phase, a servo's pulse. */
    | 'drive'
    | 'two-wire-data'
    | 'two-wire-clock'
    | 'plus'
    | 'ground'
    /** What a chip tells the board: its data out, or the common end of its channels. */
    | 'signal'
  /** What its pin has to be able to do beyond what its role asks for. */
  readonly needs?: 'steps' | 'frequency' | 'pwm'
  /** Leads of the same line may hang on one pin: clock, data or address lines that several chips listen to. */
  readonly shares?: string
}

/** A place the moving part of a control can rest in, and what its wires do there. */
export interface Position {
  readonly id: string
  /** Contact terminals that are closed here. */
  readonly closes: readonly string[]
  /** On a resistor ladder: the share of the supply that the wiper stands at, 0 to 1. */
  readonly level?: number
}

/** A switch of any kind: it rests in one of its positions. */
export interface PositionsAspect {
  readonly kind: 'positions'
  readonly id: string
  readonly positions: readonly [Position, ...Position[]]
  /** Returns to its first position when let go. */
  readonly momentary: boolean
  readonly debounceMs: number
  /** No contact is closed on the way from one position to the next; that is no position of its own. */
  readonly gap?: boolean
  /** It is no switch for a hand, but the sensor that sees this needle at its zero. */
  readonly senses?: string
  /** The analog terminal of a switch that is one resistor ladder; its positions have levels. */
  readonly wiper?: string
}

/** A knob that turns without end and tells clicks. */
export interface EncoderAspect {
  readonly kind: 'encoder'
  readonly id: string
  readonly a: string
  readonly b: string
  /** Contact changes from one click to the next, where the maker says so; the part's settings may differ. */
  readonly changesPerClick: 1 | 2 | 4
}

/** A lever or pot: a wiper somewhere along its travel. */
export interface TravelAspect {
  readonly kind: 'travel'
  readonly id: string
  readonly wiper: string
}

export interface LampAspect {
  readonly kind: 'lamp'
  readonly id: string
  readonly terminal: string
}

export type DigitDriver = 'MAX7219' | 'TM1637'

/** Seven-segment digits behind a driver chip. */
export interface DigitsAspect {
  readonly kind: 'digits'
  readonly id: string
  readonly driver: DigitDriver
  readonly digits: number
  readonly terminals: readonly string[]
}

/** Lines of characters. */
export interface TextAspect {
  readonly kind: 'text'
  readonly id: string
  readonly columns: number
  readonly rows: number
  /** On the two-wire bus, or on six lines of its own. */
  readonly bus: 'two-wire' | 'parallel'
  readonly terminals: readonly string[]
}

export type NeedleDrive = 'four-wire' | 'servo' | 'frequency' | 'voltage'

/** A needle on a four-wire gauge motor or a servo, or of an instrument that counts pulses or is driven by a voltage. */
export interface NeedleAspect {
  readonly kind: 'needle'
  readonly id: string
  readonly drive: NeedleDrive
  readonly terminals: readonly string[]
  /** The terminal of a sensor that sees it at its zero, of a motor on four leads that has no stop. */
  readonly sensor?: string
  /** How far the motor itself can turn, and how fast at most; of one that counts pulses, how many a second turn it all the way. */
  readonly travelDeg: Degrees
  readonly degPerS: number
}

/** One RGB lamp, or a strip of them on one data line. */
export interface ColourAspect {
  readonly kind: 'colour'
  readonly id: string
  readonly lamps: number
  readonly terminals: readonly string[]
}

export type ControlAspect = PositionsAspect | EncoderAspect | TravelAspect
export type IndicatorAspect = LampAspect | DigitsAspect | TextAspect | NeedleAspect | ColourAspect

/** Something of a part that can be bound. One housing may hold several. */
export type Aspect = ControlAspect | IndicatorAspect

/** How the front is drawn; every look is one component that comes alive. */
export type Look =
  | { readonly look: 'lever'; readonly travelMm: Millimetres; readonly knobMm: Millimetres }
  | { readonly look: 'toggle'; readonly bushMm: Millimetres; readonly guarded?: boolean }
  | {
      readonly look: 'button'
      readonly capMm: Millimetres
      readonly bezelMm: Millimetres
      readonly colour: CapColour
      /** A field in the cap that lights. */
      readonly light?: LampColour
    }
  | { readonly look: 'lamp'; readonly lensMm: Millimetres; readonly colour: LampColour }
  | {
      readonly look: 'legend-lamp'
      readonly widthMm: Millimetres
      readonly heightMm: Millimetres
      readonly colour: LampColour
    }
  | { readonly look: 'knob'; readonly outerMm: Millimetres; readonly innerMm: Millimetres | null }
  | { readonly look: 'rotary'; readonly knobMm: Millimetres; readonly stepDeg: Degrees }
  | { readonly look: 'hat'; readonly capMm: Millimetres; readonly bezelMm: Millimetres }
  | { readonly look: 'slide'; readonly slotMm: Millimetres; readonly capMm: Millimetres }
  | { readonly look: 'pot'; readonly knobMm: Millimetres }
  | {
      readonly look: 'digits'
      readonly digits: number
      /** From one digit to the next, how high one is, and the glass before them. */
      readonly digitMm: Millimetres
      readonly highMm: Millimetres
      readonly glassMm: readonly [width: Millimetres, height: Millimetres]
    }
  | { readonly look: 'text'; readonly columns: number; readonly rows: number }
  | { readonly look: 'gauge'; readonly dialMm: Millimetres }
  | { readonly look: 'colour-lamp'; readonly lensMm: Millimetres }
  | { readonly look: 'strip'; readonly lamps: number; readonly pitchMm: Millimetres }
  | { readonly look: 'screen'; readonly widthMm: Millimetres; readonly heightMm: Millimetres }
  | { readonly look: 'connector'; readonly shellMm: Millimetres; readonly contacts: number }
  | { readonly look: 'screw'; readonly headMm: Millimetres }

export type LampColour = 'green' | 'amber' | 'red' | 'white' | 'blue'
export type CapColour = 'red' | 'grey' | 'black'

/** What a part may be exchanged for: any other of its family. */
export type Family =
  | 'button'
  | 'toggle'
  | 'rotary'
  | 'encoder'
  | 'lever'
  | 'lamp'
  | 'digits'
  | 'text'
  | 'gauge'
  | 'colour'
  | 'screen'
  | 'connector'
  | 'screw'
  | 'sounder'

/** What a part with a supply, or the coils of a motor, take: in everyday use, and with everything lit or stalled. */
export interface Draw {
  readonly typicalMa: Milliamps
  readonly mostMa: Milliamps
}

export interface PartKind {
  readonly id: string
  readonly name: string
  readonly front: Look
  /** The module it is for, as it is sold. */
  readonly module?: string
  /** Where what is sold differs from maker to maker: in what. */
  readonly varies?: string
  /** Width and height of what is seen from the front, centred on the part. */
  readonly frontMm: { readonly width: Millimetres; readonly height: Millimetres }
  readonly mount: Mount
  /** As makers' sheets usually give it. */
  readonly draws?: Draw
  readonly family: Family
  readonly terminals: readonly Terminal[]
  readonly aspects: readonly Aspect[]
  /** What it works from at its supply. */
  readonly volts?: { readonly least: Volts; readonly most: Volts }
  /** What its lines take for high, where that is no share of its supply. */
  readonly highVolts?: Volts
  /** A lamp's own values, for its series resistor. */
  readonly electrical?: {
    readonly forwardVolts: number
    readonly milliamps: number
    /** A coil: it gives current back when it is switched off. */
    readonly inductive?: boolean
  }
  /** On the two-wire bus: the first address, how many its jumpers choose from, and which it comes with. */
  readonly addresses?: { readonly first: number; readonly count: number; readonly asMade: number }
}

export const isControl = (a: Aspect): a is ControlAspect =>
  a.kind === 'positions' || a.kind === 'encoder' || a.kind === 'travel'

export const isIndicator = (a: Aspect): a is IndicatorAspect => !isControl(a)

export const positionsAspect = (kind: PartKind): PositionsAspect | undefined =>
  kind.aspects.find((a): a is PositionsAspect => a.kind === 'positions')

/** Angle of a rotary switch's position: they lie evenly on both sides of straight up. */
export const rotaryDeg = (count: number, at: number, stepDeg: Degrees): Degrees =>
  (at - (count - 1) / 2) * stepDeg

export const aspectOf = (kind: PartKind, id: string | undefined): Aspect | undefined =>
  kind.aspects.find((a) => a.id === id)

/** The position in which just these contacts are closed; undefined between two; null when they contradict each other. */
export const positionOf = (
  aspect: PositionsAspect,
  terminals: readonly string[],
  bits: number,
): string | null | undefined => {
  const found = aspect.positions.find((p) => bitsOf(p, terminals) === bits)
  if (found) return found.id
  return aspect.gap && bits === 0 ? undefined : null
}

/** The contacts closed in a position, first terminal lowest. */
const bitsOf = (position: Position, terminals: readonly string[]): number => {
  let bits = 0
  for (const terminal of position.closes) bits |= 1 << terminals.indexOf(terminal)
  return bits
}

/**
 * The position of a resistor ladder whose level is nearest; undefined half-way between two, as when it floats. `measured`
 * has the levels at which this very one stands.
 */
export const positionAtLevel = (
  aspect: PositionsAspect,
  level: number,
  measured: Readonly<Record<string, number>> = {},
): string | undefined => {
  const levelOf = (p: Position) => measured[p.id] ?? p.level ?? 0
  const levels = aspect.positions.map(levelOf).sort((a, b) => a - b)
  const steps = levels.slice(1).map((l, i) => l - (levels[i] ?? 0))
  const reach = Math.min(...steps) * 0.4
  return aspect.positions.find((p) => Math.abs(levelOf(p) - level) <= reach)?.id
}

import type { Millimetres } from '../units-of-measure'

/** A point of a part where a wire ends, in plain words. */
export interface Terminal {
  readonly id: string
  readonly name: string
  readonly role: 'contact' | 'common' | 'lamp-plus' | 'lamp-minus'
}

/** A place the moving part of a control can rest in, and the contact terminals that are closed there. */
export interface Position {
  readonly id: string
  readonly closes: readonly string[]
}

/** Something of a part that can be bound. One housing may hold several. */
export type Aspect =
  | {
      readonly kind: 'positions'
      readonly id: string
      readonly positions: readonly [Position, ...Position[]]
      /** Returns to its first position when let go. */
      readonly momentary: boolean
      readonly debounceMs: number
    }
  | { readonly kind: 'lamp'; readonly id: string; readonly terminal: string }

/** How the front is drawn; every look is one component that comes alive. */
export type Look =
  | { readonly look: 'lever'; readonly travelMm: Millimetres; readonly knobMm: Millimetres }
  | { readonly look: 'toggle'; readonly bushMm: Millimetres }
  | {
      readonly look: 'button'
      readonly capMm: Millimetres
      readonly bezelMm: Millimetres
      readonly colour: CapColour
    }
  | { readonly look: 'lamp'; readonly lensMm: Millimetres; readonly colour: LampColour }

export type LampColour = 'green' | 'amber' | 'red' | 'white' | 'blue'
export type CapColour = 'red' | 'grey' | 'black'

export interface PartKind {
  readonly id: string
  readonly name: string
  readonly front: Look
  /** Width and height of what is seen from the front, centred on the part. */
  readonly frontMm: { readonly width: Millimetres; readonly height: Millimetres }
  readonly terminals: readonly Terminal[]
  readonly aspects: readonly Aspect[]
  readonly electrical?: { readonly forwardVolts: number; readonly milliamps: number }
}

export type PositionsAspect = Extract<Aspect, { kind: 'positions' }>
export type LampAspect = Extract<Aspect, { kind: 'lamp' }>

export const positionsAspect = (kind: PartKind): PositionsAspect | undefined =>
  kind.aspects.find((a): a is PositionsAspect => a.kind === 'positions')

export const lampAspect = (kind: PartKind): LampAspect | undefined =>
  kind.aspects.find((a): a is LampAspect => a.kind === 'lamp')

/** The contact terminals of a positions aspect, in the order in which a board reports them as bits. */
export const contactTerminals = (kind: PartKind): string[] =>
  kind.terminals.filter((t) => t.role === 'contact').map((t) => t.id)

import type { Contour, Point } from '../geometry/contour'
import type { Degrees } from '../units-of-measure'
import type { LeftOut } from './left-out'

/** The largest file that is read; drawings of panels are a hundredth of it. */
export const MOST_BYTES = 8_000_000
/** The most things that are read from one file, repeated ones counted each time. */
export const MOST_THINGS = 100_000
/** How deep groups and blocks may lie within each other. */
export const MOST_DEPTH = 60

/** A line of a file, in the file's own numbers with y downwards, on the layer it had there. */
export interface FoundLine {
  readonly contour: Contour
  readonly layer: string
}

/** Words of a file that are letters there, not outlines. */
export interface FoundLetters {
  readonly text: string
  /** Where their base line begins, is halved or ends. */
  readonly at: Point
  /** Height of a capital, in the file's own numbers. */
  readonly capHeight: number
  readonly deg: Degrees
  readonly anchor: 'start' | 'middle' | 'end'
  readonly layer: string
}

/** How the program that wrote the file keeps a layer from being seen or made. */
export type Unseen = 'off' | 'frozen' | 'not plotted' | 'hidden'

export interface FoundLayer {
  readonly name: string
  readonly unseen: Unseen | null
}

/** What was read from a drawing made elsewhere, or by Clavik. */
export interface Drawing {
  readonly lines: readonly FoundLine[]
  readonly letters: readonly FoundLetters[]
  /** Every layer on which something was found, in the order of the file. */
  readonly layers: readonly FoundLayer[]
  readonly left: readonly LeftOut[]
  /** What one of the file's numbers measures, in millimetres; null when the file does not say. */
  readonly unitMm: number | null
  /** The same where its size is meant in pixels of 1/96 inch; null for files that have none. */
  readonly pixelMm: number | null
}

export type ReadDrawing = Drawing | { readonly problem: string }

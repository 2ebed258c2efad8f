import type { Firing, Gesture } from '../units'

/** Something a control has still to do, at its time, unless the hand or an edit has called it off. */
export type Later =
  | {
      readonly is: 'gesture'
      readonly gesture: Gesture
      readonly token: number
      readonly again: boolean
    }
  | {
      readonly is: 'sequence'
      readonly gesture: Gesture
      readonly token: number
      readonly firing: Firing
      readonly times: number
      readonly next: number
    }

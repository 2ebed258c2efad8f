import type { PartKind } from './part-kind'
import { greyButton, litButtons, redButton } from './parts/button'
import { colourLamp, strips } from './parts/colour'
import { digitWindows } from './parts/digit-window'
import { dualEncoder, encoder, pushEncoder } from './parts/encoder'
import { gauges } from './parts/gauge'
import { lamps } from './parts/lamp'
import { pot, slideLever } from './parts/lever'
import { ladders, rotaries } from './parts/rotary'
import { textDisplays } from './parts/text-display'
import { springToggle, toggle, toggleThree } from './parts/toggle'
import { wheelLever } from './parts/wheel-lever'

/** Every kind of part there is. */
export const partKinds: readonly PartKind[] = [
  wheelLever,
  toggle,
  toggleThree,
  springToggle,
  redButton,
  greyButton,
  ...litButtons,
  ...lamps,
  encoder,
  pushEncoder,
  dualEncoder,
  ...rotaries,
  ...ladders,
  slideLever,
  pot,
  ...digitWindows,
  ...textDisplays,
  ...gauges,
  colourLamp,
  ...strips,
]
const byId = new Map(partKinds.map((k) => [k.id, k]))

/** The catalogue's record of a kind of part, or undefined for one this Clavik does not know. */
export const partKind = (id: string): PartKind | undefined => byId.get(id)

import type { PartKind } from './part-kind'
import { buttons, litButtons } from './parts/button'
import { colourLamp, strips } from './parts/colour'
import { digitWindows } from './parts/digit-window'
import { dualEncoder, dualPushEncoder, encoder, pushEncoder } from './parts/encoder'
import { connectors, screws } from './parts/fixing'
import { gauges } from './parts/gauge'
import { thumbHat } from './parts/hat'
import { lamps, legendLamps } from './parts/lamp'
import { pot, slideLever, slidePots } from './parts/lever'
import { ladders, rotaries } from './parts/rotary'
import { screens } from './parts/screen'
import { buzzer, relay } from './parts/sounder'
import { textDisplays } from './parts/text-display'
import { changeover, guardedToggle, springToggle, toggle, toggleThree } from './parts/toggle'
import { wheelLever } from './parts/wheel-lever'

/** Every kind of part there is. */
export const partKinds: readonly PartKind[] = [
  wheelLever,
  toggle,
  changeover,
  toggleThree,
  springToggle,
  guardedToggle,
  ...buttons,
  ...litButtons,
  ...lamps,
  ...legendLamps,
  encoder,
  pushEncoder,
  dualEncoder,
  dualPushEncoder,
  ...rotaries,
  thumbHat,
  ...ladders,
  slideLever,
  ...slidePots,
  pot,
  ...digitWindows,
  ...textDisplays,
  ...gauges,
  colourLamp,
  ...strips,
  buzzer,
  relay,
  ...screens,
  ...connectors,
  ...screws,
]
const byId = new Map(partKinds.map((k) => [k.id, k]))

/** The catalogue's record of a kind of part, or undefined for one this Clavik does not know. */
export const partKind = (id: string): PartKind | undefined => byId.get(id)

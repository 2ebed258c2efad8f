import type { ExpanderKind } from './expander-kind'
import { bss138 } from './expanders/bss138'
import { hc165 } from './expanders/hc165'
import { hc595 } from './expanders/hc595'
import { hct245 } from './expanders/hct245'
import { mcp23017 } from './expanders/mcp23017'
import { motorDriver4 } from './expanders/motor-driver-4'
import { mux16 } from './expanders/mux-16'
import { pca9685 } from './expanders/pca9685'
import { tlc5940 } from './expanders/tlc5940'
import { uln2803 } from './expanders/uln2803'

/** Every kind of expander there is, in the order in which they are offered. */
export const expanderKinds: readonly ExpanderKind[] = [
  mux16,
  hc165,
  hc595,
  mcp23017,
  tlc5940,
  pca9685,
  motorDriver4,
  uln2803,
  hct245,
  bss138,
]
const byId = new Map(expanderKinds.map((k) => [k.id, k]))

const byCode = new Map(expanderKinds.map((k) => [k.code, k]))

/** The kind with this code in a configuration, or undefined. */
export const expanderKindOfCode = (code: number): ExpanderKind | undefined => byCode.get(code)

/** The catalogue's record of a kind of expander, or undefined for one this Clavik does not know. */
export const expanderKind = (id: string): ExpanderKind | undefined => byId.get(id)

/** The channels of a chip or chain of them. */
export const channelsOf = (kind: ExpanderKind, chips: number): number => kind.channelsPerChip * chips

/** What a channel is called: the chip within the chain and the channel on it, counted from 1 as on the drawing. */
export const channelName = (kind: ExpanderKind, channel: number): string => {
  const on = channel % kind.channelsPerChip
  // As the input that it follows.
  if (kind.follows) return `${on + 1}`
  if (kind.mostChips === 1) return `${on}`
  return `${Math.floor(channel / kind.channelsPerChip) + 1}.${on}`
}

import { positionAtLevel, positionOf } from '../core/catalogue/part-kind'
import type { Engine } from '../core/engine/engine'
import { type ControlUnit, type IndicatorUnit, type PartUnit, standing } from '../core/engine/units'
import { ownPlace } from '../core/harness/slot'
import { isWired } from '../core/harness/wiring'
import type { AspectLive, PartLive } from '../core/live/feed'
import type { HandClient } from './hand-client'

const identityOf = (engine: Engine, seat: ControlUnit | IndicatorUnit): string =>
  isWired(seat.wiring) ? (engine.rig.board[seat.wiring.boardId]?.identity ?? '') : ''

/** Where the hand has put a simulated control. */
const handOn = (engine: Engine, hands: HandClient, control: ControlUnit): number | string | null => {
  const { aspect, wiring } = control
  if (!isWired(wiring)) return null
  const identity = identityOf(engine, control)
  const { slot } = wiring
  if (slot.kind === 'contacts' && aspect.kind === 'positions') {
    const closed = hands.closed.get(identity)
    if (!closed) return null
    const bits = slot.pins.reduce((b, pin, i) => b | (closed.has(pin) ? 1 << i : 0), 0)
    return positionOf(aspect, control.terminals, bits) ?? null
  }
  if (slot.kind !== 'analog') return null
  const level = hands.wipers.get(identity)?.get(slot.pin) ?? (hands.wipers.has(identity) ? 0 : null)
  if (level === null) return null
  if (aspect.kind === 'positions') return positionAtLevel(aspect, level) ?? null
  return level
}

/** What the meter on its pins reads. */
const metered = (engine: Engine, hands: HandClient, indicator: IndicatorUnit): number | string | null => {
  const { wiring } = indicator
  if (!isWired(wiring)) return null
  const from = wiring.slot.kind === 'lamp' ? hands.levels : hands.shows
  return from.get(identityOf(engine, indicator))?.get(ownPlace(wiring.slot)) ?? null
}

/** What a part is doing now: as its board told it, and as a meter on its simulated pins has it. Hands that are played are on no pins. */
export const partLive = (engine: Engine, hands: HandClient, unit: PartUnit, played: boolean): PartLive => {
  const aspects: Record<string, AspectLive> = {}
  for (const control of unit.controls) {
    const told = control.aspect.kind === 'positions' ? control.position : standing(control)
    aspects[control.aspect.id] = { told, metered: played ? null : handOn(engine, hands, control) }
  }
  for (const indicator of unit.indicators) {
    const told = indicator.shown === -1 ? null : indicator.shown
    aspects[indicator.aspect.id] = { told, metered: metered(engine, hands, indicator) }
  }
  const exercised = unit.indicators.some((i) => i.exercise !== null)
  return { aspects, exercised }
}

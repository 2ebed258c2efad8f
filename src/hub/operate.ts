import type { Engine } from '../core/engine/engine'
import { isWired } from '../core/harness/configuration'
import type { HandClient } from './hand-client'

/** Moves the contacts of a simulated part, as a finger on the panel would; or says why that cannot be. */
export const operate = (
  engine: Engine,
  hands: HandClient,
  partId: string,
  position: string,
): string | null => {
  const unit = engine.units.get(partId)
  const goal = unit?.aspect?.positions.find((p) => p.id === position)
  if (!unit || !goal) return null
  if (!isWired(unit.wiring)) {
    return `${unit.part.name} moves nothing: ${unit.wiring.message}.`
  }
  const identity = engine.rig.board[unit.wiring.boardId]?.identity ?? ''
  if (!hands.closed.has(identity)) {
    return `${unit.part.name} cannot be moved on screen: its board is not a simulated one, or is away.`
  }
  const { slot } = unit.wiring
  if (slot.kind !== 'contacts') return null
  const contacts = slot.pins.map((pin, i) => ({
    pin,
    closed: goal.closes.includes(unit.terminals[i] ?? ''),
  }))
  // A contact opens before the next one closes.
  hands.move(
    identity,
    contacts.sort((a, b) => Number(a.closed) - Number(b.closed)),
  )
  return null
}

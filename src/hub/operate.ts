import type { Engine } from '../core/engine/engine'
import type { ControlUnit } from '../core/engine/units'
import { isWired } from '../core/harness/wiring'
import type { Movement } from '../core/live/feed'
import { natureOf } from '../core/rig/part-settings'
import type { ToStandins } from '../links/hand-link'
import type { HandClient } from './hand-client'
import type { TouchLine } from './lines/touch-line'

/** Moves a simulated part, as a hand on the panel would; or says why that cannot be. */
export const operate = (
  engine: Engine,
  hands: HandClient,
  partId: string,
  aspectId: string,
  movement: Movement,
  /** The line of fingers on a screen, where they are the board with this identity. */
  fingers: (identity: string) => TouchLine | null = () => null,
): string | null => {
  const unit = engine.units.get(partId)
  const control = unit?.controls.find((c) => c.aspect.id === aspectId)
  if (!unit || !control) return null
  if (!isWired(control.wiring)) {
    return `${unit.part.name} moves nothing: ${control.wiring.message}.`
  }
  const identity = engine.rig.board[control.wiring.boardId]?.identity ?? ''
  const line = fingers(identity)
  if (line) {
    for (const m of movements(control, identity, movement)) line.moved(m)
    return null
  }
  if (!hands.closed.has(identity)) {
    return `${unit.part.name} cannot be moved on screen: its board is not a simulated one, or is away.`
  }
  for (const message of movements(control, identity, movement)) hands.send(message)
  return null
}

type Moved = Extract<ToStandins, { say: 'move' | 'slide' | 'turn' }>

const movements = (control: ControlUnit, identity: string, movement: Movement): Moved[] => {
  const { aspect, wiring } = control
  const slot = isWired(wiring) ? wiring.slot : null
  if (aspect.kind === 'positions' && movement.to === 'position' && slot) {
    const goal = aspect.positions.find((p) => p.id === movement.position)
    if (!goal) return []
    if (slot.kind === 'analog') return [{ say: 'slide', identity, pin: slot.pin, level: goal.level ?? 0 }]
    if (slot.kind !== 'contacts') return []
    const contacts = slot.pins.map((pin, i) => ({
      pin,
      closed: goal.closes.includes(control.terminals[i] ?? ''),
    }))
    // A contact opens before the next one closes.
    contacts.sort((a, b) => Number(a.closed) - Number(b.closed))
    return [{ say: 'move', identity, contacts }]
  }
  if (aspect.kind === 'encoder' && movement.to === 'turn' && slot?.kind === 'encoder') {
    // How many changes a click is, and which way, is the part's nature, whatever its settings say.
    const really = natureOf(control.unit.part.settings, aspect.id, 'encoder')
    const [a = 0, b = 0] = slot.pins
    const per = really?.changesPerClick ?? aspect.changesPerClick
    const changes = movement.clicks * per * (really?.reverse ? -1 : 1)
    return [{ say: 'turn', identity, pins: [a, b], changes }]
  }
  if (aspect.kind === 'travel' && movement.to === 'slide' && slot?.kind === 'analog') {
    return [{ say: 'slide', identity, pin: slot.pin, level: movement.level, glides: true }]
  }
  return []
}

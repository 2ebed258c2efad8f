import type { Engine } from '../core/engine/engine'
import { pinsOf } from '../core/harness/slot'
import { isWired } from '../core/harness/wiring'
import type { HandClient } from './hand-client'

/** Where each terminal of some controls hangs: a board's identity and a place on it. */
export type Hanging = ReadonlyMap<
  string,
  { readonly identity: string; readonly place: number; readonly analog: boolean }
>

/** Where the terminals of these parts' controls hang now. */
export const hangingOf = (engine: Engine, partIds: Iterable<string>): Hanging => {
  const found = new Map<string, { identity: string; place: number; analog: boolean }>()
  for (const id of partIds) {
    for (const { wiring, terminals } of engine.units.get(id)?.controls ?? []) {
      if (!isWired(wiring)) continue
      const identity = engine.rig.board[wiring.boardId]?.identity
      if (!identity) continue
      const analog = wiring.slot.kind === 'analog'
      for (const [i, place] of pinsOf(wiring.slot).entries())
        found.set(`${id} ${terminals[i] ?? ''}`, { identity, place, analog })
    }
  }
  return found
}

/**
 * When a wire is drawn to another place, the simulated part goes with it: a switch that was on stays on, wherever its
 * contact hangs now.
 */
export const resolder = (hands: HandClient, before: Hanging, after: Hanging): void => {
  const moves: { identity: string; pin: number; closed: boolean }[] = []
  const slides: { identity: string; pin: number; level: number }[] = []
  for (const [terminal, was] of before) {
    const now = after.get(terminal)
    if (now && now.identity === was.identity && now.place === was.place) continue
    if (was.analog) {
      const level = hands.wipers.get(was.identity)?.get(was.place)
      if (now && level !== undefined) slides.push({ identity: now.identity, pin: now.place, level })
      continue
    }
    const closed = hands.closed.get(was.identity)?.has(was.place) ?? false
    moves.push({ identity: was.identity, pin: was.place, closed: false })
    if (now) moves.push({ identity: now.identity, pin: now.place, closed })
  }
  // What goes to a place counts for more than what leaves it.
  const last = new Map(moves.filter((m) => !m.closed).map((m) => [`${m.identity} ${m.pin}`, m]))
  for (const m of moves) if (m.closed) last.set(`${m.identity} ${m.pin}`, m)
  for (const { identity, pin, closed } of last.values())
    hands.send({ say: 'move', identity, contacts: [{ pin, closed }] })
  for (const s of slides) hands.send({ say: 'slide', ...s })
}

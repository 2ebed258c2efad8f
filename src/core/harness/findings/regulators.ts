import { modelOf } from '../../catalogue/own-board'
import { changeRow } from '../../rig/edit'
import { type Rig, rowsOf } from '../../rig/rig'
import type { Milliamps } from '../../units-of-measure'
import { loadsOf } from '../loads'
import { changed, type HarnessFinding } from './finding'

/** What a board's 5 V contact stands when they come from outside. */
const PLAIN = { least: 4.75, most: 5.3 }

const ma = (milliamps: Milliamps): string => `${Math.round(milliamps)} mA`

/** Boards that a supply feeds through their regulator: whether its volts suit it, and whether it gets too hot. */
export const regulators = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'board').flatMap((board): HarnessFinding[] => {
    const model = modelOf(board)
    const supply = rig.supply[board.supplyId ?? '']
    const load = loadsOf(rig).boards.get(board.id)
    if (!model || !supply || !load || (supply.volts >= PLAIN.least && supply.volts <= PLAIN.most)) return []
    const say = (id: string, words: string): HarnessFinding => ({
      id: `regulator ${board.id} ${id}`,
      kind: 'regulator',
      words,
      place: { partIds: [], leadIds: [], boardId: board.id, supplyId: supply.id },
      cure: cureFor(rig, board.id),
    })
    const { regulator } = model
    if (!regulator)
      return [
        say('none', `${supply.name} gives ${supply.volts} V; ${board.name} takes 5 V and nothing else.`),
      ]
    const { least, most } = regulator.volts
    if (supply.volts < least || supply.volts > most)
      return [
        say(
          'volts',
          `${supply.name} gives ${supply.volts} V; ${regulator.contact} of ${board.name} takes ${least} to ${most} V, its 5 V contact 5 V.`,
        ),
      ]
    // A linear regulator turns into heat what is above 5 V, times all that flows.
    const watts = ((supply.volts - 5) * load.total.typical) / 1000
    if (load.total.most > regulator.milliamps)
      return [
        say(
          'current',
          `${board.name} and what hangs on it take ${ma(load.total.most)} at most; its regulator at ${regulator.contact} gives ${ma(regulator.milliamps)}.`,
        ),
      ]
    if (watts <= regulator.watts) return []
    return [
      say(
        'heat',
        `From ${supply.volts} V, the regulator of ${board.name} turns ${watts.toFixed(1)} W into heat in everyday use (${supply.volts} V − 5 V, times ${ma(load.total.typical)}); it can be rid of ${regulator.watts} W, and then switches off.`,
      ),
    ]
  })

/** From a supply of 5 V that is there, or by its own cable again. */
const cureFor = (rig: Rig, boardId: string): HarnessFinding['cure'] => {
  const board = rig.board[boardId]
  const load = loadsOf(rig).boards.get(boardId)
  if (!board || !load) return null
  const { supplies } = loadsOf(rig)
  const plain = rowsOf(rig, 'supply').find(
    (s) =>
      s.volts >= PLAIN.least &&
      s.volts <= PLAIN.most &&
      s.groundJoined &&
      s.maxMilliamps - (supplies.get(s.id)?.most ?? 0) >= load.total.most,
  )
  return {
    words: plain ? `Feed it from ${plain.name}` : 'Feed it by its own cable',
    changes: () => changed(changeRow('board', board, { ...board, supplyId: plain?.id ?? null })),
  }
}

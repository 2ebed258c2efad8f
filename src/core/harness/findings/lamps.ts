import { expanderKind } from '../../catalogue/expanders'
import { changeRow } from '../../rig/edit'
import { type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, PartRow } from '../../rig/rows'
import { throughArray } from '../between'
import { type LampCircuit, lampCircuit, resistorChange } from '../lamp-circuit'
import { resistorSize, resistorWatts, USUAL_WATTS, wattWords } from '../resistor-heat'
import { seriesOhms } from '../series-resistor'
import { changed, type HarnessFinding } from './finding'

const ma = (milliamps: number): string => `${Number(milliamps.toFixed(milliamps < 10 ? 1 : 0))} mA`

/** A resistor lets up to so much more than the lamp's current through before it is called wrong, and at least so little. */
const MOST = 1.25
const LEAST = 0.15

const lampsOf = (rig: Rig): { part: PartRow; lamp: LampCircuit }[] =>
  rowsOf(rig, 'part').flatMap((part) => {
    const lamp = lampCircuit(rig, part)
    return lamp ? [{ part, lamp }] : []
  })

const boardOf = (rig: Rig, lamp: LampCircuit): BoardRow | undefined =>
  rig.board[lamp.expander?.boardId ?? lamp.driven.boardId ?? '']

/** Lamps without a series resistor, with the wrong one, or on a supply that cannot light them. */
export const resistors = (rig: Rig): HarnessFinding[] =>
  lampsOf(rig).flatMap(({ part, lamp }): HarnessFinding[] => {
    if (lamp.held || lamp.inductive || lamp.volts === 0) return []
    const place = { partIds: [part.id], leadIds: [lamp.driven.id], boardId: lamp.driven.boardId ?? undefined }
    const right = seriesOhms(lamp.volts, lamp.forwardVolts, lamp.rated)
    if (right === null) {
      const words = `“${part.name}” needs ${lamp.forwardVolts} V to light; ${lamp.volts} V leave nothing for its resistor, so it stays dark or flickers.`
      const board = boardOf(rig, lamp)
      const cure = board && {
        words: 'Light it through a ULN2803 from more volts',
        changes: (id: () => string) => throughArray(rig, part, board, lamp, id),
      }
      return [{ id: `voltage ${part.id}`, kind: 'voltage', words, place, cure: cure ?? null }]
    }
    const ohms = part.settings.seriesOhms
    const cure = {
      words: `Give it ${right} Ω`,
      changes: () => changed(resistorChange(rig, part.id, right)),
    }
    const fed =
      lamp.dropVolts > 0 ? `${lamp.volts + lamp.dropVolts} V − ${lamp.dropVolts} V` : `${lamp.volts} V`
    const sum = `(${fed} − ${lamp.forwardVolts} V) / ${ma(lamp.rated)}, next E12 value: ${right} Ω`
    if (ohms === undefined) {
      const words = `“${part.name}” has no series resistor: it takes more current than it or its pin can stand. ${sum}.`
      return [{ id: `resistor ${part.id}`, kind: 'resistor', words, place, cure }]
    }
    if (lamp.milliamps > lamp.rated * MOST) {
      const words = `With ${ohms} Ω, ${ma(lamp.milliamps)} flow through “${part.name}”, which is made for ${ma(lamp.rated)}. ${sum}.`
      return [{ id: `resistor ${part.id}`, kind: 'resistor', words, place, cure }]
    }
    if (lamp.milliamps < lamp.rated * LEAST) {
      const words = `With ${ohms} Ω, only ${ma(lamp.milliamps)} of ${ma(lamp.rated)} flow through “${part.name}”: it will hardly be seen. ${sum}.`
      return [{ id: `resistor ${part.id}`, kind: 'resistor', words, place, cure }]
    }
    return []
  })

/** Series resistors that get hotter than their size can stand. */
export const hotResistors = (rig: Rig): HarnessFinding[] =>
  lampsOf(rig).flatMap(({ part, lamp }): HarnessFinding[] => {
    const watts = resistorWatts(part, lamp)
    const rated = part.settings.seriesWatts ?? USUAL_WATTS
    if (watts === null || watts <= rated) return []
    const size = resistorSize(watts)
    return [
      {
        id: `resistor heat ${part.id}`,
        kind: 'resistor heat',
        words: `The resistor of “${part.name}” turns ${watts.toFixed(2)} W into heat; one of ${wattWords(rated)} gets too hot.`,
        place: { partIds: [part.id], leadIds: [lamp.driven.id], boardId: lamp.driven.boardId ?? undefined },
        cure:
          size === null
            ? null
            : {
                words: `Take one of ${wattWords(size)}`,
                changes: () =>
                  changed(
                    changeRow('part', part, { ...part, settings: { ...part.settings, seriesWatts: size } }),
                  ),
              },
      },
    ]
  })

/** Coils that a pin or a chip without protection switches. */
export const inductives = (rig: Rig): HarnessFinding[] =>
  lampsOf(rig).flatMap(({ part, lamp }): HarnessFinding[] => {
    if (!lamp.inductive || expanderKind(lamp.expander?.kind ?? '')?.inductive) return []
    const board = boardOf(rig, lamp)
    return [
      {
        id: `inductive ${part.id}`,
        kind: 'inductive',
        words: `“${part.name}” is a coil: when it is switched off it gives back a voltage that kills a bare pin. It needs a switch with a diode between.`,
        place: { partIds: [part.id], leadIds: [lamp.driven.id], boardId: board?.id },
        cure:
          board === undefined
            ? null
            : {
                words: 'Put a ULN2803 between',
                changes: (id) => throughArray(rig, part, board, null, id),
              },
      },
    ]
  })

import { boardModel } from '../src/core/catalogue/boards'
import { plainLead } from '../src/core/harness/leads'
import { addRow, apply, type Diff } from '../src/core/rig/edit'
import { emptyRig, type Rig } from '../src/core/rig/rig'
import type { SimulatorCatalogue } from '../src/core/rig/simulator-catalogue'

/** Variables v.0, v.1 … of a made-up craft, all numbers that can be set. */
export const manyVariables = (count: number): SimulatorCatalogue => ({
  craft: 'Bench',
  variables: Array.from({ length: count }, (_, i) => ({
    name: `v.n${i}`,
    type: 'number' as const,
    unit: null,
    writable: true,
    range: null,
    description: '',
    group: 'Bench',
  })),
  events: [],
})

const freePins = (boardModel('atmega2560')?.pins ?? []).filter((p) => !p.taken)

/** The variables a lamp's shaping and condition read, besides its own. */
export const readBy = (i: number, variables: number) => ({
  source: (i * 7 + 1) % variables,
  limit: (i * 13 + 5) % variables,
  gate: (i * 3 + 2) % variables,
})

/**
 * A rig of many lamps, each on a variable of its own with a limit and a condition from two others, and one
 * toggle on the first board that sets v.n0, which the first lamp shows.
 */
export const manyLamps = (lamps: number, variables: number): Rig => {
  const diff: Diff[number][] = [
    addRow('rig', { id: 'bench', name: 'Bench', format: 1 }),
    addRow('panel', {
      id: 'panel',
      name: 'Panel',
      position: 1,
      widthMm: 900,
      heightMm: 900,
      cornerMm: 2,
      thicknessMm: 3,
      settings: { holes: [] },
    }),
  ]
  let number = 0
  const place = (partId: string, terminal: string) => {
    const board = Math.floor(number / freePins.length)
    const pin = freePins[number % freePins.length]?.name ?? ''
    number++
    const boardId = `board-${board}`
    if (pin === freePins[0]?.name) {
      const identity = board.toString(16).padStart(16, '0').replace(/^./, 'b')
      diff.push(
        addRow('board', {
          id: boardId,
          name: `Board ${board}`,
          model: 'atmega2560',
          identity,
          position: board,
          supplyId: null,
          own: null,
        }),
      )
    }
    diff.push(
      addRow('lead', {
        ...plainLead,
        ...{ id: `lead-${number}`, partId, terminal, number, colour: 'white', boardId, pin },
      }),
    )
  }
  const part = (id: string, kind: string) =>
    diff.push(
      addRow('part', { id, panelId: 'panel', name: id, kind, xMm: 1, yMm: 1, rotationDeg: 0, settings: {} }),
    )
  part('toggle', 'toggle-2')
  place('toggle', 'closed')
  diff.push(
    addRow('binding', {
      id: 'toggle-1',
      partId: 'toggle',
      position: 1,
      on: true,
      settings: {
        kind: 'control',
        when: 'position',
        value: 'input == "up" ? 1 : 0',
        actions: [{ do: 'set', variable: 'v.n0' }],
        onlyWhile: null,
      },
    }),
  )
  for (let i = 0; i < lamps; i++) {
    part(`lamp-${i}`, 'lamp-5-green')
    place(`lamp-${i}`, 'plus')
    const { source, limit, gate } = readBy(i, variables)
    const settings =
      i === 0
        ? {
            kind: 'lamp' as const,
            variable: 'v.n0',
            show: 'input > 0 ? on : off',
            onlyWhile: null,
            rest: 'out' as const,
          }
        : {
            kind: 'lamp' as const,
            variable: `v.n${source}`,
            show: `input > v.n${limit} + 0.5 ? on : input > v.n${limit} ? blink(2) : off`,
            onlyWhile: `v.n${gate} > -1`,
            rest: 'out' as const,
          }
    diff.push(addRow('binding', { id: `lamp-${i}-1`, partId: `lamp-${i}`, position: 1, on: true, settings }))
  }
  return apply(emptyRig(), diff)
}

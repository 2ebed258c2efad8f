import { describe, expect, it } from 'vitest'
import { catalogue, control, digits, lamp, smallRig, V, Workbench } from '../../../tests/rigs'
import { Boards } from './boards'
import { dependentsOf, isRead } from './dependents'

const told = catalogue.variables.length
const layers = { Radio: { layers: ['A', 'B'], chosenBy: 'bus.volts > 20 ? "A" : "B"' } }
const bench = new Workbench(
  smallRig(
    {
      lamp: lamp(),
      window: digits({ variable: 'height' }),
      lever: control(),
      toggle: control({ value: 'input == "closed"', actions: [{ do: 'set', variable: 'pump.switch' }] }),
      button: control({
        ...{ when: 'hold', value: 'input ? 1 : 0', onlyWhile: 'speed > 50' },
        actions: [{ do: 'set', variable: 'pump.switch' }],
      }),
      knob: control({
        ...{ when: 'turn', value: null, aspect: 'outer' },
        actions: [{ do: 'step', variable: 'radio.frequency', by: 1, least: 108, most: 118, atEnd: 'stop' }],
      }),
      lamp2: lamp({ onlyWhile: 'part("Toggle") == "up"' }),
    },
    { layers },
  ),
).live()
const { engine } = bench
const units = [...engine.units.values()]
const all = dependentsOf(units, engine.layers.sets.values(), engine.variables.numbers.length, told)
const showing = (slot: number) => (all.indicators[slot] ?? []).map((i) => i.unit.part.id)

describe('who looks when a value changes', () => {
  it('are the indicators that show it or wait for it, each once', () => {
    expect(showing(V.gear)).toEqual(['lamp', 'lamp2'])
    expect(showing(V.volts)).toEqual(['lamp'])
    expect(showing(V.height)).toEqual(['window'])
    expect(showing(V.lever)).toEqual([])
  })

  it('are the indicators that read where a control stands', () => {
    const toggle = engine.units.get('toggle')?.controls[0]
    expect(showing(toggle?.ownSlot ?? -1)).toEqual(['lamp2'])
    expect(isRead(units, all, toggle?.ownSlot ?? -1)).toBe(true)
    expect(isRead(units, all, engine.units.get('lever')?.controls[0]?.ownSlot ?? -1)).toBe(false)
  })

  it('are what is held, choices of layers, and steps from the present value', () => {
    expect(all.holders.get(V.speed)?.map((s) => s.program.row.partId)).toEqual(['button'])
    expect(all.choosers.get(V.volts)?.map((s) => s.set.id)).toEqual(['Radio'])
    const noticed = [...all.noticed].flatMap((n, slot) => (n === 1 && slot < told ? [slot] : []))
    expect(noticed).toEqual([V.volts, V.speed, V.radio])
    expect(isRead(units, all, V.volts)).toBe(true)
  })

  it('makes the simulator tell what is read or told, and nothing else', () => {
    expect([...all.inUse].sort((a, b) => a - b)).toEqual([
      ...[V.gear, V.volts, V.lever, V.height, V.speed, V.radio, V.pump],
    ])
  })
})

describe('places on boards', () => {
  const seat = engine.units.get('lamp')?.indicators[0]
  if (!seat) throw new Error('no lamp')

  it('are found in what a board holds, and given up again', () => {
    const boards = new Boards()
    expect(boards.get('board')).toBeUndefined()
    expect(boards.place(seat)).toBe(false)
    const holds = { chips: [], slots: [{ kind: 'lamp' as const, pin: 26, sinks: false, rest: 0 as const }] }
    boards.changed('board', true, holds, 0)
    expect(boards.place(seat)).toBe(true)
    expect(seat.slot).toBe(0)
    expect(boards.get('board')?.owners.get(0)).toBe(seat)
    expect(boards.leave(seat)?.id).toBe('board')
    // It is not its own any more: there is nothing to be put out.
    expect(boards.leave(seat)).toBeNull()
  })
})

import { describe, expect, it } from 'vitest'
import { type BoardModel, contactsOf, PITCH_MM, type PinAbility } from './board-model'
import { boardModel, boardModels, pinOf, railOf } from './boards'

const model = (id: string): BoardModel => {
  const found = boardModel(id)
  if (!found) throw new Error(`no board ${id}`)
  return found
}
/** Names of the pins with an ability, in their order. */
const able = (id: string, ability: PinAbility): string =>
  model(id)
    .pins.filter((p) => p.abilities.includes(ability))
    .map((p) => p.name)
    .join(' ')

describe('what chips can do on which pin, as their data sheets have it', () => {
  it.each([
    ['atmega328p', 'pwm', 'D3 D5 D6 D9 D10 D11'],
    ['atmega328p', 'interrupt', 'D2 D3'],
    ['atmega328p', 'two-wire-data', 'A4'],
    ['atmega328p', 'two-wire-clock', 'A5'],
    ['atmega328p', 'analog', 'A0 A1 A2 A3 A4 A5'],
    ['atmega328p-small', 'analog', 'A0 A1 A2 A3 A4 A5 A6 A7'],
    ['atmega32u4', 'two-wire-data', 'D2'],
    ['atmega32u4', 'two-wire-clock', 'D3'],
    ['atmega2560', 'two-wire-data', 'D20'],
    ['atmega2560', 'two-wire-clock', 'D21'],
    ['atmega2560', 'interrupt', 'D2 D3 D18 D19 D20 D21'],
    ['atmega2560', 'serial', 'D0 D1 D14 D15 D16 D17 D18 D19'],
    ['rp2040', 'analog', 'GP26 GP27 GP28'],
  ] as const)('%s: %s on %s', (id, ability, pins) => {
    expect(able(id, ability)).toBe(pins)
  })

  it('has pins that can do one thing only', () => {
    for (const name of ['A6', 'A7'])
      expect(pinOf(model('atmega328p-small'), name)).toMatchObject({ only: 'analog', abilities: ['analog'] })
    expect(pinOf(model('atmega328p'), 'A6')).toBeUndefined()
  })

  it('has the pins taken that the board itself uses, for its cable or a lamp of its own', () => {
    const taken = boardModels.map((m) =>
      m.pins
        .filter((p) => p.taken)
        .map((p) => p.name)
        .join(' '),
    )
    expect(boardModels.map((m, i) => `${m.id}: ${taken[i]}`)).toEqual([
      'atmega328p: D0 D1',
      'atmega328p-small: D0 D1',
      'atmega32u4: D17',
      'atmega2560: D0 D1',
      'atmega2560-small: D0 D1',
      'rp2040: ',
    ])
  })

  it('is the same chip on the full-size and the small board', () => {
    expect(model('atmega2560-small').pins).toEqual(model('atmega2560').pins)
    const small = model('atmega328p-small').pins.filter((p) => p.only === undefined)
    expect(small).toEqual(model('atmega328p').pins)
  })
})

describe.each(boardModels.map((m) => [m.name, m] as const))('%s', (_, board) => {
  it('has its contacts in rows, 2.54 mm from one to the next', () => {
    for (const [i, c] of contactsOf(board).entries()) {
      const next = contactsOf(board)[i + 1]
      if (!next || next.row !== c.row) continue
      expect(Math.hypot(next.xMm - c.xMm, next.yMm - c.yMm)).toBeCloseTo(PITCH_MM, 6)
    }
  })

  it('gives its supplies on contacts that are no pins, its own logic supply among them', () => {
    for (const rail of board.rails) {
      expect(pinOf(board, rail.contact)).toBeUndefined()
      expect(railOf(board, rail.contact)).toBe(rail)
    }
    expect(board.rails.some((r) => r.volts === board.logicVolts)).toBe(true)
    expect(railOf(board, 'GND')).toBeUndefined()
  })

  it('lets no pin have more than its group, and no group more than all', () => {
    for (const g of board.groups) {
      expect(g.milliamps).toBeGreaterThanOrEqual(board.milliampsPerPin)
      expect(g.milliamps).toBeLessThanOrEqual(board.milliampsAllPins)
    }
  })

  it('has just one two-wire bus', () => {
    for (const line of ['two-wire-data', 'two-wire-clock'] as const)
      expect(board.pins.filter((p) => p.abilities.includes(line))).toHaveLength(1)
  })
})

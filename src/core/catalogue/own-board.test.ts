import { describe, expect, it } from 'vitest'
import { sameValue } from '../rig/edit'
import { readBoardFile, readPartFile, writeBoardFile } from '../rig/own-file'
import { tables } from '../rig/rows'
import type { BoardModel } from './board-model'
import { boardModel, boardModels } from './boards'
import { modelOf, ownBoard, ownBoardLike } from './own-board'

/** A model as it lies in a file, before anybody has looked at it. */
type Draft = {
  -readonly [K in keyof BoardModel]: BoardModel[K]
} & {
  headers: { contacts: string[] }[]
  groups: { pins: string[] }[]
  rails: { contact: string; volts: number; milliamps: number }[]
  pins: { name: string; number: number }[]
}

const small = ownBoardLike(boardModel('atmega328p-small') as BoardModel)
const asFile = (board: unknown, more: object = {}) =>
  JSON.stringify({ clavik: 'board', format: 1, board, ...more })
const problemOf = (text: string): string => {
  const read = readBoardFile(text)
  return 'problem' in read ? read.problem : 'none'
}
/** The small board with something changed by hand. */
const changed = (change: (b: Draft) => void): string => {
  const copy = structuredClone(small) as Draft
  change(copy)
  return problemOf(asFile(copy))
}
const pin = (b: Draft, name: string) => b.pins.find((p) => p.name === name) as Draft['pins'][number]

describe('a board of one’s own', () => {
  it('starts from any board of the catalogue, and each of these is a valid one', () => {
    for (const model of boardModels) {
      const like = ownBoardLike(model)
      expect(like.id).not.toBe(model.id)
      const read = readBoardFile(writeBoardFile(like))
      expect('own' in read && sameValue(read.own, like), model.name).toBe(true)
    }
  })

  it('keeps its name when it is saved again', () => {
    expect(ownBoardLike(small)).toBe(small)
  })

  it('is what its board is, before the catalogue', () => {
    expect(modelOf({ model: small.id, own: small })).toBe(small)
    expect(modelOf({ model: 'rp2040', own: null })).toBe(boardModel('rp2040'))
    expect(modelOf({ model: small.id, own: null })).toBeUndefined()
    expect(modelOf(undefined)).toBeUndefined()
  })

  it('is of the model its board says it is', () => {
    const row = {
      id: 'b',
      name: 'B',
      model: small.id,
      own: small,
      identity: null,
      position: 1,
      supplyId: null,
    }
    expect(tables.board.safeParse(row).success).toBe(true)
    expect(tables.board.safeParse({ ...row, model: 'rp2040' }).success).toBe(false)
    // A row of before there were any.
    expect(tables.board.parse({ ...row, own: undefined, model: 'rp2040' }).own).toBeNull()
  })
})

describe('a board file that is damaged', () => {
  it('names the pin and the field', () => {
    expect(changed((b) => Object.assign(pin(b, 'D7'), { number: 300 }))).toMatch(
      /pins\.7\.number \(D7\): at most 255/,
    )
    expect(changed((b) => Object.assign(pin(b, 'D7'), { number: 8 }))).toMatch(
      /D8 and D7 both have the number 8/,
    )
    expect(changed((b) => Object.assign(pin(b, 'D7'), { name: 'D8' }))).toMatch(/there are two pins D8/)
    expect(changed((b) => Object.assign(pin(b, 'D7'), { abilities: [] }))).toMatch(/D7 can do nothing/)
    expect(changed((b) => Object.assign(pin(b, 'A6'), { abilities: ['analog', 'pwm'] }))).toMatch(
      /A6 is analog only, but is said to do more/,
    )
    expect(changed((b) => Object.assign(pin(b, 'D3'), { only: 'input' }))).toMatch(
      /D3 is input only, but is said to give PWM/,
    )
  })

  it('says when contacts, pins, groups and supplies do not fit together', () => {
    expect(changed((b) => b.headers[1]?.contacts.splice(2, 1))).toMatch(/D10 is in no row of contacts/)
    expect(changed((b) => b.groups[0]?.pins.push('D99'))).toMatch(/groups\.0\.pins .*there is no pin D99/)
    expect(changed((b) => b.rails.push({ contact: 'D4', volts: 5, milliamps: 20 }))).toMatch(/D4 is a pin/)
    expect(changed((b) => b.rails.push({ contact: '12V', volts: 12, milliamps: 20 }))).toMatch(
      /12V is in no row of contacts/,
    )
    expect(changed((b) => Object.assign(b.headers[0] ?? {}, { xMm: 16.9 }))).toMatch(
      /D12 lies where D13 lies/,
    )
    expect(changed((b) => Object.assign(b, { heightMm: 20 }))).toMatch(/lies beyond the edge of the board/)
    expect(
      changed((b) => {
        for (const h of b.headers) h.contacts = h.contacts.map((c) => (c === 'GND' ? '–' : c))
      }),
    ).toMatch(/no contact is named GND/)
  })

  it('takes no name of the catalogue, no unknown field, no current of nothing', () => {
    expect(changed((b) => Object.assign(b, { id: 'rp2040' }))).toMatch(/a board of the catalogue has this id/)
    expect(changed((b) => Object.assign(b, { colour: 'blue' }))).toMatch(/colour/)
    expect(changed((b) => Object.assign(b, { milliampsPerPin: 0 }))).toMatch(
      /milliampsPerPin: has to be more/,
    )
    expect(ownBoard.safeParse({ ...small, logicVolts: Number.NaN }).success).toBe(false)
  })

  it('names the first few faults and counts the others', () => {
    const said = changed((b) => {
      for (const p of b.pins) p.number = 3
    })
    expect(said.match(/both have the number/g)).toHaveLength(3)
    expect(said).toMatch(/and \d+ more\.$/)
  })

  it('is refused when it is cut off, of another kind, newer or far too large', () => {
    const whole = writeBoardFile(small)
    expect(problemOf(whole.slice(0, -40))).toMatch(/^This is not a board file: /)
    expect(problemOf('[]')).toBe('This is not a board file.')
    expect(problemOf(asFile(small, { clavik: 'part' }))).toBe('This is a part file, not a board file.')
    expect(problemOf(asFile(small, { format: 2 }))).toBe(
      'This board file has format 2; this Clavik reads up to 1.',
    )
    expect(problemOf(whole + ' '.repeat(100_000))).toBe('This is too large for a board file.')
    expect(readPartFile(whole)).toEqual({ problem: 'This is a board file, not a part file.' })
  })
})

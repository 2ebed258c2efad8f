import { describe, expect, it } from 'vitest'
import { smallRig } from '../../../tests/rigs'
import { addRow, apply, changeRow } from '../rig/edit'
import { leadsOf, linesOf, type Rig, rowsOf } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import { propose } from './assignment/propose'
import { wantedConfiguration } from './configuration'
import { harnessFindings } from './findings/findings'
import { lampCircuit } from './lamp-circuit'
import { type LeadEnd, leadsTo } from './leads'
import { wireList } from './papers/wire-list'
import { isWired, wiringsOf } from './wiring'

let made = 0
const id = () => `made-${++made}`

/** Parts on a board of 3.3 V: each with its terminals' ends, a pin or contact by its name. */
const rigOf = (...parts: { id: string; kind: string; wires: Record<string, string> }[]): Rig => {
  let rig = smallRig({})
  const board = rig.board.board
  if (board)
    rig = apply(
      rig,
      [changeRow('board', board, { ...board, model: 'rp2040' })].filter((c) => c !== null),
    )
  for (const { id: partId, kind, wires } of parts) {
    const part: PartRow = {
      ...{ id: partId, panelId: 'panel', name: partId, kind, xMm: 10, yMm: 10, rotationDeg: 0 },
      settings: { seriesOhms: 100 },
    }
    rig = apply(rig, [addRow('part', part)])
    const ends = Object.entries(wires).map(([terminal, name]) => {
      const end: LeadEnd =
        name === 'ground' ? { at: 'ground' } : { at: 'contact', boardId: 'board', pin: name }
      return { from: { of: 'part' as const, id: partId, terminal }, end }
    })
    rig = apply(rig, leadsTo(rig, ends, id))
  }
  return rig
}

/** What is found besides that two such displays take more than a port gives. */
const wordsOf = (rig: Rig) => harnessFindings(rig).flatMap((f) => (f.kind === 'usb current' ? [] : f.words))

/** Follows the cure of the first finding. */
const cured = (rig: Rig): Rig => apply(rig, harnessFindings(rig)[0]?.cure?.changes(id) ?? [])

const display = (name: string, select: string) => ({
  id: name,
  kind: 'digits-4-max7219',
  wires: { plus: 'VBUS', ground: 'ground', data: 'GP10', clock: 'GP11', select },
})

const endOf = (rig: Rig, partId: string, terminal: string) => {
  const lead = leadsOf(rig, partId).find((l) => l.terminal === terminal)
  return lead?.pin ?? `channel ${lead?.channel}`
}

describe('a level shifter between displays and a board of 3.3 V', () => {
  const before = rigOf(display('first', 'GP12'), display('second', 'GP13'))

  it('takes the lines that displays share for all of them at once, and each pin stays what it is', () => {
    expect(wordsOf(before)).toHaveLength(2)
    const once = cured(before)
    expect(rowsOf(once, 'expander').map((e) => e.kind)).toEqual(['74hct245'])
    for (const line of ['data', 'clock']) expect(endOf(once, 'first', line)).toBe(endOf(once, 'second', line))
    expect(endOf(once, 'first', 'select')).toBe('channel 2')
    expect(endOf(once, 'second', 'select')).toBe('GP13')
    const [shifter] = rowsOf(once, 'expander')
    const inputs = linesOf(once, shifter?.id ?? '').flatMap((l) =>
      l.terminal.startsWith('in-') ? [l.pin] : [],
    )
    expect(inputs).toEqual(['GP10', 'GP11', 'GP12'])
    // The other's select is still bare: it has a finding of its own, and the same shifter has room for it.
    expect(wordsOf(once)).toHaveLength(1)
    const twice = cured(once)
    expect(rowsOf(twice, 'expander')).toHaveLength(1)
    expect(wordsOf(twice)).toEqual([])
  })

  it('changes nothing for the board, which is not to be loaded anew', () => {
    const after = cured(cured(before))
    for (const part of rowsOf(after, 'part'))
      expect(wiringsOf(after, part).every(({ wiring }) => isWired(wiring))).toBe(true)
    expect(wantedConfiguration(after, 'board')).toEqual(wantedConfiguration(before, 'board'))
  })

  it('stays when pins are assigned anew, and is in the wire list', () => {
    const after = cured(cured(before))
    const again = apply(after, propose(after, { partIds: null }, id).changes)
    for (const name of ['first', 'second'])
      for (const line of ['data', 'clock', 'select']) expect(endOf(again, name, line)).toMatch(/^channel/)
    expect(wordsOf(again)).toEqual([])
    const list = wireList(after).map((w) => `${w.from} > ${w.to}`)
    expect(list.filter((l) => l.includes('74HCT245'))).toHaveLength(6 + 4 + 2)
  })

  it('is not offered for a driver that answers on the same line', () => {
    const rig = rigOf({
      ...{ id: 'digits', kind: 'digits-4-tm1637' },
      wires: { plus: 'VBUS', ground: 'ground', clock: 'GP10', data: 'GP11' },
    })
    const after = cured(rig)
    expect(rowsOf(after, 'expander')).toEqual([])
    expect(endOf(after, 'digits', 'plus')).toBe('3V3')
    expect(wordsOf(after)).toEqual([])
  })
})

describe('a switch array for a lamp that needs more than its board gives', () => {
  it('lights it from 5 V with the resistor for that, on the pin it had', () => {
    const before = rigOf({ id: 'lamp', kind: 'lamp-5-blue', wires: { plus: 'GP10', minus: 'ground' } })
    const after = cured(before)
    expect(wordsOf(after)).toEqual([])
    expect(endOf(after, 'lamp', 'plus')).toBe('VBUS')
    // (5 V − 0.9 V in the array − 3.1 V) / 10 mA = 100 Ω: then there really are 10 mA.
    expect(after.part.lamp?.settings.seriesOhms).toBe(100)
    expect(lampCircuit(after, after.part.lamp as PartRow)?.milliamps).toBeCloseTo(10, 1)
    const slotOf = (rig: Rig) =>
      rowsOf(rig, 'part').flatMap((p) =>
        wiringsOf(rig, p).map(({ wiring }) => isWired(wiring) && wiring.slot),
      )
    expect(slotOf(after)).toEqual(slotOf(before))
  })

  it('uses the channel that is left, and another array when there is none', () => {
    const lamps = Array.from({ length: 9 }, (_, i) => ({
      ...{ id: `lamp ${i}`, kind: 'lamp-5-blue' },
      wires: { plus: `GP${i + 2}`, minus: 'ground' },
    }))
    let rig = rigOf(...lamps)
    for (let i = 0; i < 9; i++) rig = cured(rig)
    expect(wordsOf(rig).filter((w) => w.includes('nothing for its resistor'))).toEqual([])
    const counts = rowsOf(rig, 'expander').map(
      (e) => rowsOf(rig, 'lead').filter((l) => l.expanderId === e.id).length,
    )
    expect(counts.sort()).toEqual([1, 8])
  })
})

describe('a bus shifter between a text display and a board of 3.3 V', () => {
  const display = (id: string) => ({
    ...{ id, kind: 'text-16x2' },
    wires: { plus: 'VBUS', ground: 'ground', data: 'GP4', clock: 'GP5' },
  })

  it('feeds the glass with 5 V and the pins with 3.3 V, changes nothing for the board, and takes the next one too', () => {
    const before = rigOf(display('first'), display('second'))
    const second = before.part.second as PartRow
    const apart = apply(
      before,
      [changeRow('part', second, { ...second, settings: { ...second.settings, jumpers: 3 } })].filter(
        (c) => c !== null,
      ),
    )
    const once = cured(apart)
    expect(rowsOf(once, 'expander').map((e) => e.kind)).toEqual(['bss138'])
    expect([endOf(once, 'first', 'data'), endOf(once, 'first', 'clock')]).toEqual(['channel 0', 'channel 1'])
    const [shifter] = rowsOf(once, 'expander')
    const feeds = linesOf(once, shifter?.id ?? '').map((l) => [l.terminal, l.pin])
    expect(Object.fromEntries(feeds)).toMatchObject({
      'in-1': 'GP4',
      'in-2': 'GP5',
      low: '3V3',
      plus: 'VBUS',
    })
    const twice = cured(once)
    expect(rowsOf(twice, 'expander')).toHaveLength(1)
    expect(wordsOf(twice)).toEqual([])
    expect(wantedConfiguration(twice, 'board')).toEqual(wantedConfiguration(apart, 'board'))
    const again = apply(twice, propose(twice, { partIds: null }, id).changes)
    for (const name of ['first', 'second']) expect(endOf(again, name, 'data')).toBe('channel 0')
  })
})

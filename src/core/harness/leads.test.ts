import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { coilOrder } from '../aspects/needle'
import { expanderKind } from '../catalogue/expanders'
import { partKind } from '../catalogue/parts'
import { apply, conflicts, invalidRows, invert } from '../rig/edit'
import { leadsOf, leadsOnBoard, type Rig } from '../rig/rig'
import type { BoardRow, PartRow } from '../rig/rows'
import { type Beginning, endOfLead, endWords, type LeadEnd, leadAt, putOn } from './leads'
import { sparePins } from './spare-pins'
import { channelObjection, isWired, wiringsOf } from './wiring'

const rig = demoRig()
let made = 0
const id = () => `made-${++made}`

const done = (from: Beginning, end: LeadEnd, on: Rig = rig): Rig => {
  const changes = putOn(on, from, end, id)
  expect(conflicts(on, changes)).toEqual([])
  const after = apply(on, changes)
  expect(invalidRows(after, changes)).toEqual([])
  expect(apply(after, invert(changes))).toEqual(on)
  return after
}

const wiring = (of: Rig, partId: string) => wiringsOf(of, of.part[partId] as PartRow)[0]?.wiring
const at = (of: Rig, partId: string, terminal: string) => {
  const lead = leadAt(of, { of: 'part', id: partId, terminal })
  return lead && endWords(of, endOfLead(lead))
}
const pin = (boardId: string, name: string): LeadEnd => ({ at: 'contact', boardId, pin: name })

describe('a wire that is put somewhere', () => {
  it('moves to a free pin and keeps its number', () => {
    const after = done({ of: 'part', id: 'wheel-lever', terminal: 'up' }, pin('port-board', 'D40'))
    expect(at(after, 'wheel-lever', 'up')).toBe('Port board D40')
    const number = (of: Rig) => leadsOf(of, 'wheel-lever').find((l) => l.terminal === 'up')?.number
    expect(number(after)).toBe(number(rig))
  })

  it('exchanges with what is there, in one edit', () => {
    const after = done({ of: 'part', id: 'wheel-lever', terminal: 'up' }, pin('port-board', 'D24'))
    expect([at(after, 'wheel-lever', 'up'), at(after, 'wheel-lever', 'down')]).toEqual([
      'Port board D24',
      'Port board D22',
    ])
  })

  it('exchanges between a channel and a channel, and between boards', () => {
    const battery = leadAt(rig, { of: 'part', id: 'oh-battery-switch', terminal: 'closed' })
    const channel = battery?.channel ?? -1
    const other = { at: 'channel', expanderId: 'overhead-switches', channel: channel + 1 } as const
    const after = done({ of: 'part', id: 'oh-battery-switch', terminal: 'closed' }, other)
    expect(leadAt(after, { of: 'part', id: 'oh-generator-left-switch', terminal: 'closed' })?.channel).toBe(
      channel,
    )
    const far = done({ of: 'part', id: 'horn-off', terminal: 'closed' }, pin('port-board', 'D32'))
    expect(at(far, 'water-rudder', 'closed')).toBe('Stern board D4')
  })

  it('takes what is in the way off where it came from nowhere', () => {
    const bare = apply(
      rig,
      leadsOf(rig, 'horn-off').map((l) => ({
        op: 'remove' as const,
        table: 'lead' as const,
        id: l.id,
        row: l as never,
      })),
    )
    const after = done({ of: 'part', id: 'horn-off', terminal: 'closed' }, pin('port-board', 'D32'), bare)
    expect(at(after, 'horn-off', 'closed')).toBe('Port board D32')
    expect(at(after, 'water-rudder', 'closed')).toBeUndefined()
  })

  it('joins its line, and a contact that gives a supply, without moving anybody', () => {
    const rail = done({ of: 'part', id: 'horn-off', terminal: 'common' }, pin('stern-board', '5V'))
    expect(leadsOnBoard(rail, 'stern-board').filter((l) => l.pin === '5V')).toHaveLength(3)
    expect(leadsOnBoard(rail, 'stern-board').every((l) => l.pin !== '5V' || l.shared)).toBe(true)
  })
})

describe('what hangs on an expander', () => {
  it('is wired like on a pin, and says where', () => {
    const battery = wiring(rig, 'oh-battery-switch')
    expect(battery && isWired(battery) ? battery.pins[0] : battery).toMatch(/^Switches \d\.\d$/)
    expect(battery && isWired(battery) && battery.boardId).toBe('stern-board')
  })

  it.each([
    ['digits-4-tm1637', 'data', '74hc595', 'is no place for it; it needs a pin of its board'],
    ['button-10-red', 'closed', '74hc595', 'reads no contacts'],
    ['button-10-red', 'closed', '74hc165', null],
    ['lamp-8-green', 'plus', '74hc595', null],
  ])('%s: its %s on a channel of a %s: %s', (kind, terminalId, expander, objection) => {
    const part = partKind(kind)
    const terminal = part?.terminals.find((t) => t.id === terminalId)
    const to = expanderKind(expander)
    if (!part || !terminal || !to) throw new Error('the catalogue has them')
    expect(channelObjection(to, part, terminal)).toBe(objection)
  })

  it('is not wired while a line of the expander has no pin', () => {
    const clock = Object.values(rig.lead).find(
      (l) => l.fromExpanderId === 'overhead-switches' && l.terminal === 'clock',
    )
    const lead = { ...rig.lead }
    delete lead[clock?.id ?? '']
    const battery = wiring({ ...rig, lead }, 'oh-battery-switch')
    expect(battery && 'message' in battery && battery.message).toBe('line “clock” of Switches has no pin')
  })
})

it('counts spare pins by what they can do', () => {
  const before = sparePins(rig, rig.board['port-board'] as BoardRow)
  const after = sparePins(
    done({ of: 'part', id: 'horn-off', terminal: 'closed' }, pin('port-board', 'A3')),
    rig.board['port-board'] as BoardRow,
  )
  expect(before.pins - after.pins).toBe(1)
  expect((before.byAbility.analog ?? 0) - (after.byAbility.analog ?? 0)).toBe(1)
  expect(after.byAbility.pwm).toBe(before.byAbility.pwm)
})

it('drives coils in the order in which they are soldered', () => {
  expect(coilOrder([1, 2, 3, 4], undefined)).toEqual([1, 2, 3, 4])
  expect(coilOrder([1, 2, 3, 4], 'crossed')).toEqual([1, 3, 2, 4])
  expect(coilOrder([1, 2, 3, 4], 'turned')).toEqual([2, 1, 3, 4])
  expect(coilOrder([1, 2, 3, 4], 'crossed and turned')).toEqual([3, 1, 2, 4])
})

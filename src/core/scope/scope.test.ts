import { describe, expect, it } from 'vitest'
import { partKind } from '../catalogue/parts'
import type { EventInfo, SimulatorCatalogue, VariableInfo } from '../rig/simulator-catalogue'
import { findRows, type ScopeQuery, type ScopeRows, searchTexts } from './find'
import { huntBinding, valuesFor } from './hunt-binding'
import { Movements, TRACE_SAMPLES, TRACE_STEP_MS } from './movements'
import { typedEventValue, typedValue } from './typed-value'

const variable = (name: string, more: Partial<VariableInfo> = {}): VariableInfo => ({
  ...{ name, type: 'number', unit: null, writable: true, range: null, description: '', group: 'Deck' },
  ...more,
})
const event = (name: string, value: EventInfo['value'] = null): EventInfo => ({
  ...{ name, description: 'One of them', group: 'Deck', value },
})

describe('counting', () => {
  it('knows how often and when each has changed, and what moved since', () => {
    const m = new Movements(3)
    m.note(1, 100)
    m.note(1, 250)
    m.note(2, 90)
    expect([...m.counts]).toEqual([0, 2, 1])
    expect([...m.at]).toEqual([Number.NaN, 250, 90])
    expect(m.movedSince(95)).toEqual([1])
    m.forget()
    expect([...m.counts]).toEqual([0, 0, 0])
    expect(m.movedSince(0)).toEqual([])
  })
  it('keeps a trace of each, with gaps where there was no number, and the newest of it when it is full', () => {
    const m = new Movements(2)
    let now = 1000
    const sample = (a: number) => {
      now += TRACE_STEP_MS
      return m.sample([a, Number.NaN], now)
    }
    for (let i = 0; i < TRACE_SAMPLES + 5; i++) expect(sample(i)).toBe(true)
    expect(m.sample([7, 7], now + 10)).toBe(false)
    expect(m.trace(0)).toHaveLength(TRACE_SAMPLES)
    expect(m.trace(0, 3)).toEqual([TRACE_SAMPLES + 2, TRACE_SAMPLES + 3, TRACE_SAMPLES + 4])
    expect(m.trace(1, 2)).toEqual([null, null])
  })
  it('takes along what is known of names that are at other places now', () => {
    const before = new Movements(2)
    before.note(1, 50)
    before.sample([1, 2], 60)
    const after = new Movements(3)
    after.carryOver(before, (i) => (i === 2 ? 1 : undefined))
    expect([...after.counts]).toEqual([0, 0, 1])
    expect(after.trace(2)).toEqual([2])
    expect(after.trace(0)).toEqual([null])
  })
})

describe('finding', () => {
  const catalogue: SimulatorCatalogue = {
    craft: 'Bench',
    variables: [
      variable('gear.lever', { choices: ['up', 'off', 'down'], description: 'Wheel lever' }),
      variable('elec.bus.volts', { unit: 'V', group: 'Electrics', description: 'Main bus' }),
      variable('run.leg', { type: 'text', description: 'Where it is going' }),
      variable('deck.k7'),
      variable('ice.probe', { description: 'Not on this craft' }),
    ],
    events: [event('horn.cancel')],
  }
  const values = [2, 28.3, 'Osmund Bay', 4, null]
  const rows: ScopeRows = {
    catalogue,
    value: (row) => values[row] ?? null,
    at: [10, 900, Number.NaN, 400, Number.NaN, Number.NaN],
    counts: [1, 90, 0, 3, 0, 0],
    isPinned: (name) => name === 'deck.k7' || name === 'run.leg',
    isMuted: (name) => name === 'run.leg',
    isBound: (name) => name === 'gear.lever',
  }
  const texts = searchTexts(catalogue)
  const names = [...catalogue.variables, ...catalogue.events].map((i) => i.name)
  const found = (q: Partial<ScopeQuery>) =>
    findRows(rows, texts, {
      ...{ search: '', only: 'all', group: null, sort: { by: 'told', down: false } },
      ...q,
    }).map((row) => names[row])

  it('by any part of name, unit, words and value, several words in any order', () => {
    expect(found({ search: 'lever wheel' })).toEqual(['gear.lever'])
    expect(found({ search: 'V elec' })).toEqual(
      ['elec.bus.volts', 'gear.lever'].filter((n) => n !== 'gear.lever'),
    )
    expect(found({ search: '28.3' })).toEqual(['elec.bus.volts'])
    expect(found({ search: '28' })).toEqual(['elec.bus.volts'])
    expect(found({ search: 'down' })).toEqual(['gear.lever'])
    expect(found({ search: 'osmund', only: 'pinned' })).toEqual(['run.leg'])
    expect(found({ search: 'event cancel' })).toEqual(['horn.cancel'])
    expect(found({ search: 'nothing of that' })).toEqual([])
  })
  it('by kind and group, without what is muted unless that is asked for', () => {
    expect(found({})).not.toContain('run.leg')
    expect(found({ only: 'muted' })).toEqual(['run.leg'])
    expect(found({ only: 'pinned' })).toEqual(['run.leg', 'deck.k7'])
    expect(found({ only: 'bound' })).toEqual(['gear.lever'])
    expect(found({ only: 'moved' })).toEqual(['gear.lever', 'elec.bus.volts', 'deck.k7'])
    expect(found({ only: 'absent' })).toEqual(['ice.probe'])
    expect(found({ only: 'undescribed' })).toEqual(['deck.k7'])
    expect(found({ only: 'events' })).toEqual(['horn.cancel'])
    expect(found({ group: 'Electrics' })).toEqual(['elec.bus.volts'])
  })
  it('in each order, with what is absent and what never moved last whichever way', () => {
    const sorted = (by: ScopeQuery['sort']['by'], down: boolean) => found({ only: 'all', sort: { by, down } })
    expect(sorted('name', false)[0]).toBe('deck.k7')
    expect(sorted('value', false).slice(0, 3)).toEqual(['gear.lever', 'deck.k7', 'elec.bus.volts'])
    expect(sorted('value', true).slice(0, 3)).toEqual(['elec.bus.volts', 'deck.k7', 'gear.lever'])
    expect(sorted('value', true).at(-1)).toBe('horn.cancel')
    expect(sorted('changes', true).slice(0, 2)).toEqual(['elec.bus.volts', 'deck.k7'])
    expect(sorted('since', false).slice(0, 3)).toEqual(['elec.bus.volts', 'deck.k7', 'gear.lever'])
    expect(sorted('told', true)[0]).toBe('horn.cancel')
  })
})

describe('a value by hand', () => {
  const heading = variable('ap.heading', { unit: 'deg', range: [0, 360] })
  it('is a number within its range, in its unit or one that can be made into it', () => {
    expect(typedValue(heading, ' 180 ')).toEqual({ value: 180 })
    expect(typedValue(heading, '90 deg')).toEqual({ value: 90 })
    const read = typedValue(heading, '3.14159 rad')
    expect('value' in read && read.value).toBeCloseTo(180, 2)
    expect(typedValue(variable('t', { unit: '°C' }), '−4.5')).toEqual({ value: -4.5 })
    expect(typedValue(variable('v', { unit: 'm/s' }), '100 kt')).toMatchObject({
      value: expect.closeTo(51.44, 2),
    })
  })
  it.each([
    [heading, '400', 'it goes from 0 to 360 deg'],
    [heading, 'north', '“north” is no number'],
    [heading, '3 kg', 'it is in deg, and kg cannot be made into that'],
    [heading, '3 smoots', '“smoots” is no unit that is known here'],
    [heading, '', 'there is no value'],
    [variable('x'), '5 V', 'it has no unit, so V means nothing here'],
    [variable('g', { choices: ['up', 'off'] }), 'down', 'it is one of up, off'],
    [variable('g', { choices: ['up', 'off'] }), '2', 'it is one of up, off, or their number from 0 on'],
    [variable('b', { type: 'boolean' }), 'maybe', 'it is on or off, and “maybe” is neither'],
    [variable('r', { writable: false }), '1', 'the simulator lets nobody write it'],
    [heading, '1e999', '“1e999” is beyond what a number holds'],
  ])('of %o as “%s” is refused', (info, typed, problem) => {
    expect(typedValue(info, typed)).toEqual({ problem })
  })
  it('is a word of its own, on or off, or a text as it stands', () => {
    expect(typedValue(variable('g', { choices: ['up', 'off', 'down'] }), 'Down')).toEqual({ value: 2 })
    expect(typedValue(variable('b', { type: 'boolean' }), 'off')).toEqual({ value: 0 })
    expect(typedValue(variable('t', { type: 'text' }), ' as it is ')).toEqual({ value: ' as it is ' })
    expect(typedEventValue(event('e'), 'whatever')).toEqual({ value: null })
    expect(typedEventValue(event('e', { type: 'number', unit: 'ft' }), '1 m')).toMatchObject({
      value: expect.closeTo(3.281, 3),
    })
  })
})

describe('the binding that a hunt ends in', () => {
  const wheel = partKind('wheel-lever')?.aspects[0]
  const positions = [{ id: 'up' }, { id: 'off' }, { id: 'down' }]
  it('has the level that was seen in each position, else the levels by size, and none while some are missing', () => {
    expect(valuesFor(positions, [4, 0, 9], { up: 9, off: 0, down: 4 })).toEqual({ up: 9, off: 0, down: 4 })
    expect(valuesFor(positions, [4, 0, 9], { up: 9 })).toEqual({ up: 0, off: 4, down: 9 })
    // Two positions with one level: one of them was read too early.
    expect(valuesFor(positions, [4, 0, 9], { up: 9, off: 9, down: 4 })).toEqual({ up: 0, off: 4, down: 9 })
    expect(valuesFor(positions, [4, 0])).toBeNull()
  })
  it('sets a value for each position', () => {
    if (!wheel) throw new Error('there is no wheel lever')
    expect(huntBinding(wheel, variable('deck.k7'), { up: 9, off: 0, down: 4 })).toMatchObject({
      ...{ when: 'position', value: 'match(input, "up", 9, "off", 0, "down", 4)' },
      actions: [{ do: 'set', variable: 'deck.k7' }],
    })
    expect(huntBinding(wheel, variable('deck.k7'), null)).toBeNull()
    // What a text stood at was only seen as a number.
    expect(huntBinding(wheel, variable('run.leg', { type: 'text' }), { up: 1, off: 2, down: 3 })).toBeNull()
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actionsOf, control, smallRig, Workbench } from '../../../tests/rigs'
import type { ControlSettings } from '../rig/binding'
import { bindingFindings } from '../rig/binding-findings'
import {
  bindingsInForce,
  copiedInto,
  inSet,
  isMeant,
  partsOfSets,
  removeCraftSet,
  setInForce,
} from '../rig/craft-sets'
import { addRow, apply } from '../rig/edit'
import { bindingsOf, type Rig } from '../rig/rig'
import type { CraftSetRow } from '../rig/rows'
import { contradiction } from './contradiction'

const set = (id: string, patterns: string[], replaces: boolean, position = 1): CraftSetRow => ({
  ...{ id, name: id, position },
  settings: { patterns, replaces },
})

const hold = (variable: string, more: Partial<ControlSettings> = {}): ControlSettings =>
  control({ when: 'hold', value: 'input', actions: [{ do: 'set', variable }], ...more })

const press = (more: Partial<ControlSettings>): ControlSettings =>
  control({ when: 'press', value: null, actions: [{ do: 'event', event: 'horn.cancel' }], ...more })

const rigWith = (replaces: boolean, atStart?: 'panel'): Rig =>
  apply(
    smallRig(
      {
        button: [hold('pump.switch'), press({ craftSet: 'truck' })],
        button2: hold('pump.switch'),
        lever: [control(), control({ actions: [{ do: 'set', variable: 'speed' }], craftSet: 'truck' })],
      },
      atStart ? { atStart } : {},
    ),
    [addRow('craftSet', set('truck', ['Torsk *'], replaces))],
  )

const actions = (effects: Parameters<typeof actionsOf>[0]) => actionsOf(effects).map((a) => a.value)

describe('which set holds', () => {
  const rig = apply(smallRig({}), [
    addRow('craftSet', set('b', ['Skerry*', '*boat'], false, 2)),
    addRow('craftSet', set('a', ['Torsk R4'], false, 1)),
  ])
  it.each<[string, string, string[], string | null]>([
    ['by its name', 'by craft', ['Torsk R4'], 'a'],
    ['by a pattern, whatever the capitals', 'by craft', ['SKERRY 12'], 'b'],
    ['the first of several', 'by craft', ['Skerry 12', 'Torsk R4'], 'a'],
    ['none for what nobody means', 'by craft', ['Torsk R40'], null],
    ['none at all', 'none', ['Torsk R4'], null],
  ])('%s', (_, choice, crafts, expected) =>
    expect(setInForce(rig, choice as 'by craft', crafts)).toBe(expected),
  )
  it('one chosen by hand, as long as it is there', () => {
    expect(setInForce(rig, { set: 'b' }, ['Torsk R4'])).toBe('b')
    expect(setInForce(rig, { set: 'gone' }, ['Torsk R4'])).toBe(null)
  })
  it('patterns are text but for the star', () => {
    fc.assert(
      fc.property(fc.string(), (name) => {
        const bare = name.replaceAll('*', '').trim()
        expect(isMeant(bare, bare)).toBe(bare !== '')
        expect(isMeant(`${bare}*`, `${bare} and more`)).toBe(true)
      }),
    )
    expect(isMeant('a.c', 'abc')).toBe(false)
    // A second way of saying the same, by the language's own patterns.
    const letters = fc.stringMatching(/^[ab*]{1,7}$/)
    fc.assert(
      fc.property(letters, fc.stringMatching(/^[ab]{0,8}$/), (pattern, craft) => {
        const same = new RegExp(`^${pattern.replaceAll('*', '.*')}$`)
        expect(isMeant(pattern, craft)).toBe(same.test(craft))
      }),
    )
    expect(isMeant(`${'a*'.repeat(60)}b`, 'a'.repeat(120))).toBe(false)
  })
})

describe('bindings of a craft set', () => {
  const ids = (rig: Rig, part: string, s: string | null) => bindingsInForce(rig, part, s).map((b) => b.id)
  it('stand beside those for every craft, or in their place, part by part', () => {
    const adds = rigWith(false)
    expect(ids(adds, 'button', null)).toEqual(['button-1'])
    expect(ids(adds, 'button', 'truck')).toEqual(['button-1', 'button-2'])
    const replaces = rigWith(true)
    expect(ids(replaces, 'button', 'truck')).toEqual(['button-2'])
    // It has nothing of its own for this one, so that goes on as ever.
    expect(ids(replaces, 'button2', 'truck')).toEqual(['button2-1'])
    expect(ids(replaces, 'button', 'another')).toEqual(['button-1'])
    expect([...partsOfSets(replaces)].sort()).toEqual(['button', 'lever'])
  })

  it('do another job as soon as another craft is flown, and what was held is let go', () => {
    const bench = new Workbench(rigWith(true)).live()
    for (const id of ['button', 'button2']) bench.report(id, 0)
    expect(actions(bench.report('button', 1))).toEqual([1])
    expect(actions(bench.step({ is: 'craft set', set: 'truck' }))).toEqual([0])
    // It is still pressed, and that press was of before: nothing comes of it, nor of its end.
    expect(actionsOf(bench.report('button', 0))).toEqual([])
    expect(actionsOf(bench.report('button', 1))).toMatchObject([{ is: 'event' }])
    // The part that the set does not speak of goes on.
    expect(actions(bench.report('button2', 1))).toEqual([1])
    expect(actions(bench.step({ is: 'craft set', set: null }))).toEqual([])
    expect(actions(bench.report('button2', 0))).toEqual([0])
  })

  it('where controls stand is no operation when the craft changes; where the panel leads it is told', () => {
    const quiet = new Workbench(rigWith(true)).live()
    quiet.report('lever', 1)
    expect(actions(quiet.step({ is: 'craft set', set: 'truck' }))).toEqual([])
    expect(actions(quiet.wait(10_000))).toEqual([])
    const leads = new Workbench(rigWith(true, 'panel')).live()
    leads.report('lever', 1)
    expect(actions(leads.step({ is: 'craft set', set: 'truck' })).length).toBeGreaterThan(0)
    // The same again changes nothing.
    expect(actions(leads.step({ is: 'craft set', set: 'truck' }))).toEqual([])
  })

  it('of two crafts contradict nobody, and are no slip of copying', () => {
    const rig = rigWith(false)
    for (const b of bindingsOf(rig, 'button')) expect(contradiction(rig, b)).toBe(null)
    const both = apply(rig, [
      addRow('binding', {
        ...(bindingsOf(rig, 'lever')[0] as never as object),
        id: 'x',
        position: 9,
      } as never),
    ])
    expect(
      bindingFindings(both, {
        untold: [],
        catalogue: { craft: '', variables: [], events: [] },
        variable: new Map(),
        event: new Map(),
      }).filter((f) => f.bindingIds.includes('lever-2')),
    ).toEqual([])
  })

  it('a set is begun by copying, with other names, and goes with all that was only for it', () => {
    const rig = rigWith(true)
    let n = 0
    const renamed = (s: Parameters<Parameters<typeof copiedInto>[4]>[0]) =>
      s.kind === 'control' && s.actions.some((a) => 'variable' in a && a.variable === 'gear.lever') ? null : s
    const diff = copiedInto(rig, 'boat', null, ['button', 'lever'], renamed, () => `new${n++}`)
    const after = apply(rig, [addRow('craftSet', set('boat', [], true, 3)), ...diff])
    // Of what has no name there nothing is copied.
    expect(bindingsInForce(after, 'lever', 'boat').map((b) => b.id)).toEqual(['lever-1'])
    expect(bindingsInForce(after, 'button', 'boat').map((b) => b.settings.craftSet)).toEqual(['boat'])
    const gone = apply(after, removeCraftSet(after, after.craftSet.boat as CraftSetRow))
    expect(gone.binding).toEqual(rig.binding)
    const [first] = bindingsOf(rig, 'button')
    expect(first && inSet(inSet(first, 'boat'), null)).toEqual(first)
  })
})

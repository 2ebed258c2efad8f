import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { isIndicator } from '../catalogue/part-kind'
import { partKind, partKinds } from '../catalogue/parts'
import { apply, invalidRows, invert } from './edit'
import { exchanged, exchangesFor } from './exchange'
import { bindingsOf, leadsOf, type Rig, rowsOf } from './rig'
import type { PartRow } from './rows'

const rig = demoRig()
const named = (name: string): PartRow => {
  const part = rowsOf(rig, 'part').find((p) => p.name === name)
  if (!part) throw new Error(name)
  return part
}
const into = (part: PartRow, kindId: string): { rig: Rig; lost: readonly string[] } => {
  const kind = partKind(kindId)
  if (!kind) throw new Error(kindId)
  const { changes, lost } = exchanged(rig, part, kind)
  expect(invalidRows(apply(rig, changes), changes)).toEqual([])
  expect(apply(apply(rig, changes), invert(changes))).toEqual(rig)
  return { rig: apply(rig, changes), lost }
}

describe('exchanging a part', () => {
  it('for another of the same make keeps everything', () => {
    const lamp = named('Bow left')
    const after = into(lamp, 'lamp-5-amber')
    expect(after.lost).toEqual([])
    expect(leadsOf(after.rig, lamp.id)).toEqual(leadsOf(rig, lamp.id))
    expect(bindingsOf(after.rig, lamp.id)).toEqual(bindingsOf(rig, lamp.id))
    expect(after.rig.part[lamp.id]).toEqual({ ...lamp, kind: 'lamp-5-amber' })
  })

  it('for a lesser one says which wires and bindings do not fit', () => {
    const knob = named('Radio knob')
    const after = into(knob, 'encoder-dual')
    expect(after.lost.some((l) => l.includes('push contact'))).toBe(true)
    expect(after.lost.some((l) => l.includes('binding of its push'))).toBe(true)
    expect(leadsOf(after.rig, knob.id)).toHaveLength(leadsOf(rig, knob.id).length - 1)
    for (const b of bindingsOf(after.rig, knob.id)) expect(b.settings.aspect).not.toBe('push')
  })

  it('for a lit button keeps the switch; names of positions that are gone are said', () => {
    const horn = named('Horn off')
    expect(into(horn, 'lit-button-12-red').lost).toEqual([])
    const code = named('Code function switch')
    const after = into(code, 'rotary-3-45deg')
    expect(after.lost).toContain('it has no position for “ALT”')
    expect(after.rig.part[code.id]?.settings.labels).toEqual({ '1': 'OFF', '2': 'SBY', '3': 'ON' })
  })

  it('is offered within the family only', () => {
    for (const kind of exchangesFor(named('Bow left'))) expect(kind.family).toBe('lamp')
    expect(exchangesFor(named('Bow left')).map((k) => k.id)).not.toContain('lamp-8-green')
  })
})

describe('the catalogue', () => {
  it('has at least sixty parts, each with a hole, a body, and a front that its reach covers', () => {
    expect(partKinds.length).toBeGreaterThanOrEqual(60)
    expect(new Set(partKinds.map((k) => k.id)).size).toBe(partKinds.length)
    for (const kind of partKinds) {
      expect(kind.mount.cutouts.length, kind.id).toBeGreaterThan(0)
      expect(kind.mount.body.depthMm, kind.id).toBeGreaterThan(0)
      // Whatever has a supply of its own says what it takes from it, but for knobs and ladders, which take next to nothing.
      const fed = kind.terminals.some((t) => t.role === 'plus') && kind.aspects.some(isIndicator)
      expect(kind.draws !== undefined || !fed, kind.id).toBe(true)
      if (kind.draws) expect(kind.draws.mostMa, kind.id).toBeGreaterThan(kind.draws.typicalMa)
      const terminals = new Set(kind.terminals.map((t) => t.id))
      for (const aspect of kind.aspects)
        if ('terminals' in aspect)
          for (const t of aspect.terminals) expect(terminals.has(t), kind.id).toBe(true)
    }
  })
})

import { describe, expect, it } from 'vitest'
import { demoRig, smallRig } from '../../../../tests/rigs'
import { boardModel } from '../../catalogue/boards'
import { addRow, apply, changeRow, conflicts, type Diff, invalidRows, removeRow } from '../../rig/edit'
import { expandersOf, leadsOf, leadsOnBoard, linesOf, partsOf, type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, LeadRow, PartRow } from '../../rig/rows'
import { wantedConfiguration, wantedOn } from '../configuration'
import { harnessFindings } from '../findings/findings'
import { leadsTo } from '../leads'
import { isWired, wiringsOf } from '../wiring'
import { propose, proposeModel } from './propose'
import { proposeWithExpanders } from './propose-expander'

const ids = () => {
  let n = 0
  return () => `new-${++n}`
}

/** A rig of one board, and parts that are only drawn. */
const withParts = (kinds: readonly string[], model = 'atmega328p'): Rig => {
  const base = smallRig({})
  const row = base.board.board as BoardRow
  const diff: (Diff[number] | null)[] = [changeRow('board', row, { ...row, model })]
  for (const [i, kind] of kinds.entries())
    diff.push(
      addRow('part', {
        ...{
          id: `p${i}`,
          panelId: 'panel',
          name: `Part ${i}`,
          kind,
          xMm: 10,
          yMm: 10,
          rotationDeg: 0,
          settings: {},
        },
      }),
    )
  return apply(
    base,
    diff.filter((c) => c !== null),
  )
}

const taken = (rig: Rig, changes: Diff): Rig => {
  expect(conflicts(rig, changes)).toEqual([])
  const after = apply(rig, changes)
  expect(invalidRows(after, changes)).toEqual([])
  return after
}

const isWhollyWired = (rig: Rig, part: PartRow) => wiringsOf(rig, part).every((w) => isWired(w.wiring))

describe('a proposal', () => {
  it('wires every part of a fresh panel, ground and supply as well', () => {
    const rig = withParts(
      ['toggle-2', 'lamp-8-green', 'encoder-push', 'text-16x2', 'digits-5-max7219', 'pot'],
      'atmega2560',
    )
    const proposal = propose(rig, { partIds: null }, ids())
    const after = taken(rig, proposal.changes)
    expect(proposal.unplaced).toEqual([])
    for (const part of rowsOf(after, 'part')) expect(isWhollyWired(after, part)).toBe(true)
    const terminals = rowsOf(after, 'part').flatMap((p) => leadsOf(after, p.id).map((l) => l.terminal))
    expect(terminals).toHaveLength(2 + 2 + 4 + 4 + 5 + 3)
    expect(new Set(rowsOf(after, 'lead').map((l) => l.number)).size).toBe(terminals.length)
  })

  it('keeps the leads of an encoder side by side and away from pins that can do more', () => {
    const rig = withParts(['encoder-push'], 'atmega2560')
    const after = taken(rig, propose(rig, { partIds: null }, ids()).changes)
    const pins = leadsOf(after, 'p0')
      .filter((l) => !l.ground)
      .map((l) => Number(l.pin?.slice(1)))
    expect(Math.max(...pins) - Math.min(...pins)).toBeLessThanOrEqual(4)
    const model = boardModel('atmega2560')
    for (const l of leadsOf(after, 'p0').filter((x) => !x.ground))
      expect(model?.pins.find((p) => p.name === l.pin)?.abilities).toEqual(['digital', 'pull-up'])
  })

  it('moves nothing of a rig that is wired', () => {
    const rig = demoRig()
    const { overhead, ...others } = rig.panel
    expect(overhead).toBeDefined()
    const parts = new Set(Object.keys(others).flatMap((panel) => partsOf(rig, panel).map((p) => p.id)))
    expect(propose(rig, { partIds: parts }, ids()).wires.filter((w) => w.was !== null)).toEqual([])
  })

  it('puts two-wire displays on the same two pins', () => {
    const rig = withParts(['text-16x2', 'text-20x4'])
    const after = taken(rig, propose(rig, { partIds: null }, ids()).changes)
    const ends = ['p0', 'p1'].map((p) =>
      leadsOf(after, p)
        .filter((l) => l.shared && l.pin?.startsWith('A'))
        .map((l) => l.pin),
    )
    expect(ends).toEqual([
      ['A4', 'A5'],
      ['A4', 'A5'],
    ])
  })

  it('has two multiplexers share their address lines, and keeps their signals apart', () => {
    const base = withParts(['toggle-2'])
    const mux = (n: number) =>
      addRow('expander', {
        ...{
          id: `u${n}`,
          boardId: 'board',
          name: `U${n}`,
          kind: 'mux-16',
          chips: 1,
          jumpers: 0,
          position: n,
        },
      })
    const rig = apply(base, [mux(1), mux(2)])
    const after = taken(rig, propose(rig, { partIds: null }, ids()).changes)
    const pins = (id: string) => Object.fromEntries(linesOf(after, id).map((l) => [l.terminal, l.pin]))
    const { signal: first, ...lines } = pins('u1')
    const { signal: second, ...others } = pins('u2')
    expect(lines).toEqual(others)
    expect(first).not.toBe(second)
    expect(wantedConfiguration(after, 'board').chips).toHaveLength(2)
  })

  it('names the ability that is short, and what there is of it', () => {
    const rig = withParts(Array.from({ length: 8 }, () => 'pot'))
    const proposal = propose(rig, { partIds: null }, ids())
    expect(proposal.unplaced).toHaveLength(2)
    expect(proposal.proven).toBe(true)
    expect(proposal.shortages[0]?.words).toBe(
      '2 wires need an analog pin, or a channel that can measure; of 6, 0 are free',
    )
    expect(proposal.shortages[0]?.cure).toBe('another board, or an expander that has it: 74HC4067')
  })

  it('leaves a board it does not know alone', () => {
    const rig = demoRig()
    const row = rig.board['stern-board'] as BoardRow
    const odd = apply(rig, [changeRow('board', row, { ...row, model: 'zx99' }) as Diff[number]])
    const touched = new Set(propose(odd, { partIds: null }, ids()).changes.map((c) => c.id))
    for (const lead of leadsOnBoard(odd, 'stern-board')) expect(touched.has(lead.id)).toBe(false)
  })
})

describe('a proposal with expanders', () => {
  it('brings none where pins will do', () => {
    const rig = withParts(['toggle-2', 'lamp-8-green'])
    expect(proposeWithExpanders(rig, { partIds: null }, ids()).expanders).toEqual([])
  })

  it('says which and how many, and what is saved, when a board is full', () => {
    const rig = withParts(Array.from({ length: 30 }, () => 'toggle-2'))
    const proposal = proposeWithExpanders(rig, { partIds: null }, ids())
    expect(proposal.unplaced).toEqual([])
    expect(proposal.expanders).toHaveLength(1)
    expect(proposal.expanders[0]?.words).toMatch(/wires on \d+ pins: \d+ pins saved$/)
    const after = taken(rig, proposal.changes)
    for (const part of rowsOf(after, 'part')) expect(isWhollyWired(after, part)).toBe(true)
    expect(wantedConfiguration(after, 'board').chips).toHaveLength(1)
  })

  it('finds room for its own lines on a board that has none left', () => {
    const full = withParts(Array.from({ length: 18 }, () => 'button-10-red'))
    const wired = taken(full, propose(full, { partIds: null }, ids()).changes)
    const more = [1, 2, 3].map((n) =>
      addRow('part', { ...(wired.part.p0 as PartRow), id: `more-${n}`, name: `More ${n}` }),
    )
    const rig = apply(wired, more)
    const proposal = proposeWithExpanders(rig, { partIds: null }, () => `x-${Math.random()}`)
    expect(proposal.unplaced).toEqual([])
    const after = taken(rig, proposal.changes)
    for (const part of rowsOf(after, 'part')) expect(isWhollyWired(after, part)).toBe(true)
    const moved = proposal.wires.filter((w) => w.was !== null)
    const [expander] = proposal.expanders
    expect(moved.length).toBeLessThanOrEqual(linesOf(after, expander?.expander.id ?? '').length)
  })

  it('wires the whole overhead: contacts and lamps on chains of their own kind', () => {
    const rig = demoRig()
    const overhead = new Set(partsOf(rig, 'overhead').map((p) => p.id))
    const gone = expandersOf(rig, 'stern-board')
    const leads = rowsOf(rig, 'lead').filter(
      (l) => overhead.has(l.partId ?? '') || gone.some((e) => e.id === l.fromExpanderId),
    )
    const bare = apply(rig, [
      ...leads.map((l) => removeRow('lead', l)),
      ...gone.map((e) => removeRow('expander', e)),
    ])
    const onStern = { partIds: overhead, boardIds: new Set(['stern-board']) }
    const proposal = proposeWithExpanders(bare, onStern, ids())
    expect(proposal.unplaced).toEqual([])
    const after = taken(bare, proposal.changes)
    expect(proposal.expanders.map((e) => e.expander.kind).sort()).toHaveLength(2)
    for (const part of partsOf(after, 'overhead')) expect(isWhollyWired(after, part)).toBe(true)
  })

  it('hangs a lamp on a driver that takes current in with its minus, and its plus on a supply', () => {
    const base = withParts(['lamp-8-green', 'lamp-5-red'])
    const rig = apply(base, [
      addRow('expander', {
        id: 'u1',
        boardId: 'board',
        name: 'U1',
        kind: 'tlc5940',
        chips: 1,
        jumpers: 0,
        position: 1,
      }),
    ])
    const after = taken(rig, propose(rig, { partIds: null }, ids()).changes)
    const leads = leadsOf(after, 'p0')
    expect(leads.find((l) => l.terminal === 'minus')).toMatchObject({ expanderId: 'u1' })
    expect(leads.find((l) => l.terminal === 'plus')).toMatchObject({ pin: '5V', shared: true })
    expect(wantedOn(after, 'board').slots.every((s) => s.slot.kind === 'lamp' && s.slot.sinks)).toBe(true)
  })
})

describe('what cannot be', () => {
  const windows = (n: number) => Array.from({ length: n }, () => 'digits-4-max7219')
  const buttons = (n: number) => Array.from({ length: n }, () => 'button-10-red')

  it('is proven, lines that displays share counted once for all of them', () => {
    // 14 buttons, three selects, one data, one clock: 19 wires for the 18 pins there are.
    const rig = withParts([...windows(3), ...buttons(14)])
    expect(propose(rig, { partIds: null }, ids())).toMatchObject({ unplaced: { length: 1 }, proven: true })
  })

  it('is not claimed of what just fits', () => {
    const rig = withParts([...windows(3), ...buttons(13)])
    expect(propose(rig, { partIds: null }, ids())).toMatchObject({ unplaced: [], proven: false })
  })

  it('is not claimed where a line that is shared needs no pin of its own', () => {
    // Nine windows on eleven lines: apart they would take 27.
    const rig = withParts(windows(9))
    expect(propose(rig, { partIds: null }, ids())).toMatchObject({ unplaced: [], proven: false })
  })
})

describe('a cockpit of 240 parts that is only drawn', () => {
  const mix = [
    ...['button-10-red', 'lamp-5-green', 'toggle-2', 'encoder', 'lamp-8-green'],
    ...['button-10-grey', 'toggle-3', 'digits-4-max7219', 'gauge-36', 'pot'],
  ]
  const kinds = Array.from({ length: 240 }, (_, i) => mix[i % mix.length] ?? '')
  const withBoards = (count: number): Rig => {
    const rig = withParts(kinds)
    const first = rig.board.board as BoardRow
    const more = Array.from({ length: count - 1 }, (_, i) =>
      addRow('board', { ...first, id: `board ${i}`, name: `Board ${i}`, position: i + 2 }),
    )
    return apply(rig, more)
  }

  it('finds a place for all of them on 12 small boards, with the chips that takes, and says how far it is', () => {
    const rig = withBoards(12)
    const told: number[] = []
    const proposal = proposeWithExpanders(rig, { partIds: null }, ids(), ({ placed, of }) => {
      expect(of).toBe(240)
      told.push(placed)
    })
    expect(proposal.unplaced).toEqual([])
    expect(proposal.expanders.length).toBeGreaterThan(0)
    expect(told).toEqual([...told].sort((a, b) => a - b))
    expect(told.at(-1)).toBe(240)
    const after = taken(rig, proposal.changes)
    for (const part of rowsOf(after, 'part')) expect(isWhollyWired(after, part)).toBe(true)
  })
})

describe('a coil', () => {
  const coils = (count: number, model?: string) =>
    withParts(
      Array.from({ length: count }, () => 'buzzer-12'),
      model,
    )

  it('gets a switch array that follows the pin it was given, and nothing is left to be found', () => {
    const rig = coils(2)
    const proposal = proposeWithExpanders(rig, { partIds: null }, ids())
    const after = taken(rig, proposal.changes)
    expect(harnessFindings(after).map((f) => f.words)).toEqual([])
    expect(proposal.unplaced).toEqual([])
    expect(proposal.expanders.map((e) => e.words)).toEqual([
      'ULN2803 switch array on Test board: a coil would kill a bare pin when it is switched off',
    ])
    const [array] = rowsOf(after, 'expander')
    const channels = rowsOf(after, 'lead').flatMap((l) => (l.expanderId === array?.id ? [l.channel] : []))
    expect(channels.sort()).toEqual([0, 1])
    const inputs = linesOf(after, array?.id ?? '').filter((l) => l.terminal.startsWith('in-'))
    expect(inputs.map((l) => l.terminal).sort()).toEqual(['in-1', 'in-2'])
    // Every wire of it is in the list, each with a number of its own.
    expect(proposal.wires).toHaveLength(2 * 3 + 2)
    expect(new Set(proposal.wires.map((w) => w.number)).size).toBe(8)
  })

  it('uses an array that is there, drawn by hand or wired already', () => {
    const array = addRow('expander', {
      ...{ id: 'u1', boardId: 'board', name: 'U1', kind: 'uln2803', chips: 1, jumpers: 0, position: 1 },
    })
    const rig = apply(coils(1), [array])
    const id = ids()
    const once = taken(rig, propose(rig, { partIds: null }, id).changes)
    expect(rowsOf(once, 'expander')).toHaveLength(1)
    expect(harnessFindings(once).map((f) => f.words)).toEqual([])
    const second = addRow('part', { ...(once.part.p0 as PartRow), id: 'p9', name: 'Another' })
    const more = apply(once, [second])
    const twice = taken(more, propose(more, { partIds: new Set(['p9']) }, id).changes)
    expect(rowsOf(twice, 'expander')).toHaveLength(1)
    expect(harnessFindings(twice).map((f) => f.words)).toEqual([])
    // What hung there before still does.
    for (const lead of rowsOf(once, 'lead')) expect(twice.lead[lead.id]).toEqual(lead)
  })

  it('is taken off a channel that could not stand it, and each wire says where it was', () => {
    const id = ids()
    const rig = apply(coils(1), [
      addRow('expander', {
        ...{ id: 'u1', boardId: 'board', name: 'U1', kind: '74hc595', chips: 1, jumpers: 0, position: 1 },
      }),
    ])
    const wired = apply(
      rig,
      leadsTo(
        rig,
        [
          {
            from: { of: 'part', id: 'p0', terminal: 'plus' },
            end: { at: 'channel', expanderId: 'u1', channel: 0 },
          },
          { from: { of: 'part', id: 'p0', terminal: 'minus' }, end: { at: 'ground' } },
        ],
        id,
      ),
    )
    expect(harnessFindings(wired).map((f) => f.kind)).toContain('inductive')
    const proposal = propose(wired, { partIds: null }, id)
    const after = taken(wired, proposal.changes)
    expect(harnessFindings(after).map((f) => f.kind)).not.toContain('inductive')
    const was = proposal.wires.filter((w) => w.from.id === 'p0').map((w) => `${w.from.terminal}: ${w.was}`)
    expect(was.sort()).toEqual(['minus: ground', 'plus: U1 1.0'])
  })

  it('gets at least its pin where nothing can feed an array, and the finding stays', () => {
    const rig = coils(1)
    const board = rig.board.board as BoardRow
    const like = boardModel('atmega328p')
    if (!like) throw new Error('no such model')
    const own = { ...like, id: 'bare', rails: [] }
    const bare = apply(
      rig,
      [changeRow('board', board, { ...board, model: own.id, own })].filter((c) => c !== null),
    )
    const after = taken(bare, propose(bare, { partIds: null }, ids()).changes)
    expect(leadsOf(after, 'p0').find((l) => l.terminal === 'plus')?.boardId).toBe('board')
    expect(harnessFindings(after).map((f) => f.kind)).toContain('inductive')
  })

  it('does not go on a channel for lamps, which could not stand it', () => {
    const rig = apply(coils(1, 'atmega328p'), [
      addRow('expander', {
        ...{ id: 'u1', boardId: 'board', name: 'U1', kind: 'tlc5940', chips: 1, jumpers: 0, position: 1 },
      }),
    ])
    const after = taken(rig, proposeWithExpanders(rig, { partIds: null }, ids()).changes)
    expect(rowsOf(after, 'lead').some((l) => l.expanderId === 'u1')).toBe(false)
    expect(harnessFindings(after).map((f) => f.kind)).not.toContain('inductive')
  })
})

describe('a board of another model', () => {
  it('keeps the pins that will do, moves the others, and lists every wire', () => {
    const rig = demoRig()
    const board = rig.board['stern-board'] as BoardRow
    const before = leadsOnBoard(rig, board.id)
    const model = boardModel('rp2040')
    if (!model) throw new Error('no such model')
    const proposal = proposeModel(rig, board, model, ids())
    const after = taken(rig, proposal.changes)
    expect(proposal.unplaced).toEqual([])
    const listed = proposal.wires.map((w) => w.number)
    for (const lead of before) expect(listed).toContain(lead.number)
    for (const lead of leadsOnBoard(after, board.id)) expect(lead.pin).toMatch(/^(GP\d+|VBUS|3V3)$/)
    for (const lead of before) {
      const part = after.part[(after.lead[lead.id] as LeadRow).partId ?? '']
      if (part) expect(isWhollyWired(after, part)).toBe(true)
    }
  })

  it('keeps every pin on the small board with the same chip, and still lists every wire', () => {
    const rig = demoRig()
    const board = rig.board['stern-board'] as BoardRow
    const model = boardModel('atmega328p-small')
    if (!model) throw new Error('no such model')
    const proposal = proposeModel(rig, board, model, ids())
    const after = taken(rig, proposal.changes)
    for (const lead of leadsOnBoard(rig, board.id)) expect(after.lead[lead.id]?.pin).toBe(lead.pin)
    expect(proposal.wires).toHaveLength(leadsOnBoard(rig, board.id).length)
  })
})

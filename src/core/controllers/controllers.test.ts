import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { contactsOf } from '../catalogue/board-model'
import { ownBoard } from '../catalogue/own-board'
import { positionOf, positionsAspect } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { bareTerminals } from '../harness/bare-terminals'
import { harnessFindings } from '../harness/findings/findings'
import { openEnds } from '../harness/open-ends'
import { partsList } from '../harness/papers/parts-list'
import { wireList } from '../harness/papers/wire-list'
import type { Slot } from '../harness/slot'
import { isWired, wiringsOf } from '../harness/wiring'
import { fitFindings } from '../layout/fit/fit'
import { apply } from '../rig/edit'
import { boardsOf, emptyRig, panelsOf, type Rig, rowsOf } from '../rig/rig'
import { addingController, boardOf } from './add-controller'
import { type Capabilities, inputsOf, shareOf } from './capabilities'
import { controllerBoard } from './controller-board'
import {
  EV_ABS,
  EV_KEY,
  EVENT_BYTES,
  EventReader,
  type Heard,
  type InputEvent,
  reportBytes,
} from './event-reader'
import { GivenSlots } from './given-slots'
import { GroupWatch } from './groups'
import { simulatedCapabilities, simulatedModelNames } from './simulated-models'
import { Standing } from './standing'
import { oneSwitch, partsByPin, plainParts, takingParts } from './take'
import { type Known, type Plugged, whichIsWhich } from './which'

const hello: Capabilities = {
  ...{ controller: 1, name: 'Bench stick', vendor: 0xf055, product: 9, serial: '', port: 'usb-1' },
  // In no order: thumb keys above 0x2c0, stick keys, and one of a pad.
  keys: [0x2c0, 0x122, 0x120, 0x121, 0x101],
  down: [0x121],
  axes: [
    { code: 0, value: 0, least: -512, most: 511 },
    { code: 5, value: 40_000, least: 0, most: 65_535 },
    { code: 0x10, value: 0, least: -1, most: 1 },
    { code: 0x11, value: -1, least: -1, most: 1 },
  ],
}
const line = (said: unknown) => new TextEncoder().encode(`${JSON.stringify(said)}\n`)

describe('what a controller says', () => {
  it('counts buttons as the system does, sticks first, and names axes and sides of hats', () => {
    expect(inputsOf(hello).map((i) => [i.name, i.pin, i.code])).toEqual([
      ['B1', 0, 0x120],
      ['B2', 1, 0x121],
      ['B3', 2, 0x122],
      ['B4', 3, 0x2c0],
      ['B5', 4, 0x101],
      ['X', 128, 0],
      ['RZ', 133, 5],
      ['hat 1 up', 192, 0x11],
      ['hat 1 right', 193, 0x10],
      ['hat 1 down', 194, 0x11],
      ['hat 1 left', 195, 0x10],
    ])
    expect(shareOf({ least: -512, most: 511 }, -600)).toBe(0)
    expect(shareOf({ least: -512, most: 511 }, 511)).toBe(1)
    expect(shareOf({ least: 3, most: 3 }, 3)).toBe(0)
  })

  // Worked out by hand from struct input_event: 100 s, 5 µs, EV_KEY, 0x120, 1; then SYN_REPORT.
  const press = [
    ...[0x64, 0, 0, 0, 0, 0, 0, 0, 5, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0x20, 0x01, 1, 0, 0, 0],
    ...[0x64, 0, 0, 0, 0, 0, 0, 0, 5, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
  ]
  // EV_ABS, axis 0, −2 as two’s complement.
  const pull = [0x64, 0, 0, 0, 0, 0, 0, 0, 6, 0, 0, 0, 0, 0, 0, 0, 3, 0, 0, 0, 0xfe, 0xff, 0xff, 0xff]

  it('is read byte by byte as the system’s headers lay it out', () => {
    const reader = new EventReader()
    const heard: Heard[] = []
    for (const byte of [...line(hello), ...press, ...pull, ...press.slice(24)])
      heard.push(...reader.push(Uint8Array.of(byte)))
    expect(heard).toEqual([
      { is: 'hello', hello },
      { is: 'report', atMicros: 100_000_005, events: [{ type: EV_KEY, code: 0x120, value: 1 }] },
      { is: 'report', atMicros: 100_000_005, events: [{ type: EV_ABS, code: 0, value: -2 }] },
    ])
  })

  it('forgets what came in pieces after something was lost, until the next whole report', () => {
    const reader = new EventReader()
    reader.push(line(hello))
    const dropped = [...press.slice(24)]
    dropped[18] = 3
    const heard = reader.push(Uint8Array.from([...pull, ...dropped, ...pull, ...press.slice(24), ...press]))
    expect(heard).toHaveLength(1)
    expect(heard[0]).toMatchObject({ events: [{ type: EV_KEY, code: 0x120, value: 1 }] })
  })

  it.each<[string, Uint8Array, RegExp]>([
    ['no JSON', new TextEncoder().encode('<html>\n'), /no line of JSON/],
    ['why there is none', line({ no: 'Permission denied' }), /^Permission denied$/],
    ['half a controller', line({ ...hello, axes: [{ code: 900 }] }), /cannot be read: axes 0/],
    ['a line without end', new Uint8Array(70_000).fill(65), /does not say which/],
    ['other bytes', Uint8Array.from([...line(hello), ...new Uint8Array(24).fill(255)]), /are not the events/],
  ])('says what is wrong with %s, and reads no further', (_, bytes, words) => {
    const reader = new EventReader()
    reader.push(bytes)
    expect(reader.problem).toMatch(words)
    expect(reader.push(line(hello))).toEqual([])
  })

  it('is the same however its bytes are cut', () => {
    const event = fc.record({
      type: fc.constantFrom(EV_KEY, EV_ABS),
      code: fc.integer({ min: 0, max: 0x2ff }),
      value: fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }),
    })
    fc.assert(
      fc.property(
        fc.array(fc.array(event, { maxLength: 4 }), { maxLength: 6 }),
        fc.integer({ min: 1, max: 70 }),
        (reports, cut) => {
          const bytes = [
            ...line(hello),
            ...reports.flatMap((r, i) => [...reportBytes(r as InputEvent[], i * 1_000_003)]),
          ]
          const reader = new EventReader()
          const heard: Heard[] = []
          for (let at = 0; at < bytes.length; at += cut)
            heard.push(...reader.push(Uint8Array.from(bytes.slice(at, at + cut))))
          expect(reader.problem).toBeNull()
          expect(heard.slice(1).map((h) => h.is === 'report' && [h.atMicros, h.events])).toEqual(
            reports.map((r, i) => [i * 1_000_003, r]),
          )
        },
      ),
    )
    expect(reportBytes([], 0)).toHaveLength(EVENT_BYTES)
  })

  it('stands as it says it does, and a key that repeats by itself has not moved', () => {
    const standing = new Standing(hello)
    expect([0, 1].map((pin) => standing.isClosed(pin))).toEqual([false, true])
    expect(standing.isClosed(192)).toBe(true)
    expect(standing.isClosed(194)).toBe(false)
    expect(standing.share(133)).toBeCloseTo(40_000 / 65_535, 9)
    expect([...standing.take([{ type: EV_KEY, code: 0x121, value: 2 }])]).toEqual([])
    expect([...standing.take([{ type: EV_ABS, code: 0x11, value: 0 }])]).toEqual([192, 194])
    expect(standing.isClosed(192)).toBe(false)
    // What it never said to have is nobody’s.
    expect([...standing.take([{ type: EV_KEY, code: 0x2ff, value: 1 }])]).toEqual([])
  })
})

describe('what a controller holds', () => {
  const stick = () => {
    const standing = new Standing(hello)
    return { standing, slots: new GivenSlots(standing) }
  }
  const key = (code: number, value: number): InputEvent => ({ type: EV_KEY, code, value })
  const axis = (code: number, value: number): InputEvent => ({ type: EV_ABS, code, value })
  const contacts = (pins: number[], debounceMs = 6): Slot => ({ kind: 'contacts', pins, debounceMs })

  it('tells contacts at once, and lets them bounce', () => {
    const { standing, slots } = stick()
    slots.hold([contacts([0, 1])])
    expect(slots.look(0)).toEqual([{ slot: 0, value: 0b10 }])
    standing.take([key(0x120, 1), key(0x121, 0)])
    expect(slots.look(10)).toEqual([{ slot: 0, value: 0b01 }])
    standing.take([key(0x120, 0)])
    expect(slots.look(12)).toEqual([])
    expect(slots.nextAt).toBe(16)
    standing.take([key(0x120, 1)])
    expect(slots.look(16)).toEqual([])
    expect(slots.nextAt).toBeNull()
    standing.take([key(0x120, 0)])
    expect(slots.look(17)).toEqual([{ slot: 0, value: 0 }])
  })

  it('counts a knob on two contacts, both ways, and no step that skips one', () => {
    const { standing, slots } = stick()
    slots.hold([{ kind: 'encoder', pins: [0, 2], smoothing: 0 } as unknown as Slot])
    expect(slots.look(0)).toEqual([{ slot: 0, value: 0 }])
    const put = (a: number, b: number) => {
      standing.take([key(0x120, a), key(0x122, b)])
      return slots.look(1).map((n) => n.value)
    }
    expect([put(1, 0), put(1, 1), put(0, 1), put(0, 0)].flat()).toEqual([1, 2, 3, 4])
    expect([put(0, 1), put(1, 1)].flat()).toEqual([3, 2])
    expect(put(0, 0)).toEqual([])
  })

  it('gives all parts of a level that an axis tells, does not tremble at rest, and reaches its ends', () => {
    const { standing, slots } = stick()
    slots.hold([{ kind: 'analog', pin: 133, smoothing: 0 }])
    const at = (value: number) => {
      standing.take([axis(5, value)])
      return slots.look(1).map((n) => (n.value / 1023) * 65_535)
    }
    expect(slots.look(0)[0]?.value).toBeCloseTo((40_000 / 65_535) * 1023, 9)
    expect(at(40_100)[0]).toBeCloseTo(40_100, 6)
    expect(at(40_101)[0]).toBeCloseTo(40_101, 6)
    // Back by less than one part in two thousand is its own unrest.
    for (const value of [40_098, 40_101, 40_080, 40_099]) expect(at(value)).toEqual([])
    expect(at(40_060)[0]).toBeCloseTo(40_060, 6)
    expect(at(65_535)[0]).toBe(65_535)
    expect(at(65_530)).toEqual([])
    expect(at(0)[0]).toBe(0)
  })

  it('evens an axis out as strongly as is set, and comes to rest where it stands', () => {
    const { standing, slots } = stick()
    slots.hold([{ kind: 'analog', pin: 133, smoothing: 3 }])
    slots.look(0)
    standing.take([axis(5, 65_535)])
    const told: number[] = []
    for (let t = 1; t < 200 && (t === 1 || slots.nextAt !== null); t++)
      told.push(...slots.look(t).map((n) => n.value))
    expect(told.every((v, i) => i === 0 || v > (told[i - 1] ?? 0))).toBe(true)
    // After one time constant of 7 ms it has gone 63 % of the way.
    const from = (40_000 / 65_535) * 1023
    expect(((told[6] ?? 0) - from) / (1023 - from)).toBeCloseTo(1 - Math.exp(-1), 2)
    expect(told.at(-1)).toBe(1023)
  })
})

describe('buttons that are one switch', () => {
  /** A hand: what changes, and how long it waits after that. */
  const watched = (
    closed: number[],
    moves: [changes: [pin: number, closed: boolean][], waitMs: number][],
  ) => {
    const watch = new GroupWatch(closed)
    let now = 1000
    for (const [changes, waitMs] of moves) {
      watch.take(
        changes.map(([pin, c]) => ({ pin, closed: c })),
        now,
      )
      now += waitMs
    }
    return watch.groups(now).map((g) => g.pins)
  }
  const throws = (from: number, to: number, wait = 800): [[number, boolean][], number][] => [
    [[[from, false]], 40],
    [[[to, true]], wait],
  ]

  it('is proposed once two have taken turns, whether at one time or one after the other', () => {
    expect(watched([1], [...throws(1, 2), ...throws(2, 1)])).toEqual([])
    expect(watched([1], [...throws(1, 2), ...throws(2, 1), ...throws(1, 2)])).toEqual([[1, 2]])
    const together: [[number, boolean][], number][] = [
      [
        [
          [1, false],
          [2, true],
        ],
        500,
      ],
      [
        [
          [2, false],
          [1, true],
        ],
        500,
      ],
      [
        [
          [1, false],
          [2, true],
        ],
        500,
      ],
    ]
    expect(watched([1], together)).toEqual([[1, 2]])
  })

  it('is seen with a slow hand as well, and in spite of a stop between two positions', () => {
    const slow = (from: number, to: number, gapMs: number): [[number, boolean][], number][] => [
      [[[from, false]], gapMs],
      [[[to, true]], 2500],
    ]
    expect(watched([1], [...slow(1, 2, 500), ...slow(2, 1, 400), ...slow(1, 2, 700)])).toEqual([[1, 2]])
    expect(
      watched(
        [1],
        [...slow(1, 2, 80), ...slow(2, 1, 1500), ...slow(1, 2, 80), ...slow(2, 1, 80), ...slow(1, 2, 80)],
      ),
    ).toEqual([[1, 2]])
  })

  it('is a selector in the order in which a hand goes through it', () => {
    const through = [...throws(5, 9), ...throws(9, 6), ...throws(6, 7), ...throws(7, 6), ...throws(6, 9)]
    expect(watched([5], through)).toEqual([[5, 9, 6, 7]])
  })

  it('is not two push buttons that are pressed in turn, nor keys that roll over each other', () => {
    const press = (pin: number): [[number, boolean][], number][] => [
      [[[pin, true]], 90],
      [[[pin, false]], 200],
    ]
    expect(watched([], [1, 2, 1, 2, 1, 2].flatMap(press))).toEqual([])
    const rolled: [[number, boolean][], number][] = [1, 2, 1, 2, 1, 2, 1].flatMap(
      (pin, i): [[number, boolean][], number][] => [
        [[[pin, true]], 30],
        [[[i % 2 === 0 ? 2 : 1, false]], 30],
      ],
    )
    expect(watched([], [...rolled, [[[1, false]], 900]])).toEqual([])
  })

  it('stays apart from other buttons that are used meanwhile', () => {
    const busy: [[number, boolean][], number][] = [
      ...throws(1, 2),
      [[[7, true]], 300],
      ...throws(2, 1),
      [[[7, false]], 300],
      ...throws(1, 2),
    ]
    expect(watched([1], busy)).toEqual([[1, 2]])
  })
})

describe('which is which', () => {
  const known = (id: string, serial = '', port = ''): Known => ({ id, vendor: 1, product: 2, serial, port })
  const plugged = (path: string, serial = '', port = ''): Plugged => ({
    path,
    vendor: 1,
    product: 2,
    serial,
    port,
  })
  const found = (k: Known[], p: Plugged[]) =>
    Object.fromEntries([...whichIsWhich(k, p)].map(([id, f]) => [id, 'path' in f ? f.path : f.unclear]))

  it('knows one again on another port, by its number or because it is the only one', () => {
    expect(found([known('a', '', 'usb-1')], [plugged('e5', '', 'usb-3')])).toEqual({ a: 'e5' })
    expect(
      found(
        [known('a', 'S1', 'usb-1'), known('b', 'S2', 'usb-2')],
        [plugged('e5', 'S2', 'usb-1'), plugged('e6', 'S1', 'usb-2')],
      ),
    ).toEqual({ a: 'e6', b: 'e5' })
  })

  it('tells twins apart by their ports, and the second by being left over', () => {
    const twins = [known('a', '', 'usb-1'), known('b', '', 'usb-2')]
    expect(found(twins, [plugged('e5', '', 'usb-2'), plugged('e6', '', 'usb-1')])).toEqual({
      a: 'e6',
      b: 'e5',
    })
    expect(found(twins, [plugged('e5', '', 'usb-9'), plugged('e6', '', 'usb-1')])).toEqual({
      a: 'e6',
      b: 'e5',
    })
    // Makers that give all of a kind one number.
    const alike = [known('a', '0001', 'usb-1'), known('b', '0001', 'usb-2')]
    expect(found(alike, [plugged('e5', '0001', 'usb-2'), plugged('e6', '0001', 'usb-1')])).toEqual({
      a: 'e6',
      b: 'e5',
    })
  })

  it('says that it cannot tell when both have moved, and takes no other for one with a number', () => {
    const twins = [known('a', '', 'usb-1'), known('b', '', 'usb-2')]
    expect(found(twins, [plugged('e5', '', 'usb-7'), plugged('e6', '', 'usb-8')])).toEqual({
      a: ['e5', 'e6'],
      b: ['e5', 'e6'],
    })
    expect(found([known('a', 'S1', 'usb-1')], [plugged('e5', 'S2', 'usb-1')])).toEqual({})
    expect(found([known('a')], [{ ...plugged('e5'), product: 3 }])).toEqual({})
  })

  it('never gives two the same device, nor one two', () => {
    const sign = fc.record({
      serial: fc.constantFrom('', 'S1', 'S2'),
      port: fc.constantFrom('', 'u1', 'u2', 'u3'),
    })
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 4 }), fc.array(sign, { maxLength: 4 }), (ks, ps) => {
        const it = whichIsWhich(
          ks.map((s, i) => known(`k${i}`, s.serial, s.port)),
          ps.map((s, i) => plugged(`p${i}`, s.serial, s.port)),
        )
        const paths = [...it.values()].flatMap((f) => ('path' in f ? [f.path] : []))
        expect(new Set(paths).size).toBe(paths.length)
      }),
    )
  })
})

describe('a controller in the rig', () => {
  let n = 0
  const id = () => `id-${n++}`
  const withBox = (model: (typeof simulatedModelNames)[number] = 'switch box'): Rig => {
    const said = simulatedCapabilities(model, 'x')
    const settings = { kind: 'simulated controller', identity: '0123456789abcdef', model } as const
    return apply(emptyRig(), addingController(emptyRig(), said, settings, { connection: 'c', board: 'b' }))
  }
  const boardIn = (rig: Rig) => boardsOf(rig)[0] ?? expect.fail()

  it.each(simulatedModelNames)('is a board whose record is sound: %s', (model) => {
    const board = controllerBoard(simulatedCapabilities(model, 'x'))
    expect(ownBoard.safeParse(board).error?.issues ?? []).toEqual([])
    expect(contactsOf(board).map((c) => c.name)).toEqual(
      inputsOf(simulatedCapabilities(model, 'x')).map((i) => i.name),
    )
  })

  it('may have very many buttons, and the most of them are taken', () => {
    const many = { ...hello, keys: Array.from({ length: 300 }, (_, i) => 0x100 + i) }
    expect(ownBoard.safeParse(controllerBoard(many)).error?.issues ?? []).toEqual([])
    expect(inputsOf(many).filter((i) => i.is === 'button')).toHaveLength(128)
  })

  it.each(simulatedModelNames)(
    'is taken as parts without a finding, an open wire, or anything to buy: %s',
    (model) => {
      const rig = withBox(model)
      const inputs = inputsOf(simulatedCapabilities(model, 'x'))
      const after = apply(rig, takingParts(rig, boardIn(rig), plainParts(inputs), id))
      const parts = rowsOf(after, 'part')
      expect(partsByPin(after, boardIn(after)).size).toBe(inputs.length)
      for (const part of parts) {
        expect(wiringsOf(after, part).every(({ wiring }) => isWired(wiring))).toBe(true)
        expect(bareTerminals(after, part)).toEqual([])
      }
      expect(harnessFindings(after)).toEqual([])
      expect(openEnds(after).filter((e) => e.station === 'pin' && e.panelId === undefined)).toEqual([])
      expect(wireList(after)).toEqual([])
      expect(partsList(after).map((l) => l.what)).toEqual([boardIn(after).name])
      const [panel] = panelsOf(after)
      expect(panel?.name).toBe(boardIn(after).name)
      expect(panel && fitFindings(after, panel).map((f) => f.words)).toEqual([])
    },
  )

  it('makes one switch of buttons that were parts before, with what was bound to them gone', () => {
    const rig = withBox()
    const inputs = inputsOf(simulatedCapabilities('switch box', 'x'))
    const first = apply(rig, takingParts(rig, boardIn(rig), plainParts(inputs), id))
    const taken = oneSwitch(['B7', 'B8', 'B9', 'B10', 'B11'], false) ?? expect.fail()
    const after = apply(
      first,
      takingParts(first, boardIn(first), [{ ...taken, name: 'Selector', labels: { 1: 'off' } }], id),
    )
    const selector = partsByPin(after, boardIn(after)).get('B9')
    expect(selector?.kind).toBe('rotary-5-36deg')
    expect(selector?.settings.labels).toEqual({ 1: 'off' })
    expect(rowsOf(after, 'part')).toHaveLength(12)
    expect(rowsOf(after, 'lead').filter((l) => !after.part[l.partId ?? ''])).toEqual([])
    expect(new Set(rowsOf(after, 'part').map((p) => p.name)).size).toBe(12)
    const [panel] = panelsOf(after)
    expect(panel && fitFindings(after, panel)).toEqual([])
  })

  it('has a switch of the catalogue for every number of positions up to twelve, and says none beyond', () => {
    for (let count = 2; count <= 12; count++) {
      const names = Array.from({ length: count }, (_, i) => `B${i + 1}`)
      const taken = oneSwitch(names, false) ?? expect.fail(`${count}`)
      const kind = partKind(taken.kind) ?? expect.fail(taken.kind)
      const aspect = positionsAspect(kind) ?? expect.fail()
      // Each button alone is a position of its own; none closed is no contradiction.
      const terminals = Object.keys(taken.pins)
      const stands = terminals.map((_, i) => positionOf(aspect, terminals, 1 << i))
      expect(new Set(stands).size).toBe(count)
      expect(stands.every((p) => typeof p === 'string')).toBe(true)
      expect(positionOf(aspect, terminals, 0)).toBeUndefined()
    }
    expect(oneSwitch(['B1'], false)).toBeNull()
    expect(oneSwitch(['B1', 'B1'], false)).toBeNull()
    expect(
      oneSwitch(
        Array.from({ length: 13 }, (_, i) => `B${i}`),
        false,
      ),
    ).toBeNull()
    expect(oneSwitch(['B1', 'B2'], true)?.kind).toBe('toggle-3')
  })

  it('has a name that is free', () => {
    const rig = withBox()
    expect(boardOf(rig, simulatedCapabilities('switch box', 'y'), 'f'.repeat(16), 'b2').name).toBe(
      'Simulated switch box 2',
    )
  })
})

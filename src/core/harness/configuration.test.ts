import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { control, demoRig, lamp, smallRig } from '../../../tests/rigs'
import { expanderKinds } from '../catalogue/expanders'
import { apply, changeRow, type Diff, removeRow } from '../rig/edit'
import type { LeadRow, PartRow } from '../rig/rows'
import { boardLines, type Chip } from './chip'
import { differingParts, wantedConfiguration, wantedOn } from './configuration'
import {
  CONFIGURATION_VERSION,
  decodeConfiguration,
  encodeConfiguration,
  fingerprint,
  type Slot,
} from './slot'
import { type Wiring, wiringsOf } from './wiring'

/** Pins of a board, and channels of its first few chips. */
const pin = fc.oneof(fc.integer({ min: 0, max: 69 }), fc.integer({ min: 256, max: 256 * 5 + 63 }))
const chip: fc.Arbitrary<Chip> = fc.constantFrom(...expanderKinds.filter((k) => !k.follows)).chain((kind) =>
  fc.record({
    kind: fc.constant(kind.id),
    pins: fc.array(fc.integer({ min: 0, max: 69 }), {
      minLength: boardLines(kind).length,
      maxLength: boardLines(kind).length,
    }),
    chips: fc.integer({ min: 1, max: kind.mostChips }),
    address: fc.integer({ min: 0, max: 127 }),
  }),
)
const rest = fc.oneof(fc.integer({ min: 0, max: 3600 }), fc.constant('keep' as const))
const slot: fc.Arbitrary<Slot> = fc.oneof(
  fc.record({
    kind: fc.constant('contacts' as const),
    pins: fc.array(pin, { minLength: 1, maxLength: 15 }),
    debounceMs: fc.integer({ min: 0, max: 255 }),
  }),
  fc.record({ kind: fc.constant('encoder' as const), pins: fc.array(pin, { minLength: 2, maxLength: 2 }) }),
  fc.record({ kind: fc.constant('analog' as const), pin, smoothing: fc.integer({ min: 0, max: 3 }) }),
  fc.record({ kind: fc.constant('lamp' as const), pin, sinks: fc.boolean(), rest }),
  fc.record({
    kind: fc.constant('digits' as const),
    pins: fc.array(pin, { minLength: 2, maxLength: 3 }),
    driver: fc.constantFrom('MAX7219' as const, 'TM1637' as const),
    digits: fc.integer({ min: 3, max: 8 }),
    keep: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('text' as const),
    pins: fc.array(pin, { minLength: 2, maxLength: 2 }),
    columns: fc.integer({ min: 16, max: 20 }),
    rows: fc.integer({ min: 1, max: 4 }),
    address: fc.integer({ min: 0, max: 127 }),
    keep: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('needle' as const),
    pins: fc.array(pin, { minLength: 1, maxLength: 4 }),
    drive: fc.constantFrom('four-wire' as const, 'servo' as const),
    travelDeg: fc.integer({ min: 90, max: 720 }),
    degPerS: fc.integer({ min: 1, max: 2000 }),
    rest,
  }),
  fc.record({
    kind: fc.constant('colour' as const),
    pin,
    lamps: fc.integer({ min: 1, max: 300 }),
    keep: fc.boolean(),
  }),
)

const lead = (rig: ReturnType<typeof demoRig>, id: string) => rig.lead[id] as LeadRow
const rewire = (rig: ReturnType<typeof demoRig>, id: string, to: Partial<LeadRow>) =>
  apply(rig, [changeRow('lead', lead(rig, id), { ...lead(rig, id), ...to }) as Diff[number]])

describe('a board configuration', () => {
  it('comes out of its bytes as it went in', () => {
    fc.assert(
      fc.property(fc.array(chip, { maxLength: 6 }), fc.array(slot, { maxLength: 60 }), (chips, slots) => {
        expect(decodeConfiguration(encodeConfiguration({ chips, slots }))).toEqual({ chips, slots })
      }),
    )
  })

  it('is refused when it is cut short, of another version, or of unknown kinds', () => {
    const bytes = encodeConfiguration({ chips: [], slots: [{ kind: 'lamp', pin: 3, sinks: false, rest: 0 }] })
    expect(decodeConfiguration(bytes.subarray(0, 4))).toHaveProperty('problem')
    expect(decodeConfiguration(Uint8Array.from([9, 0, 0]))).toEqual({
      problem: 'configuration version 9 is not known',
    })
    expect(decodeConfiguration(Uint8Array.from([CONFIGURATION_VERSION, 0, 1, 77]))).toEqual({
      problem: 'slot 0 is of kind 13, which is not known',
    })
  })

  it('never crashes on noise', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 80 }), (bytes) => void decodeConfiguration(bytes)))
  })

  it('has a fingerprint that tells different ones apart', () => {
    // FNV-1a test vectors of its authors.
    expect(fingerprint(new TextEncoder().encode('a'))).toBe('af63dc4c8601ec8c')
    expect(fingerprint(new TextEncoder().encode('foobar'))).toBe('85944171f73967e8')
  })

  it('holds each wired part of the board once, contacts of one part together', () => {
    const wanted = wantedOn(demoRig(), 'port-board').slots
    expect(wanted.map((w) => w.partId)).toEqual([
      'wheel-lever',
      'bow-left',
      'bow-right',
      'main-left',
      'main-right',
      'water-rudder',
    ])
    expect(wanted[0]?.slot).toEqual({ kind: 'contacts', pins: [22, 24], debounceMs: 12 })
  })
})

describe('wiring', () => {
  const rig = smallRig({ lever: control(), lamp: lamp() })
  const words = (of: typeof rig, partId: string) => {
    const wiring = wiringsOf(of, of.part[partId] as PartRow)[0]?.wiring as Wiring
    return 'message' in wiring ? wiring.message : 'wired'
  }

  it('names the terminal that has no pin', () => {
    expect(words(apply(rig, [removeRow('lead', lead(rig, 'lead-2'))]), 'lever')).toBe(
      'terminal “lower contact” has no pin',
    )
  })
  it('names a pin the board does not have, or keeps for itself', () => {
    expect(words(rewire(rig, 'lead-3', { pin: 'D99' }), 'lamp')).toBe('Test board has no pin D99')
    expect(words(rewire(rig, 'lead-3', { pin: 'D1' }), 'lamp')).toBe(
      'Test board D1 is taken by the serial link to the computer',
    )
  })
  it('says when a board model is not known', () => {
    const board = rig.board.board
    if (!board) throw new Error('no board')
    const odd = apply(rig, [changeRow('board', board, { ...board, model: 'zx99' }) as Diff[number]])
    expect(words(odd, 'lamp')).toBe('board model “zx99” is not known here')
  })
})

describe('what is on a board', () => {
  const rig = demoRig()
  const loaded = wantedConfiguration(rig, 'port-board')

  it('does not differ right after loading', () => {
    expect(differingParts(rig, 'port-board', loaded)).toEqual([])
  })
  it('differs in just the part whose lead has moved', () => {
    const moved = rewire(rig, 'lead-4', { pin: 'D40' })
    expect(differingParts(moved, 'port-board', loaded)).toEqual(['bow-left'])
  })
  it('does not differ for what the board need not know', () => {
    const row = rig.part['bow-left'] as PartRow
    const renamed = apply(rig, [
      changeRow('part', row, { ...row, name: 'Fore left', xMm: 3 }) as Diff[number],
    ])
    expect(differingParts(renamed, 'port-board', loaded)).toEqual([])
  })
})

import { describe, expect, it } from 'vitest'
import { control, demoRig, lamp, smallRig } from '../../../../tests/rigs'
import { expanderKind } from '../../catalogue/expanders'
import { addRow, apply, changeRow, type Diff, invalidRows } from '../../rig/edit'
import type { Rig } from '../../rig/rig'
import {
  type ExpanderRow,
  type LeadRow,
  type PartRow,
  type SupplyRow,
  type TableName,
  tables,
} from '../../rig/rows'
import { drawsOf } from '../draws'
import { type LeadEnd, leadsTo } from '../leads'
import type { KnownLimits } from './capacity'
import type { FindingKind, HarnessFinding } from './finding'
import { partsThatCannotWork } from './finding'
import { harnessFindings } from './findings'

let made = 0
const id = () => `made-${++made}`

/** A rig of one board that grows by parts, expanders and wires. */
class Bench {
  rig: Rig

  constructor(model = 'atmega2560') {
    this.rig = smallRig({})
    this.set('board', 'board', { model })
  }

  do(...changes: Diff): this {
    this.rig = apply(this.rig, changes)
    return this
  }

  set<T extends TableName>(table: T, row: string, to: object): this {
    const before = this.rig[table][row]
    const change = before && changeRow(table, before as never, { ...(before as object), ...to } as never)
    return change ? this.do(change) : this
  }

  part(
    kind: string,
    settings: PartRow['settings'] = {},
    name = `${kind} ${Object.keys(this.rig.part).length + 1}`,
  ): string {
    const part = { id: id(), panelId: 'panel', name, kind, xMm: 10, yMm: 10, rotationDeg: 0, settings }
    this.do(addRow('part', part))
    return part.id
  }

  expander(kind: string, more: Partial<ExpanderRow> = {}): string {
    const row = {
      id: id(),
      boardId: 'board',
      name: `U${made}`,
      kind,
      chips: 1,
      jumpers: 0,
      position: made,
      ...more,
    }
    this.do(addRow('expander', row))
    return row.id
  }

  supply(more: Partial<SupplyRow> = {}): string {
    const row = {
      id: id(),
      name: `Supply ${made}`,
      volts: 5,
      maxMilliamps: 4000,
      groundJoined: true,
      plusJoinedTo: null,
    }
    this.do(addRow('supply', { ...row, ...more }))
    return row.id
  }

  /** Wires of a part or expander: a pin's name, `ground`, a supply, or a channel as `expander 3`. */
  wire(owner: string, ends: Readonly<Record<string, string>>): this {
    const of = this.rig.part[owner] ? ('part' as const) : ('expander' as const)
    const wires = Object.entries(ends).map(([terminal, end]) => ({
      from: { of, id: owner, terminal },
      end: this.end(end),
    }))
    return this.do(...leadsTo(this.rig, wires, id))
  }

  private end(words: string): LeadEnd {
    if (words === 'ground') return { at: 'ground' }
    if (this.rig.supply[words]) return { at: 'supply', supplyId: words }
    const [expanderId = '', channel] = words.split(' ')
    if (this.rig.expander[expanderId]) return { at: 'channel', expanderId, channel: Number(channel) }
    const [boardId, pin] = words.includes(':') ? words.split(':') : ['board', words]
    return { at: 'contact', boardId: boardId ?? '', pin: pin ?? '' }
  }

  /** A lamp with the resistor it needs at 5 V. */
  lamp(pin: string, kind = 'lamp-8-green', ohms: number | null = 150): string {
    const part = this.part(kind, ohms === null ? {} : { seriesOhms: ohms })
    this.wire(part, { plus: pin, minus: 'ground' })
    return part
  }

  button(pin: string): string {
    const part = this.part('button-10-red')
    this.wire(part, { common: 'ground', closed: pin })
    return part
  }

  leadOf(owner: string, terminal: string): LeadRow {
    const lead = Object.values(this.rig.lead).find(
      (l) => (l.partId === owner || l.fromExpanderId === owner) && l.terminal === terminal,
    )
    if (!lead) throw new Error(`no lead at ${terminal}`)
    return lead
  }
}

/** An expander with its lines on the pins from one on. */
const wiredExpander = (
  b: Bench,
  kind: string,
  from: number,
  more: Partial<ExpanderRow> = {},
  plus = '5V',
): string => {
  const expander = b.expander(kind, more)
  const lines = expanderKind(kind)?.lines ?? []
  let pin = from
  const ends = lines.map((l): [string, string] => {
    if (l.role === 'plus') return [l.id, plus]
    if (l.role === 'ground') return [l.id, 'ground']
    if (l.role === 'two-wire-data') return [l.id, 'D20']
    if (l.role === 'two-wire-clock') return [l.id, 'D21']
    return [l.id, `D${pin++}`]
  })
  b.wire(expander, Object.fromEntries(ends))
  return expander
}

interface Case {
  readonly kind: FindingKind
  readonly what: string
  readonly has: (b: Bench) => void
  readonly justNot: (b: Bench) => void
  readonly model?: string
  /** No edit mends it: something has to be bought or thought about. */
  readonly incurable?: boolean
}

const display = (b: Bench, ends: Record<string, string>, settings: PartRow['settings'] = {}) => {
  const part = b.part('text-16x2', settings)
  b.wire(part, { ground: 'ground', plus: '5V', ...ends })
  return part
}

/** An RGB lamp behind a level shifter, both fed alike. */
const shifted = (b: Bench, plus: string): void => {
  const shifter = b.expander('74hct245')
  b.wire(shifter, { 'in-1': 'GP10', plus, ground: 'ground' })
  b.wire(b.part('colour-lamp-8'), { ground: 'ground', plus, data: `${shifter} 0` })
}

/** A display on the high side of a bus shifter. */
const onBusShifter = (b: Bench, part: string): void => {
  const shifter = b.expander('bss138')
  b.wire(shifter, { 'in-1': 'GP4', 'in-2': 'GP5', low: '3V3', plus: 'VBUS', ground: 'ground' })
  b.wire(part, { ground: 'ground', plus: 'VBUS', data: `${shifter} 0`, clock: `${shifter} 1` })
}

const brightLamps = (b: Bench, steps: string): void => {
  const driver = b.expander('tlc5940')
  b.wire(driver, { data: 'D2', clock: 'D3', latch: 'D4', blank: 'D8', steps, plus: '5V', ground: 'ground' })
}

/** Lamps of 20 mA whose minus is on a pin, from one on: the analog ones, or those of this number. */
const sinkingLamps = (b: Bench, count: number, from: number | null = null): void => {
  for (let n = 0; n < count; n++) {
    const part = b.part('lamp-8-green', { seriesOhms: 150 })
    b.wire(part, { plus: '5V', minus: from === null ? `A${n}` : `D${from + n}` })
  }
}

/** Two gauge motors on eight pins of one group, with lamps on its last pin beside them. */
const motors = (b: Bench, first: string[], second: string[], lamps: number): void => {
  for (const pins of [first, second])
    b.wire(b.part('gauge-36'), Object.fromEntries(pins.map((p, i) => [`coil-${i + 1}`, p])))
  for (let n = 0; n < lamps; n++) b.lamp('D13')
}

/** A board fed by a supply, with a display that takes 110 mA in everyday use. */
const fedBy = (b: Bench, volts: number, displays = 1): void => {
  const supplyId = b.supply({ volts })
  b.set('board', 'board', { supplyId })
  for (let n = 0; n < displays; n++)
    b.wire(b.part('digits-4-max7219'), {
      ...{ plus: '5V', ground: 'ground', data: 'D2', clock: 'D3', select: 'D4' },
    })
}

/** A lamp of 20 mA behind a switch array, from a supply. */
const strongLamp = (b: Bench, volts: number, seriesOhms: number): void => {
  const supply = b.supply({ volts })
  const array = b.expander('uln2803')
  b.wire(array, { 'in-1': 'D30', plus: supply, ground: 'ground' })
  b.wire(b.part('lamp-8-green', { seriesOhms }), { plus: supply, minus: `${array} 0` })
}

const cases: readonly Case[] = [
  {
    kind: 'clash',
    what: 'two wires on one pin',
    has: (b) => {
      b.button('D30')
      b.button('D30')
    },
    justNot: (b) => {
      b.button('D30')
      b.button('D31')
    },
  },
  {
    kind: 'clash',
    what: 'two displays that share more than may be shared',
    has: (b) => {
      for (const select of ['D32', 'D32']) {
        const part = b.part('digits-5-max7219')
        b.wire(part, { plus: '5V', ground: 'ground', data: 'D30', clock: 'D31', select })
      }
    },
    justNot: (b) => {
      for (const select of ['D32', 'D33']) {
        const part = b.part('digits-5-max7219')
        b.wire(part, { plus: '5V', ground: 'ground', data: 'D30', clock: 'D31', select })
      }
    },
  },
  {
    kind: 'ability',
    what: 'a wiper on a pin that cannot measure',
    has: (b) => void b.wire(b.part('pot'), { ground: 'ground', plus: '5V', wiper: 'D30' }),
    justNot: (b) => void b.wire(b.part('pot'), { ground: 'ground', plus: '5V', wiper: 'A0' }),
  },
  {
    kind: 'ability',
    what: 'a contact on an analog-only pin',
    model: 'atmega328p-small',
    has: (b) => void b.button('A6'),
    justNot: (b) => void b.button('A5'),
  },
  {
    kind: 'ability',
    what: 'a lamp on an expander that only reads',
    has: (b) => {
      const mux = wiredExpander(b, 'mux-16', 40)
      b.wire(b.part('lamp-8-green', { seriesOhms: 150 }), { plus: `${mux} 3`, minus: 'ground' })
    },
    justNot: (b) => {
      const mux = wiredExpander(b, 'mux-16', 40)
      b.wire(b.part('button-10-red'), { common: 'ground', closed: `${mux} 3` })
    },
  },
  {
    kind: 'own pin',
    what: 'a wire on the serial link',
    has: (b) => void b.button('D1'),
    justNot: (b) => void b.button('D2'),
  },
  {
    kind: 'two-wire',
    what: 'a display on pins that are not the bus',
    has: (b) => void display(b, { data: 'D30', clock: 'D21' }),
    justNot: (b) => void display(b, { data: 'D20', clock: 'D21' }),
  },
  {
    kind: 'address',
    what: 'two displays with the same jumpers',
    has: (b) => {
      for (let n = 0; n < 2; n++) display(b, { data: 'D20', clock: 'D21' })
    },
    justNot: (b) => {
      for (const jumpers of [7, 6]) display(b, { data: 'D20', clock: 'D21' }, { jumpers })
    },
  },
  {
    kind: 'address',
    what: 'two displays that meet, beside others that have their places',
    has: (b) => {
      for (const jumpers of [0, 1, 7, 7]) display(b, { data: 'D20', clock: 'D21' }, { jumpers })
    },
    justNot: (b) => {
      for (const jumpers of [0, 1, 2, 7]) display(b, { data: 'D20', clock: 'D21' }, { jumpers })
    },
  },
  {
    kind: 'address',
    what: 'a display and a port expander whose addresses meet',
    has: (b) => {
      display(b, { data: 'D20', clock: 'D21' })
      wiredExpander(b, 'mcp23017', 0, { jumpers: 7 })
    },
    justNot: (b) => {
      display(b, { data: 'D20', clock: 'D21' })
      wiredExpander(b, 'mcp23017', 0, { jumpers: 3 })
    },
  },
  {
    kind: 'two boards',
    what: 'an encoder on two boards',
    has: (b) => {
      b.do(
        addRow('board', {
          id: 'other',
          name: 'Other',
          model: 'atmega2560',
          identity: null,
          position: 2,
          supplyId: null,
          own: null,
        }),
      )
      b.wire(b.part('encoder'), { common: 'ground', a: 'D30', b: 'other:D30' })
    },
    justNot: (b) => {
      b.do(
        addRow('board', {
          id: 'other',
          name: 'Other',
          model: 'atmega2560',
          identity: null,
          position: 2,
          supplyId: null,
          own: null,
        }),
      )
      b.wire(b.part('encoder'), { common: 'ground', a: 'D30', b: 'D31' })
    },
  },
  {
    kind: 'resistor',
    what: 'a lamp without a resistor',
    has: (b) => void b.lamp('D30', 'lamp-8-green', null),
    justNot: (b) => void b.lamp('D30', 'lamp-8-green', 150),
  },
  {
    kind: 'resistor',
    what: 'a lamp with too small a resistor',
    has: (b) => void b.lamp('D30', 'lamp-5-green', 220),
    justNot: (b) => void b.lamp('D30', 'lamp-5-green', 240),
  },
  {
    kind: 'resistor',
    what: 'a lamp that can hardly be seen',
    has: (b) => void b.lamp('D30', 'lamp-5-green', 2200),
    justNot: (b) => void b.lamp('D30', 'lamp-5-green', 1800),
  },
  {
    kind: 'pin current',
    what: 'more than a pin stands',
    model: 'rp2040',
    has: (b) => void b.lamp('GP10', 'lamp-8-red', 100),
    justNot: (b) => void b.lamp('GP10', 'lamp-8-red', 120),
  },
  {
    kind: 'group current',
    what: 'more than a group of pins stands',
    has: (b) => {
      for (let n = 0; n < 6; n++) b.lamp(`A${n}`)
    },
    justNot: (b) => {
      for (let n = 0; n < 5; n++) b.lamp(`A${n}`)
    },
  },
  {
    kind: 'board current',
    what: 'more than all pins together stand',
    has: (b) => {
      for (let n = 30; n < 41; n++) b.lamp(`D${n}`)
    },
    justNot: (b) => {
      for (let n = 30; n < 40; n++) b.lamp(`D${n}`)
    },
  },
  {
    kind: 'expander current',
    what: 'more than a shift register stands',
    has: (b) => {
      const chain = wiredExpander(b, '74hc595', 40)
      for (let n = 0; n < 8; n++)
        b.wire(b.part('lamp-5-green', { seriesOhms: 300 }), { plus: `${chain} ${n}`, minus: 'ground' })
    },
    justNot: (b) => {
      const chain = wiredExpander(b, '74hc595', 40)
      for (let n = 0; n < 7; n++)
        b.wire(b.part('lamp-5-green', { seriesOhms: 300 }), { plus: `${chain} ${n}`, minus: 'ground' })
    },
  },
  {
    kind: 'rail current',
    what: 'more than the 3.3 V contact gives',
    has: (b) =>
      void b.wire(b.part('digits-3-max7219'), {
        plus: '3V3',
        ground: 'ground',
        data: 'D30',
        clock: 'D31',
        select: 'D32',
      }),
    justNot: (b) => void b.wire(b.part('colour-lamp-8'), { plus: '5V', ground: 'ground', data: 'D30' }),
  },
  {
    kind: 'usb current',
    what: 'more than the computer gives',
    has: (b) => {
      for (const d of [30, 33])
        b.wire(b.part('digits-6-max7219'), {
          plus: '5V',
          ground: 'ground',
          data: `D${d}`,
          clock: `D${d + 1}`,
          select: `D${d + 2}`,
        })
    },
    justNot: (b) => {
      b.wire(b.part('digits-6-max7219'), {
        plus: '5V',
        ground: 'ground',
        data: 'D30',
        clock: 'D31',
        select: 'D32',
      })
    },
  },
  {
    kind: 'supply current',
    what: 'more than a supply gives',
    has: (b) =>
      void b.wire(b.part('strip-24'), {
        plus: b.supply({ maxMilliamps: 1400 }),
        ground: 'ground',
        data: 'D30',
      }),
    justNot: (b) =>
      void b.wire(b.part('strip-24'), {
        plus: b.supply({ maxMilliamps: 1440 }),
        ground: 'ground',
        data: 'D30',
      }),
  },
  {
    kind: 'ground',
    what: 'a supply whose minus is not joined',
    has: (b) =>
      void b.wire(b.part('strip-8'), {
        plus: b.supply({ groundJoined: false }),
        ground: 'ground',
        data: 'D30',
      }),
    justNot: (b) => void b.wire(b.part('strip-8'), { plus: b.supply(), ground: 'ground', data: 'D30' }),
  },
  {
    kind: 'joined plus',
    what: 'a supply whose plus is joined to the board’s',
    has: (b) => void b.supply({ plusJoinedTo: 'board' }),
    justNot: (b) => void b.supply(),
  },
  {
    kind: 'voltage',
    what: 'a lever at 5 V on a board of 3.3 V',
    model: 'rp2040',
    has: (b) => void b.wire(b.part('pot'), { ground: 'ground', plus: 'VBUS', wiper: 'GP26' }),
    justNot: (b) => void b.wire(b.part('pot'), { ground: 'ground', plus: '3V3', wiper: 'GP26' }),
  },
  {
    kind: 'voltage',
    what: 'a display that pulls the bus of a 3.3 V board up to 5 V',
    model: 'rp2040',
    has: (b) =>
      void b.wire(b.part('text-16x2'), { ground: 'ground', plus: 'VBUS', data: 'GP4', clock: 'GP5' }),
    justNot: (b) => void onBusShifter(b, b.part('text-16x2')),
  },
  {
    kind: 'voltage',
    what: 'a text display at 3.3 V, whose glass stays blank',
    has: (b) =>
      void b.wire(b.part('text-16x2'), { ground: 'ground', plus: '3V3', data: 'D20', clock: 'D21' }),
    justNot: (b) =>
      void b.wire(b.part('text-16x2'), { ground: 'ground', plus: '5V', data: 'D20', clock: 'D21' }),
  },
  {
    kind: 'voltage',
    what: 'a digit driver at 3.3 V',
    model: 'rp2040',
    has: (b) =>
      void b.wire(b.part('digits-4-max7219'), {
        ...{ ground: 'ground', plus: '3V3', data: 'GP10', clock: 'GP11', select: 'GP12' },
      }),
    justNot: (b) => {
      const shifter = b.expander('74hct245')
      b.wire(shifter, { 'in-1': 'GP10', 'in-2': 'GP11', 'in-3': 'GP12', plus: 'VBUS', ground: 'ground' })
      b.wire(b.part('digits-4-max7219'), {
        ...{ ground: 'ground', plus: 'VBUS' },
        ...{ data: `${shifter} 0`, clock: `${shifter} 1`, select: `${shifter} 2` },
      })
    },
  },
  {
    kind: 'voltage',
    what: 'a strip at 3.3 V',
    has: (b) => void b.wire(b.part('strip-8'), { ground: 'ground', plus: '3V3', data: 'D30' }),
    justNot: (b) => void b.wire(b.part('strip-8'), { ground: 'ground', plus: '5V', data: 'D30' }),
  },
  {
    kind: 'voltage',
    what: 'a servo at 3.3 V, with a supply that could feed it',
    has: (b) => {
      b.supply()
      b.wire(b.part('gauge-servo-36'), { ground: 'ground', plus: '3V3', pulse: 'D30' })
    },
    justNot: (b) => {
      const supply = b.supply()
      b.wire(b.part('gauge-servo-36'), { ground: 'ground', plus: supply, pulse: 'D30' })
    },
  },
  {
    kind: 'voltage',
    what: 'a servo at 12 V',
    has: (b) => {
      b.supply()
      const strong = b.supply({ volts: 12 })
      b.wire(b.part('gauge-servo-36'), { ground: 'ground', plus: strong, pulse: 'D30' })
    },
    justNot: (b) => {
      const supply = b.supply({ volts: 6 })
      b.wire(b.part('gauge-servo-36'), { ground: 'ground', plus: supply, pulse: 'D30' })
    },
  },
  {
    kind: 'ability',
    what: 'a button on the pin that has the lamp of the board',
    model: 'atmega328p',
    has: (b) => void b.button('D13'),
    justNot: (b) => {
      b.button('D12')
      // It may be driven.
      b.lamp('D13')
    },
  },
  {
    kind: 'ability',
    what: 'a brightness clock on a pin without a timer output',
    model: 'atmega328p',
    has: (b) => void brightLamps(b, 'D7'),
    justNot: (b) => void brightLamps(b, 'D9'),
  },
  {
    kind: 'timer',
    what: 'a servo, and a brightness clock on the timer that servos take',
    model: 'atmega328p',
    has: (b) => {
      brightLamps(b, 'D9')
      b.wire(b.part('gauge-servo-36'), { pulse: 'D6', plus: '5V', ground: 'ground' })
    },
    justNot: (b) => {
      brightLamps(b, 'D11')
      b.wire(b.part('gauge-servo-36'), { pulse: 'D6', plus: '5V', ground: 'ground' })
      b.wire(b.part('gauge-servo-36'), { pulse: 'D7', plus: '5V', ground: 'ground' })
    },
  },
  {
    kind: 'timer',
    what: 'a lamp on a pin whose timer makes a frequency',
    model: 'atmega328p',
    has: (b) => {
      b.wire(b.part('gauge-pulses-52'), { pulses: 'D9', plus: '5V', ground: 'ground' })
      b.lamp('D10')
    },
    justNot: (b) => {
      b.wire(b.part('gauge-pulses-52'), { pulses: 'D9', plus: '5V', ground: 'ground' })
      b.lamp('D11')
      // What is only read needs no timer.
      b.button('D10')
    },
  },
  {
    kind: 'pwm',
    what: 'two lamps that one timer channel drives',
    model: 'rp2040',
    has: (b) => {
      b.lamp('GP2')
      b.lamp('GP18')
    },
    justNot: (b) => {
      b.lamp('GP2')
      b.lamp('GP19')
      b.button('GP18')
    },
  },
  {
    kind: 'address',
    what: 'a pulse driver at the address of all of them',
    has: (b) => void wiredExpander(b, 'pca9685', 40, { jumpers: 0x30 }),
    justNot: (b) => void wiredExpander(b, 'pca9685', 40, { jumpers: 0x31 }),
  },
  {
    kind: 'group current',
    what: 'lamps that a group of pins takes in',
    model: 'atmega328p',
    has: (b) => sinkingLamps(b, 6),
    justNot: (b) => sinkingLamps(b, 5),
  },
  {
    kind: 'board current',
    what: 'lamps that all pins take in, through ground',
    model: 'atmega2560',
    has: (b) => sinkingLamps(b, 11, 30),
    justNot: (b) => sinkingLamps(b, 10, 30),
  },
  {
    kind: 'group current',
    what: 'gauge motors, each coil counted once',
    model: 'atmega328p',
    incurable: true,
    has: (b) => motors(b, ['D5', 'D6', 'D7', 'D8'], ['D9', 'D10', 'D11', 'D12'], 5),
    justNot: (b) => motors(b, ['D5', 'D6', 'D7', 'D8'], ['D9', 'D10', 'D11', 'D12'], 3),
  },
  {
    kind: 'regulator',
    what: 'a regulator that gets too hot',
    model: 'atmega328p',
    has: (b) => fedBy(b, 12),
    justNot: (b) => fedBy(b, 9),
  },
  {
    kind: 'regulator',
    what: 'more volts than a board takes',
    model: 'rp2040',
    has: (b) => fedBy(b, 9),
    justNot: (b) => fedBy(b, 5),
  },
  {
    kind: 'regulator',
    what: 'volts that neither the regulator nor the 5 V contact takes',
    model: 'atmega328p',
    has: (b) => fedBy(b, 24, 0),
    justNot: (b) => fedBy(b, 7, 0),
  },
  {
    kind: 'resistor heat',
    what: 'a resistor that gets too hot',
    has: (b) => strongLamp(b, 24, 1000),
    justNot: (b) => strongLamp(b, 12, 470),
  },
  {
    kind: 'resistor',
    what: 'a resistor reckoned without what is lost in the switch array',
    has: (b) => strongLamp(b, 5, 30),
    justNot: (b) => strongLamp(b, 5, 100),
  },
  {
    kind: 'voltage',
    what: 'a chip at 5 V that answers a board of 3.3 V',
    model: 'rp2040',
    has: (b) => {
      const u = b.expander('74hc165')
      b.wire(u, { data: 'GP10', clock: 'GP11', load: 'GP12', plus: 'VBUS', ground: 'ground' })
    },
    justNot: (b) => {
      const u = b.expander('74hc165')
      b.wire(u, { data: 'GP10', clock: 'GP11', load: 'GP12', plus: '3V3', ground: 'ground' })
    },
  },
  {
    kind: 'voltage',
    what: 'a blue lamp on a pin of 3.3 V',
    model: 'rp2040',
    has: (b) => void b.lamp('GP10', 'lamp-5-blue', 100),
    justNot: (b) => void b.lamp('GP10', 'lamp-5-red', 150),
  },
  {
    kind: 'voltage',
    what: 'an RGB lamp at 5 V on a pin of 3.3 V',
    model: 'rp2040',
    has: (b) => void b.wire(b.part('colour-lamp-8'), { ground: 'ground', plus: 'VBUS', data: 'GP10' }),
    justNot: (b) => shifted(b, 'VBUS'),
  },
  {
    kind: 'voltage',
    what: 'digits of a driver that answers, at 5 V on pins of 3.3 V',
    model: 'rp2040',
    has: (b) =>
      void b.wire(b.part('digits-4-tm1637'), { ground: 'ground', plus: 'VBUS', clock: 'GP10', data: 'GP11' }),
    // A text display takes 2.2 V for high, whatever feeds it.
    justNot: (b) =>
      void b.wire(b.part('text-16x2-parallel'), {
        ...{ ground: 'ground', plus: 'VBUS', register: 'GP10', enable: 'GP11' },
        ...{ 'data-4': 'GP12', 'data-5': 'GP13', 'data-6': 'GP14', 'data-7': 'GP15' },
      }),
  },
  {
    kind: 'voltage',
    what: 'a level shifter that is fed with 3.3 V',
    model: 'rp2040',
    has: (b) => shifted(b, '3V3'),
    justNot: (b) => shifted(b, 'VBUS'),
  },
  {
    kind: 'inductive',
    what: 'a coil on a bare pin',
    has: (b) => void b.wire(b.part('buzzer-12'), { plus: 'D30', minus: 'ground' }),
    justNot: (b) => {
      const array = b.expander('uln2803')
      b.wire(array, { 'in-1': 'D30', plus: '5V', ground: 'ground' })
      b.wire(b.part('buzzer-12'), { plus: '5V', minus: `${array} 0` })
    },
  },
  {
    kind: 'board supply',
    what: 'a servo on the board’s own supply',
    has: (b) => void b.wire(b.part('gauge-servo-36'), { ground: 'ground', plus: '5V', pulse: 'D30' }),
    justNot: (b) =>
      void b.wire(b.part('gauge-servo-36'), { ground: 'ground', plus: b.supply(), pulse: 'D30' }),
  },
  {
    kind: 'open',
    what: 'a terminal without a wire',
    has: (b) => void b.wire(b.part('encoder'), { common: 'ground', a: 'D30' }),
    justNot: (b) => void b.wire(b.part('encoder'), { common: 'ground', a: 'D30', b: 'D31' }),
  },
  {
    kind: 'open',
    what: 'an expander whose clock hangs nowhere',
    has: (b) =>
      void b.wire(b.expander('74hc165'), { data: 'D30', load: 'D31', plus: '5V', ground: 'ground' }),
    justNot: (b) =>
      void b.wire(b.expander('74hc165'), {
        data: 'D30',
        load: 'D31',
        clock: 'D32',
        plus: '5V',
        ground: 'ground',
      }),
  },
  {
    kind: 'channels',
    what: 'a wire beyond the end of a chain',
    has: (b) => {
      const chain = wiredExpander(b, '74hc165', 40)
      b.wire(b.part('button-10-red'), { common: 'ground', closed: `${chain} 8` })
    },
    justNot: (b) => {
      const chain = wiredExpander(b, '74hc165', 40)
      b.wire(b.part('button-10-red'), { common: 'ground', closed: `${chain} 7` })
    },
  },
  {
    kind: 'open',
    what: 'a channel of a switch array without its input',
    has: (b) => {
      const array = b.expander('uln2803')
      b.wire(array, { plus: '5V', ground: 'ground' })
      b.wire(b.part('buzzer-12'), { plus: '5V', minus: `${array} 0` })
    },
    justNot: (b) => {
      const array = b.expander('uln2803')
      b.wire(array, { 'in-1': 'D30', plus: '5V', ground: 'ground' })
      b.wire(b.part('buzzer-12'), { plus: '5V', minus: `${array} 0` })
    },
  },
  {
    kind: 'ribbon',
    what: 'a ribbon whose wires are apart',
    has: (b) => {
      const knob = b.part('encoder')
      b.wire(knob, { common: 'ground', a: 'D30', b: 'D36' })
      for (const t of ['a', 'b']) b.set('lead', b.leadOf(knob, t).id, { ribbon: 'R1' })
    },
    justNot: (b) => {
      const knob = b.part('encoder')
      b.wire(knob, { common: 'ground', a: 'D30', b: 'D32' })
      for (const t of ['a', 'b']) b.set('lead', b.leadOf(knob, t).id, { ribbon: 'R1' })
    },
  },
  {
    kind: 'unknown',
    what: 'a board of a model that is not known',
    has: (b) => void b.set('board', 'board', { model: 'zx-99' }),
    justNot: () => {},
    incurable: true,
  },
]

const of = (rig: Rig, kind: FindingKind): HarnessFinding[] =>
  harnessFindings(rig).filter((f) => f.kind === kind)

describe.each(cases)('$kind: $what', ({ kind, has, justNot, model, incurable }) => {
  it('is found, explains itself, points at the place, and its cure mends it', () => {
    const b = new Bench(model)
    has(b)
    const [found] = of(b.rig, kind)
    if (!found)
      throw new Error(`not found among ${JSON.stringify(harnessFindings(b.rig).map((f) => f.words))}`)
    expect(found.words.length).toBeGreaterThan(40)
    const { place } = found
    const pointsAt = [...place.partIds, ...place.leadIds, place.boardId, place.expanderId, place.supplyId]
    expect(pointsAt.filter((x) => x !== undefined).length).toBeGreaterThan(0)
    for (const row of place.leadIds) expect(b.rig.lead[row]).toBeDefined()
    if (incurable) return
    const changes = found.cure?.changes(id) ?? []
    expect(changes.length).toBeGreaterThan(0)
    const mended = apply(b.rig, changes)
    expect(invalidRows(mended, changes)).toEqual([])
    expect(harnessFindings(mended).map((f) => f.id)).not.toContain(found.id)
    // A cure never makes a new fault.
    const known = new Set(harnessFindings(b.rig).map((f) => f.id))
    expect(
      harnessFindings(mended)
        .filter((f) => !known.has(f.id))
        .map((f) => f.words),
    ).toEqual([])
  })

  it('is not found where it just does not hold', () => {
    const b = new Bench(model)
    justNot(b)
    expect(of(b.rig, kind).map((f) => f.words)).toEqual([])
  })
})

it('every row of these rigs is one that could be kept', () => {
  for (const { has, model } of cases) {
    const b = new Bench(model)
    has(b)
    for (const row of Object.values(b.rig.lead)) expect(tables.lead.safeParse(row).success).toBe(true)
  }
})

describe('a part that cannot work', () => {
  it('is one without its ground, whatever was seen of it', () => {
    const rig = smallRig({ lamp: lamp(), lever: control() })
    expect(partsThatCannotWork(harnessFindings(rig)).has('lever')).toBe(true)
    expect(partsThatCannotWork(harnessFindings(demoRig())).size).toBe(0)
  })
})

describe('a board that is asked to hold too much', () => {
  const rig = demoRig()
  const limits = (more: object) =>
    new Map([
      ['port-board', { frameBytes: 512, configurationBytes: 1000, slots: 96, bytesPerS: 11_520, ...more }],
    ])
  const words = (more: object) =>
    harnessFindings(rig, limits(more))
      .filter((f) => f.kind === 'capacity')
      .map((f) => f.words)
  it('is found before it is loaded, with what it has', () => {
    expect(words({})).toEqual([])
    expect(words({ slots: 3 })).toEqual([
      'Port board cannot be loaded: 6 things hang on it, and it can hold 3. Move some of it to another board.',
    ])
    expect(words({ configurationBytes: 10 })[0]).toContain('it has 10')
  })
  it('is found also by the memory that it works with, unless another program runs on it', () => {
    const b = new Bench('atmega328p-small')
    const lines = { register: 'D2', 'data-4': 'D4', 'data-5': 'D5', 'data-6': 'D6', 'data-7': 'D7' }
    for (const enable of ['D3', 'D8', 'D9', 'D10', 'D11', 'D12', 'A0', 'A1', 'A2'])
      b.wire(b.part('text-20x4-parallel'), { ...lines, enable })
    const found = (known?: KnownLimits) =>
      harnessFindings(b.rig, known).flatMap((f) => (f.kind === 'capacity' ? [f.words] : []))
    expect(found()[0]).toMatch(/take 1089 bytes of the memory it works with, and it has 980/)
    const other = { frameBytes: 512, configurationBytes: 4000, slots: 400, bytesPerS: 11_520 }
    expect(found(new Map([['board', other]]))).toEqual([])
  })
})

describe('what a display with a MAX7219 takes', () => {
  it('follows its segments and its set resistor, not its number of digits', () => {
    const most = (kind: string, setOhms?: number) => {
      const b = new Bench()
      const part = b.part(kind, setOhms === undefined ? {} : { setOhms })
      return drawsOf(b.rig.part[part] as PartRow)?.mostMa
    }
    expect(most('digits-3-max7219')).toBe(328)
    expect(most('digits-8-max7219')).toBe(328)
    // The rows of its data sheet: 28 kΩ for 20 mA a segment, 63.7 kΩ for 10 mA.
    expect(most('digits-8-max7219', 28_000)).toBe(8 * 20 + 8)
    expect(most('digits-8-max7219', 63_700)).toBe(8 * 10 + 8)
    expect(most('digits-8-max7219', 10_000)).toBe(328)
    expect(most('digits-8-max7219', 40_000)).toBeLessThan(most('digits-8-max7219', 30_000) ?? 0)
  })
})

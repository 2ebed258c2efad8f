import { readFileSync } from 'node:fs'
import type { AspectSettings } from '../src/core/aspects/aspects'
import { Engine } from '../src/core/engine/engine'
import type { Effect, Input, Output } from '../src/core/engine/input'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { plainLead } from '../src/core/harness/leads'
import { type Configuration, emptyConfiguration } from '../src/core/harness/slot'
import type { BindingSettings, ControlSettings, DigitsSettings } from '../src/core/rig/binding'
import { addRow, apply, changeRow, type Diff } from '../src/core/rig/edit'
import { emptyRig, type Rig } from '../src/core/rig/rig'
import { readRigFile } from '../src/core/rig/rig-file'
import type { PartRow } from '../src/core/rig/rows'
import type { EventInfo, SimulatorCatalogue, VariableInfo } from '../src/core/rig/simulator-catalogue'
import type { Source } from '../src/core/rig/sources'
import type { State } from '../src/core/signal/state'

/** The demo rig, read from its file. */
export const demoRig = (): Rig => {
  const read = readRigFile(readFileSync(new URL('../demo/skerry-12.rig.json', import.meta.url), 'utf8'))
  if ('problem' in read) throw new Error(read.problem)
  return apply(emptyRig(), read.diff)
}

const number = (name: string, unit: string | null, more: Partial<VariableInfo> = {}): VariableInfo => ({
  name,
  type: 'number',
  unit,
  writable: true,
  range: null,
  description: '',
  group: 'Test',
  ...more,
})

/** A few variables of every sort, by index: see the names. */
export const catalogue: SimulatorCatalogue = {
  craft: 'Test craft',
  variables: [
    number('gear.position', 'ratio', { writable: false }),
    number('bus.volts', 'V', { writable: false }),
    number('gear.lever', null, { range: [0, 2], choices: ['up', 'off', 'down'] }),
    number('height', 'ft'),
    number('speed', 'kt'),
    number('radio.frequency', 'MHz'),
    { ...number('pump.switch', null), type: 'boolean' },
    { ...number('advice', null, { writable: false }), type: 'text' },
    number('way', 'm'),
  ],
  events: [{ name: 'horn.cancel', description: '', group: 'Test', value: null } satisfies EventInfo],
}

export const V = {
  gear: 0,
  volts: 1,
  lever: 2,
  height: 3,
  speed: 4,
  radio: 5,
  pump: 6,
  advice: 7,
  way: 8,
} as const

export const lamp = (
  more: Partial<Extract<BindingSettings, { kind: 'lamp' }>> = {},
): Extract<BindingSettings, { kind: 'lamp' }> => ({
  kind: 'lamp',
  variable: 'gear.position',
  show: 'input >= 1 ? on : input > 0 ? blink(2) : off',
  onlyWhile: 'bus.volts > 20',
  rest: 'out',
  ...more,
})

export const control = (more: Partial<ControlSettings> = {}): ControlSettings => ({
  kind: 'control',
  when: 'position',
  value: 'match(input, "up", 0, "off", 1, "down", 2)',
  actions: [{ do: 'set', variable: 'gear.lever' }],
  onlyWhile: null,
  ...more,
})

export const digits = (more: Partial<DigitsSettings> = {}): DigitsSettings => ({
  kind: 'digits',
  variable: 'height',
  show: 'input',
  decimals: 0,
  leading: 'blanks',
  sign: 'minus',
  onlyWhile: null,
  rest: 'out',
  ...more,
})

const part = (id: string, name: string, kind: string, settings: PartRow['settings'] = {}): PartRow => ({
  id,
  panelId: 'panel',
  name,
  kind,
  xMm: 10,
  yMm: 10,
  rotationDeg: 0,
  settings,
})

const kinds: Record<string, [string, string, [string, string][]]> = {
  lever: [
    'Lever',
    'wheel-lever',
    [
      ['up', 'D22'],
      ['down', 'D24'],
    ],
  ],
  lamp: ['Lamp', 'lamp-8-green', [['plus', 'D26']]],
  lamp2: ['Second lamp', 'lamp-8-green', [['plus', 'D27']]],
  toggle: ['Toggle', 'toggle-2', [['closed', 'D30']]],
  button: ['Button', 'button-10-red', [['closed', 'D31']]],
  button2: ['Second button', 'button-10-grey', [['closed', 'D32']]],
  rocker: [
    'Rocker',
    'toggle-3-spring',
    [
      ['up', 'D33'],
      ['down', 'D34'],
    ],
  ],
  rotary: [
    'Rotary',
    'rotary-4',
    [
      ['1', 'D35'],
      ['2', 'D36'],
      ['3', 'D37'],
      ['4', 'D38'],
    ],
  ],
  ladder: ['Ladder', 'rotary-4-ladder', [['wiper', 'A0']]],
  knob: [
    'Knob',
    'encoder-dual-push',
    [
      ['outer-a', 'D2'],
      ['outer-b', 'D3'],
      ['inner-a', 'D4'],
      ['inner-b', 'D5'],
      ['push', 'D6'],
    ],
  ],
  slide: ['Slide', 'lever-slide-75', [['wiper', 'A1']]],
  window: [
    'Window',
    'digits-5-max7219',
    [
      ['data', 'D40'],
      ['clock', 'D41'],
      ['select', 'D42'],
    ],
  ],
  page: [
    'Page',
    'text-20x4',
    [
      ['data', 'D20'],
      ['clock', 'D21'],
    ],
  ],
  gauge: [
    'Gauge',
    'gauge-50',
    [
      ['coil-1', 'D43'],
      ['coil-2', 'D44'],
      ['coil-3', 'D45'],
      ['coil-4', 'D46'],
    ],
  ],
  strip: ['Strip', 'strip-8', [['data', 'D47']]],
  turns: [
    'Height',
    'gauge-turns-50',
    [
      ['coil-1', 'D48'],
      ['coil-2', 'D49'],
      ['coil-3', 'D50'],
      ['coil-4', 'D51'],
      ['sensor', 'D52'],
    ],
  ],
}

interface More {
  readonly atStart?: 'panel' | 'simulator'
  /** Settings of single parts. */
  readonly settings?: Readonly<Record<string, PartRow['settings']>>
  /** Layer sets by name, each with its layers by name; a layer's id is `set layer`. */
  readonly layers?: Readonly<
    Record<
      string,
      { readonly layers: readonly string[]; readonly chosenBy?: string; readonly timeoutMs?: number }
    >
  >
}

/** A rig that speaks with a simulator and boards over TCP on these ports of this computer. */
export const onPorts = (rig: Rig, simulator: number, boards: readonly number[]): Rig => {
  const host = '127.0.0.1'
  const rows = [
    ['simulator', { kind: 'simulator tcp', host, port: simulator, prefix: '' }] as const,
    ...boards.map((port, i) => [`board ${i}`, { kind: 'board tcp', host, port }] as const),
  ]
  return apply(
    rig,
    rows.map(([id, settings], position) =>
      addRow('connection', { id, name: id, position, on: true, settings }),
    ),
  )
}

/** The one source of a test, with these names. */
export const craft = (told: SimulatorCatalogue): Source => ({
  id: 'craft',
  name: 'The craft',
  on: true,
  prefix: '',
  catalogue: told,
})

/** A small rig: one panel, one board, the named parts wired to it, each with the given binding. */
export const smallRig = (
  parts: Record<string, BindingSettings | BindingSettings[] | null>,
  { atStart, settings: own, layers }: More = {},
): Rig => {
  const diff: Diff[number][] = [
    addRow('rig', { id: 'rig', name: 'Test rig', format: 1 }),
    addRow('panel', {
      id: 'panel',
      name: 'Panel',
      position: 1,
      widthMm: 100,
      heightMm: 100,
      cornerMm: 2,
      thicknessMm: 3,
      settings: { holes: [] },
    }),
    addRow('board', {
      id: 'board',
      name: 'Test board',
      model: 'atmega2560',
      identity: '00112233445566aa',
      position: 1,
      supplyId: null,
      own: null,
    }),
  ]
  for (const [set, { layers: names, chosenBy, timeoutMs }] of Object.entries(layers ?? {})) {
    const settings = { chosenBy: chosenBy ?? null, timeoutMs: timeoutMs ?? null }
    diff.push(addRow('layerSet', { id: set, name: set, position: 1, settings }))
    for (const [position, name] of names.entries())
      diff.push(addRow('layer', { id: `${set} ${name}`, layerSet: set, name, position }))
  }
  let lead = 0
  for (const [id, settings] of Object.entries(parts)) {
    const [name, kind, ends] = kinds[id] as (typeof kinds)[string]
    diff.push(addRow('part', part(id, name, kind, { ...own?.[id], ...(atStart ? { atStart } : {}) })))
    for (const [terminal, pin] of ends) {
      lead++
      diff.push(
        addRow('lead', {
          ...plainLead,
          ...{
            id: `lead-${lead}`,
            partId: id,
            terminal,
            number: lead,
            colour: 'white',
            boardId: 'board',
            pin,
          },
        }),
      )
    }
    const list = settings === null ? [] : Array.isArray(settings) ? settings : [settings]
    for (const [i, s] of list.entries())
      diff.push(
        addRow('binding', { id: `${id}-${i + 1}`, partId: id, position: i + 1, on: true, settings: s }),
      )
  }
  return apply(emptyRig(), diff)
}

/** An engine on a bench with its own clock: what goes in, what comes out, and what the board holds. */
export class Workbench {
  readonly engine = new Engine()
  now = 1000

  constructor(
    public rig: Rig,
    private readonly loaded: Configuration = wantedConfiguration(rig, 'board'),
  ) {
    this.step({ is: 'sources', sources: [craft(catalogue)] })
    this.step({ is: 'rig', rig, diff: null })
  }

  /** Everything up and armed, with the bus live. */
  live(): this {
    this.step({ is: 'arm', armed: true })
    this.board(true)
    this.frame({ gear: 0, volts: 28, lever: 0, height: 100, speed: 90, pump: 0 })
    this.step({ is: 'source', source: 'craft', up: true })
    return this
  }

  step(input: Input): readonly Effect[] {
    return this.engine.step(input, this.now)
  }

  board(up: boolean, boot = 1): readonly Effect[] {
    const loaded = up ? this.loaded : emptyConfiguration
    return this.step({ is: 'board', boardId: 'board', up, loaded, boot, bytesPerS: 0 })
  }

  frame(values: Partial<Record<keyof typeof V, number | string | null>>): readonly Effect[] {
    const names = Object.keys(values) as (keyof typeof V)[]
    return this.step({
      is: 'frame',
      source: 'craft',
      indexes: names.map((n) => V[n]),
      values: names.map((n) => values[n] ?? null),
    })
  }

  /** The board reports a control: contacts bit by bit (first terminal lowest), a count, or a level. */
  report(partId: string, value: number, aspectId?: string): readonly Effect[] {
    const controls = this.engine.units.get(partId)?.controls ?? []
    const control = aspectId === undefined ? controls[0] : controls.find((c) => c.aspect.id === aspectId)
    return this.step({ is: 'report', boardId: 'board', slot: control?.slot ?? -1, value })
  }

  /** What an indicator was last told to show. */
  shown(partId: string): State | undefined {
    return this.engine.units.get(partId)?.indicators[0]?.shown
  }

  edit(diff: Diff): readonly Effect[] {
    this.rig = apply(this.rig, diff)
    return this.step({ is: 'rig', rig: this.rig, diff })
  }

  changeBinding(id: string, settings: BindingSettings, on = true): readonly Effect[] {
    const row = this.rig.binding[id]
    const change = row ? changeRow('binding', row, { ...row, on, settings }) : null
    if (!change) throw new Error(`nothing changes in ${id}`)
    return this.edit([change])
  }

  changeAspect(partId: string, aspectId: string, settings: AspectSettings): readonly Effect[] {
    const row = this.rig.part[partId] as PartRow
    const aspects = { ...row.settings.aspects, [aspectId]: settings }
    const change = changeRow('part', row, { ...row, settings: { ...row.settings, aspects } })
    if (!change) throw new Error(`nothing changes in ${partId}`)
    return this.edit([change])
  }

  wait(ms: number): readonly Effect[] {
    this.now += ms
    return this.step({ is: 'time' })
  }
}

/** What is done by a step, without when the engine wants to be asked again. */
export const doneBy = (effects: readonly Effect[]) => effects.filter((e) => e.is !== 'wake')
export const outputsOf = (effects: readonly Effect[]): Output[] =>
  effects.flatMap((e) => (e.is === 'output' ? [...e.outputs] : []))
export const actionsOf = (effects: readonly Effect[]) =>
  effects.filter((e) => e.is === 'set' || e.is === 'event')

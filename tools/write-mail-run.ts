import { readFileSync, writeFileSync } from 'node:fs'
import { deflateRawSync } from 'node:zlib'
import { Engine } from '../src/core/engine/engine'
import type { Effect, Input, SimulatorValue } from '../src/core/engine/input'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { pinsOf } from '../src/core/harness/slot'
import { isWired } from '../src/core/harness/wiring'
import { encodeBlock } from '../src/core/recording/block'
import type { BundledRecording } from '../src/core/recording/bundled'
import type { RecordedMark } from '../src/core/recording/moment'
import { placeOfControl } from '../src/core/recording/perform'
import { Recorder } from '../src/core/recording/recorder'
import { apply } from '../src/core/rig/edit'
import { emptyRig } from '../src/core/rig/rig'
import { readRigFile } from '../src/core/rig/rig-file'
import type { Source } from '../src/core/rig/sources'
import { makeCraft, STEPS_HZ } from '../src/standins/craft/craft'

/*
 * Flies the demo's mail run from Lysvik to Ternholm with the demo's panel, as fast as it can be worked out, and writes down
 * what was told and done: the recording that comes with the demo.
 */

/** From the mooring at Lysvik to the grass at Ternholm. */
const LASTS_S = 312
const FRAMES_HZ = 30
const SEED = 12
/** What nothing on the panel shows is kept as often as the hub keeps it. */
const THIN = { span: 200_000, mostHz: 5 }

/** What the hands do: when, with which part, to which reading of its contacts; and what is noted of that moment. */
const hands: readonly {
  readonly at: number
  readonly part?: string
  readonly raw?: number
  readonly words?: string
}[] = [
  { at: 20, words: 'Off the mooring at Lysvik' },
  { at: 46, words: 'Off the water' },
  { at: 112, words: 'Down to the strip' },
  { at: 122, part: 'wheel-lever', raw: 0b00 },
  { at: 122.4, part: 'wheel-lever', raw: 0b10, words: 'Wheels down for the grass' },
  { at: 240, words: 'Final' },
  { at: 282, words: 'On the grass at Ternholm' },
]

const file = readRigFile(readFileSync('demo/skerry-12.rig.json', 'utf8'))
if ('problem' in file) throw new Error(file.problem)
const rig = apply(emptyRig(), file.diff)
const connection = Object.values(rig.connection).find((c) => c.settings.kind === 'simulated craft')
if (!connection) throw new Error('the demo speaks with no simulated craft')

const craft = makeCraft(SEED)
const { variables, events } = craft.world
const source: Source = {
  id: connection.id,
  name: connection.name,
  on: true,
  prefix: '',
  catalogue: {
    craft: 'Skerry 12',
    variables: variables.map((v) => v.info),
    events: events.map((e) => e.info),
  },
}

const engine = new Engine()
let now = 0
let recorder: Recorder | null = null
/** Orders are carried out, and answered, at once. */
const carryOut = (effects: readonly Effect[]): void => {
  for (const e of effects) {
    if (e.is === 'set')
      step({ is: 'answer', request: e.request, problem: craft.world.set(e.variable, e.value) })
    if (e.is !== 'event') continue
    events[e.event]?.act(typeof e.value === 'number' ? e.value : 0)
    step({ is: 'answer', request: e.request, problem: null })
  }
}
const step = (input: Input, told = Number.NaN): void => {
  recorder?.note(input, now, told)
  const effects = engine.step(input, now)
  recorder?.ordered(effects)
  carryOut(effects)
}

const told: SimulatorValue[] = variables.map(() => null)
const frame = (): void => {
  const indexes: number[] = []
  const values: SimulatorValue[] = []
  for (const [i, v] of variables.entries()) {
    const { value } = v
    const is = typeof value === 'number' ? Number(value.toPrecision(9)) : value
    if (is === told[i]) continue
    told[i] = is
    indexes.push(i)
    values.push(is)
  }
  step({ is: 'frame', source: source.id, indexes, values }, craft.world.named('sim.time').n)
}

step({ is: 'sources', sources: [source] })
step({ is: 'rig', rig, diff: null })
for (const boardId of Object.keys(rig.board))
  step({ is: 'board', boardId, up: true, loaded: wantedConfiguration(rig, boardId), boot: 1, bytesPerS: 0 })
frame()
step({ is: 'source', source: source.id, up: true })
/** Where the stand-ins' contacts and wipers are before a hand is laid on them, by board and place. */
const atFirst = new Map<string, number>()
for (const { settings } of Object.values(rig.connection))
  if (settings.kind === 'simulated board') {
    for (const place of settings.closed) atFirst.set(`${settings.identity} ${place}`, 1)
    for (const [place, level] of settings.wipers)
      atFirst.set(`${settings.identity} ${place}`, Math.round(level * 1023))
  }
for (const unit of engine.units.values())
  for (const c of unit.controls) {
    const place = placeOfControl(engine, unit.part.id, c.aspect.id)
    if (!place || !isWired(c.wiring)) continue
    const identity = rig.board[place.boardId]?.identity
    const levels = pinsOf(c.wiring.slot).map((pin) => atFirst.get(`${identity} ${pin}`) ?? 0)
    const value = c.aspect.kind === 'encoder' ? 0 : levels.reduce((sum, level, i) => sum + level * 2 ** i, 0)
    step({ is: 'found', ...place, value })
  }
step({ is: 'arm', armed: true })

const exact = engine.variablesInUse()
const marks: RecordedMark[] = []
const blocks: { n: number; from: number; until: number; bytes: string }[] = []
recorder = new Recorder(engine, [source], new Uint8Array(variables.length).fill(1), now, (block) => {
  const bytes = deflateRawSync(encodeBlock(block, { ...THIN, isExact: (v) => exact.has(v) }), { level: 9 })
  blocks.push({ n: blocks.length, from: block.from, until: block.until, bytes: bytes.toString('base64') })
})

const waiting = [...hands]
for (let n = 1; n <= LASTS_S * FRAMES_HZ; n++) {
  for (let i = 0; i < STEPS_HZ / FRAMES_HZ; i++) craft.step()
  const until = (n * 1000) / FRAMES_HZ
  for (let due = engine.nextAt(); due !== null && due < until; due = engine.nextAt()) {
    now = due
    step({ is: 'time' })
  }
  now = until
  while ((waiting[0]?.at ?? Number.POSITIVE_INFINITY) * 1000 <= now) {
    const hand = waiting.shift()
    const control = engine.units.get(hand?.part ?? '')?.controls[0]
    const place = control && placeOfControl(engine, control.unit.part.id, control.aspect.id)
    if (place && hand?.raw !== undefined) {
      step({ is: 'report', ...place, value: hand.raw })
      const words = control.unit.part.name
      marks.push({ at: recorder.length, words, by: 'hand' })
    }
    if (hand?.words !== undefined)
      marks.push({ at: recorder.mark(hand.words, 'builder', now), words: hand.words, by: 'builder' })
  }
  frame()
}
recorder.end(now)

const made: BundledRecording = {
  name: 'Mail run, Lysvik to Ternholm',
  sources: [source],
  armed: true,
  marks,
  blocks,
}
writeFileSync(process.argv[2] ?? 'build/mail-run.json', JSON.stringify(made))

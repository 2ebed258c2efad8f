import { Engine } from '../engine/engine'
import type { Effect, Input } from '../engine/input'
import { orderIn } from '../engine/order'
import { wantedConfiguration } from '../harness/configuration'
import type { Rig } from '../rig/rig'
import type { Micros, Millis } from '../units-of-measure'
import type { Block } from './block'
import type { Moment, RecordingHead, Standing } from './moment'
import { Reel, Scene } from './reel'

/** Where a control of a part hangs now, or null. */
export const placeOfControl = (
  engine: Engine,
  partId: string,
  aspectId: string,
): { readonly boardId: string; readonly slot: number } | null => {
  const control = engine.units.get(partId)?.controls.find((c) => c.aspect.id === aspectId)
  return control?.board && control.slot >= 0 ? { boardId: control.board.id, slot: control.slot } : null
}

/** Orders that wait for the answer that was recorded, by what they were given to. */
export class OpenOrders {
  private readonly open = new Map<string, number[]>()

  constructor(private readonly engine: Engine) {}

  ordered(effects: readonly Effect[]): void {
    const { catalogue } = this.engine.variables.index
    for (const e of effects) {
      const order = orderIn(catalogue, e)
      if (!order) continue
      const list = this.open.get(order.to)
      if (list) list.push(order.request)
      else this.open.set(order.to, [order.request])
    }
  }

  /** The request that an answer is to. */
  answered(name: string): number | null {
    return this.open.get(name)?.shift() ?? null
  }
}

/** What was recorded beside frames as an engine takes it now, or null where it is nothing to one. */
export const inputOf = (
  engine: Engine,
  scene: Scene,
  orders: OpenOrders,
  m: Moment,
): Exclude<Input, { is: 'board' }> | null => {
  switch (m.is) {
    case 'report': {
      const place = placeOfControl(engine, m.partId, m.aspectId)
      return place && { is: 'report', ...place, value: m.value }
    }
    case 'source':
      return { is: 'source', source: scene.idOf(m.source), up: m.up }
    case 'quiet':
      return { is: 'quiet', source: scene.idOf(m.source), quiet: m.quiet }
    case 'answer': {
      const request = orders.answered(m.to)
      return request === null ? null : { is: 'answer', request, problem: m.problem }
    }
    case 'arm':
    case 'craft set':
    case 'exercise':
    case 'settle':
      return m
    default:
      return null
  }
}

/** What puts an engine where a recording stands: sources, values, and, where hands are recorded, controls. */
export const standingInputs = (
  engine: Engine,
  scene: Scene,
  block: Block,
  at: { readonly kept: Float64Array; readonly standing: Standing },
  hands: boolean,
): Input[] => [
  ...scene.wholeFrames(block, at.kept),
  ...scene.sources.map(({ id }, s): Input => ({ is: 'source', source: id, up: at.standing.up.includes(s) })),
  ...scene.sources.map(
    ({ id }, s): Input => ({ is: 'quiet', source: id, quiet: at.standing.quiet.includes(s) }),
  ),
  ...(hands ? at.standing.controls : []).flatMap(([partId, aspectId, value]): Input[] => {
    const place = placeOfControl(engine, partId, aspectId)
    return place ? [{ is: 'found', ...place, value }] : []
  }),
]

/** A board as it is when it holds all that is drawn. */
const boardInput = (rig: Rig, boardId: string, up: boolean): Input => ({
  is: 'board',
  boardId,
  up,
  loaded: wantedConfiguration(rig, boardId),
  boot: 1,
  bytesPerS: 0,
})

/**
 * A rig with a recording, from its beginning to its end, as fast as it can be worked out: with all boards loaded as they
 * are drawn, and armed as it was, or always where it never was. The same recording and rig give the same effects.
 */
export class Performance {
  readonly engine = new Engine()
  private readonly scene: Scene
  private readonly orders: OpenOrders
  private begun = false
  private readonly isArmed: boolean

  constructor(
    { sources, armed }: RecordingHead,
    private readonly rig: Rig,
    private readonly done: (effects: readonly Effect[], at: Micros) => void,
  ) {
    this.scene = new Scene(sources)
    this.orders = new OpenOrders(this.engine)
    this.isArmed = armed
  }

  /** The next block of it, from one time to another, both within it. */
  play(block: Block, from: Micros = block.from, until: Micros = block.until): void {
    const reel = new Reel(block)
    const stood = reel.skipTo(this.begun ? block.from - 1 : from - 1)
    if (!this.begun) this.begin(block, stood, from)
    for (let at = reel.nextAt(); at !== null && at <= until; at = reel.nextAt()) {
      this.passTime(at / 1000)
      const item = reel.take()
      if (item?.is === 'frame') this.step(this.scene.frameInput(block, item.frame), at)
      else if (item?.is === 'moment') this.moment(item.moment, at)
    }
    this.passTime(until / 1000)
  }

  private begin(block: Block, stood: ReturnType<Reel['skipTo']>, from: Micros): void {
    this.begun = true
    const { engine, rig, scene } = this
    this.step({ is: 'sources', sources: scene.sources }, from)
    this.step({ is: 'rig', rig, diff: null }, from)
    for (const boardId of Object.keys(rig.board)) this.step(boardInput(rig, boardId, true), from)
    this.step({ is: 'craft set', set: stood.standing.craftSet ?? null }, from)
    for (const input of standingInputs(engine, scene, block, stood, true)) this.step(input, from)
    this.step({ is: 'arm', armed: stood.standing.armed || !this.isArmed }, from)
  }

  private moment(m: Moment, at: Micros): void {
    if (m.is === 'arm' && !this.isArmed) return
    if (m.is === 'board') {
      if (this.rig.board[m.boardId]) this.step(boardInput(this.rig, m.boardId, m.up), at)
      return
    }
    const input = inputOf(this.engine, this.scene, this.orders, m)
    if (input) this.step(input, at)
  }

  /** What the engine wants to be woken for until then. */
  private passTime(until: Millis): void {
    for (let next = this.engine.nextAt(); next !== null && next < until; next = this.engine.nextAt())
      this.step({ is: 'time' }, next * 1000)
  }

  private step(input: Input, at: Micros): void {
    const effects = this.engine.step(input, at / 1000)
    this.orders.ordered(effects)
    this.done(effects, at)
  }
}

import { gainsOf } from '../core/aspects/needle'
import {
  ContactsWatch,
  type DriftWatch,
  KnobWatch,
  NeedleWatch,
  TravelWatch,
} from '../core/calibration/drift'
import { timeFor } from '../core/calibration/motor'
import type { Engine } from '../core/engine/engine'
import { type ControlUnit, type IndicatorUnit, isReached } from '../core/engine/units'
import { isWired } from '../core/harness/wiring'
import type { DriftedPart } from '../core/live/feed'
import { settingsOf } from '../core/rig/part-settings'
import type { Millis } from '../core/units-of-measure'
import type { SlotNoted } from '../links/notes'
import type { Probe } from './board-talk'

/** Each lever that was measured is listened to for so long, one after the other, with so much time between. */
const LISTEN_MS: Millis = 1200
const PAUSE_MS: Millis = 20_000

interface Watched {
  readonly control: ControlUnit
  /** What it is watched by: another one once it is measured anew. */
  readonly measured: { readonly at: string }
  readonly watch: DriftWatch
}

/** A needle with a sensor of its zero. */
interface WatchedNeedle {
  readonly indicator: IndicatorUnit
  readonly sensor: ControlUnit
  readonly watch: NeedleWatch
  readonly takesMs: Millis
}

const watchFor = (control: ControlUnit): Omit<Watched, 'control'> | null => {
  const own = control.settings
  if (own?.kind === 'positions' && own.measured && 'longestUs' in own.measured)
    return { measured: own.measured, watch: new ContactsWatch(own.measured, control.terminals.length) }
  if (own?.kind === 'encoder' && own.measured)
    return { measured: own.measured, watch: new KnobWatch(own.measured) }
  if (own?.kind === 'travel' && own.measured)
    return { measured: own.measured, watch: new TravelWatch(own.measured) }
  return null
}

/**
 * Watches every control that was measured, for as long as nobody measures something else on its board; and every needle
 * that a sensor sees at its zero.
 */
export class Drift {
  private watched = new Map<string, Watched>()
  /** By board and slot, whom a note is of. */
  private bySlot = new Map<string, Watched>()
  private needles = new Map<string, WatchedNeedle>()
  private listening: {
    readonly boardId: string
    readonly slot: number
    readonly until: Millis
    notes: SlotNoted[]
  } | null = null
  private turn = 0
  private nextAt: Millis = 0
  private told = '[]'

  constructor(private readonly engine: Engine) {}

  /** Looks what there is to watch now. What was seen of a part stays until it is measured anew. */
  match(): void {
    this.matchNeedles()
    const before = this.watched
    this.watched = new Map()
    this.bySlot = new Map()
    for (const unit of this.engine.units.values())
      for (const control of unit.controls) {
        const fresh = watchFor(control)
        if (!fresh) continue
        const key = `${unit.part.id} ${control.aspect.id}`
        const known = before.get(key)
        // Whatever else of a part is edited, it is watched on by the same measurement.
        const { measured, watch } = known?.measured.at === fresh.measured.at ? known : fresh
        const watched = { control, measured, watch }
        this.watched.set(key, watched)
        if (isWired(control.wiring) && control.slot >= 0)
          this.bySlot.set(`${control.wiring.boardId} ${control.slot}`, watched)
      }
  }

  private matchNeedles(): void {
    const before = this.needles
    this.needles = new Map()
    for (const unit of this.engine.units.values())
      for (const indicator of unit.indicators) {
        const { aspect } = indicator
        if (aspect.kind !== 'needle' || aspect.sensor === undefined) continue
        const sensor = unit.controls.find(
          (c) => c.aspect.kind === 'positions' && c.aspect.senses === aspect.id,
        )
        if (!sensor) continue
        const key = `${unit.part.id} ${aspect.id}`
        const watch = before.get(key)?.watch ?? new NeedleWatch(aspect.travelDeg)
        const dial = settingsOf(unit.part.settings, aspect.id, 'needle')
        const degPerS = Math.min(aspect.degPerS, dial?.degPerS ?? aspect.degPerS)
        const takesMs = timeFor(aspect.travelDeg, degPerS, gainsOf(aspect, dial ?? {}))
        this.needles.set(key, { indicator, sensor, watch, takesMs })
      }
  }

  private lookAtNeedles(now: Millis): void {
    for (const { indicator, sensor, watch, takesMs } of this.needles.values()) {
      const { shown, changedAt, board } = indicator
      if (!isReached(indicator) || typeof shown !== 'number' || shown < 0 || sensor.raw === null) continue
      const seen = sensor.raw === 1
      watch.look({ told: shown, since: changedAt, seen, takesMs, boot: board?.boot ?? null }, now)
    }
  }

  /** What a board is to note for it. */
  wants(boardId: string): Probe {
    if (this.listening?.boardId === boardId) return this.listening.slot
    for (const { control } of this.watched.values())
      if (control.aspect.kind !== 'travel' && isWired(control.wiring) && control.wiring.boardId === boardId)
        return 'all contacts'
    return null
  }

  noted(boardId: string, notes: readonly SlotNoted[]): void {
    if (this.listening?.boardId === boardId)
      this.listening.notes.push(...notes.filter((n) => n.slot === this.listening?.slot))
    const bySlot = new Map<number, SlotNoted[]>()
    for (const n of notes) {
      const list = bySlot.get(n.slot)
      if (list) list.push(n)
      else bySlot.set(n.slot, [n])
    }
    for (const [slot, list] of bySlot) {
      const found = this.bySlot.get(`${boardId} ${slot}`)
      if (found && found.control.aspect.kind !== 'travel') found.watch.take(list)
    }
  }

  /** A board has told of a lever where it stands. */
  reported(boardId: string, slot: number, value: number): void {
    const { watch } = this.bySlot.get(`${boardId} ${slot}`) ?? {}
    if (watch instanceof TravelWatch) watch.moved(value)
  }

  /** Time passes: true when boards are to note something else now. */
  pass(now: Millis): boolean {
    this.lookAtNeedles(now)
    const { listening } = this
    if (listening) {
      if (now < listening.until) return false
      this.listening = null
      this.bySlot.get(`${listening.boardId} ${listening.slot}`)?.watch.take(listening.notes)
      this.nextAt = now + PAUSE_MS
      return true
    }
    if (now < this.nextAt) return false
    const levers = [...this.bySlot.keys()].filter((k) => this.bySlot.get(k)?.watch instanceof TravelWatch)
    const key = levers[this.turn++ % Math.max(1, levers.length)]
    if (key === undefined) {
      this.nextAt = now + PAUSE_MS
      return false
    }
    const at = key.lastIndexOf(' ')
    this.listening = {
      boardId: key.slice(0, at),
      slot: Number(key.slice(at + 1)),
      until: now + LISTEN_MS,
      notes: [],
    }
    return true
  }

  /** What has drifted, if that is otherwise than when it was last asked; null where it is as it was. */
  news(): readonly DriftedPart[] | null {
    const all = this.all
    const text = JSON.stringify(all)
    if (text === this.told) return null
    this.told = text
    return all
  }

  get all(): readonly DriftedPart[] {
    const controls = [...this.watched.values()].map(({ control, watch }) => ({ seat: control, watch }))
    const needles = [...this.needles.values()].map(({ indicator, watch }) => ({ seat: indicator, watch }))
    return [...controls, ...needles].flatMap(({ seat, watch }) =>
      watch.found ? [{ partId: seat.unit.part.id, aspectId: seat.aspect.id, drifted: watch.found }] : [],
    )
  }
}

import { FULL_LEVEL } from '../aspects/travel'
import { positionAtLevel, positionOf } from '../catalogue/part-kind'
import type { Millis } from '../units-of-measure'
import type { Controls } from './controls/controls'
import { skippedPositions } from './controls/positions'
import { travelOutput } from './travel'
import { type ControlUnit, clickOf } from './units'

/** A knob that has not moved for this long stands in a click: contact changes before it do not count. */
const KNOB_RESTS_MS = 2000

/** A switch that may have rested where it came to. */
export interface RestTimer {
  readonly is: 'rest'
  readonly partId: string
  readonly aspectId: string
}

/** Whom movements reach. */
export interface ReadingSurroundings {
  readonly controls: Controls
  readonly later: (at: Millis, timer: RestTimer) => void
  /** A control stands elsewhere now: whoever reads where it stands is to look. */
  readonly told: (control: ControlUnit) => void
}

/** How long a switch has to rest in a position before it counts, where its part says so. */
const restOf = ({ settings }: ControlUnit): Millis | undefined =>
  settings?.kind === 'positions' ? settings.restMs : undefined

/** Where the positions of a ladder of resistors were measured to stand. */
const levelsOf = ({ settings }: ControlUnit): Readonly<Record<string, number>> | undefined =>
  settings?.kind === 'positions' ? settings.levels : undefined

/** From what boards report of contacts, counts and levels to positions, clicks and travel. */
export class Reading {
  constructor(private readonly around: ReadingSurroundings) {}

  /** What a board reports of a control. */
  take(control: ControlUnit, value: number, now: Millis): void {
    switch (control.aspect.kind) {
      case 'positions':
        this.contactsMoved(control, value, now)
        break
      case 'encoder':
        this.knobTurned(control, value, now)
        break
      case 'travel':
        this.leverMoved(control, value, now)
        break
    }
  }

  private contactsMoved(control: ControlUnit, raw: number, now: Millis): void {
    const { aspect } = control
    if (aspect.kind !== 'positions') return
    const first = control.raw === null
    control.raw = raw
    const ladder = aspect.wiper !== undefined
    const position = ladder
      ? positionAtLevel(aspect, raw / FULL_LEVEL, levelsOf(control))
      : positionOf(aspect, control.terminals, raw)
    control.contradiction = position === null
    control.settling = null
    if (position === null || position === undefined || position === control.position) return
    if (skippedPositions(control).includes(position)) return
    const restMs = restOf(control) ?? (ladder ? aspect.debounceMs : 0)
    if (first || restMs === 0) this.arrive(control, position, first, now)
    else {
      control.settling = { position, since: now }
      this.around.later(now + restMs, {
        is: 'rest',
        partId: control.unit.part.id,
        aspectId: aspect.id,
      })
    }
  }

  /** The switch may have rested long enough where it came to. */
  rested(control: ControlUnit, now: Millis): void {
    const { settling, aspect } = control
    if (!settling || aspect.kind !== 'positions') return
    if (now - settling.since < (restOf(control) ?? aspect.debounceMs)) return
    control.settling = null
    this.arrive(control, settling.position, false, now)
  }

  private arrive(control: ControlUnit, position: string, first: boolean, now: Millis): void {
    control.position = position
    this.around.told(control)
    if (first && control.unit.part.settings.atStart !== 'panel') this.around.controls.takeAsFound(control)
    else this.around.controls.moved(control, now)
  }

  /** The board counts contact changes, up to 65,536 and round again. */
  private knobTurned(control: ControlUnit, count: number, now: Millis): void {
    const { aspect, turning, raw } = control
    control.raw = count
    if (raw === null || aspect.kind !== 'encoder') return
    const { per, sign } = clickOf(aspect, control.settings)
    const changes = (((count - raw + 0x18000) & 0xffff) - 0x8000) * sign
    if (changes === 0) return
    if (now - turning.changedAt > KNOB_RESTS_MS) turning.changes = 0
    turning.changedAt = now
    turning.changes += changes
    const clicks = Math.trunc(turning.changes / per)
    if (clicks === 0) return
    turning.changes -= clicks * per
    const onwards = Math.sign(clicks) === Math.sign(turning.rate)
    // From click to click, however the changes within one are spread; a click after a rest is no rate.
    const rate = (Math.abs(clicks) * 1000) / Math.max(1, now - turning.clickedAt)
    // Coarse needs two quick clicks in a row, so that one bounce is no fast turn.
    turning.before = onwards ? Math.abs(turning.rate) : 0
    turning.rate = Math.sign(clicks) * rate
    turning.clickedAt = now
    turning.clicks += clicks
    this.around.controls.turned(control, clicks, Math.min(rate, turning.before), now)
  }

  private leverMoved(control: ControlUnit, level: number, now: Millis): void {
    const { aspect, raw } = control
    if (aspect.kind !== 'travel') return
    control.raw = level
    const output = travelOutput(control.settings, level)
    if (output === control.output) return
    control.output = output
    this.around.told(control)
    if (raw !== null || control.unit.part.settings.atStart === 'panel')
      this.around.controls.travelled(control, now)
  }
}

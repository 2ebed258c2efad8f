import { channelOf } from '../../core/catalogue/place'
import {
  type Configuration,
  emptyConfiguration,
  pinsOf,
  type Slot,
  slotKey,
  slotWords,
} from '../../core/harness/slot'
import { darkState } from '../../core/signal/colours'
import { blankDigits } from '../../core/signal/digits'
import type { Micros } from '../../core/units-of-measure'
import { StateDigest } from '../../links/state-digest'
import type { ChipDriver } from './expanders/chip-driver'
import { STEPS_PER_DEGREE } from './expanders/motor-driver-4/driver'
import type { SolderedChip } from './expanders/soldered-chip'
import { NeedleMotor } from './needle-motor'

/** One driven thing on the board: it takes states, moves with time, and can be looked at. */
interface Output {
  /** Takes a state; false for one that it cannot show. */
  take(row: number, state: number | string): boolean
  /** To what it shows when the board hears nothing. */
  rest(): void
  /** Goes on with time; true while it looks otherwise from moment to moment: it blinks, or turns. */
  step(now: Micros): boolean
  /** A lamp's level on its pin, what a display shows, or where a needle stands. */
  look(): number | string
}

/** The chip and channel something hangs on: the board's program for the chip, and the chip itself if it is soldered on. */
interface OnChip {
  readonly channel: number
  readonly driver: () => ChipDriver | undefined
  readonly soldered: () => SolderedChip | undefined
}

const lamp = (slot: Extract<Slot, { kind: 'lamp' }>, onChip: OnChip | null): Output => {
  let packed = slot.rest === 'keep' ? 0 : slot.rest
  let level = 0
  return {
    take: (_, state) => {
      if (typeof state !== 'number') return false
      packed = state
      return true
    },
    rest: () => {
      if (slot.rest !== 'keep') packed = slot.rest
    },
    step: (now) => {
      const period = (packed >>> 8) * 20_000
      level = period === 0 || now % period < period / 2 ? packed & 255 : 0
      onChip?.driver()?.light?.(onChip.channel, level)
      return period > 0
    },
    look: () => (onChip ? (onChip.soldered()?.lights?.()[onChip.channel] ?? 0) : level),
  }
}

/** Pulses that put a servo at either end of its travel. */
const SERVO_US = { least: 500, most: 2500 } as const

const needle = (slot: Extract<Slot, { kind: 'needle' }>, onChip: OnChip | null): Output => {
  const travel = slot.travelDeg * 10
  const motor = new NeedleMotor(travel, slot.degPerS * 10)
  let goal = slot.rest === 'keep' ? 0 : slot.rest
  return {
    take: (_, state) => {
      if (typeof state !== 'number') return false
      goal = state
      return true
    },
    rest: () => {
      if (slot.rest !== 'keep') goal = slot.rest
    },
    step: (now) => {
      const before = Math.round(motor.tenths)
      if (!onChip) motor.step(goal, now)
      else if (slot.drive === 'four-wire')
        onChip
          .driver()
          ?.turn?.(Math.floor(onChip.channel / 4), Math.min(travel, Math.max(0, goal)), slot.degPerS * 10)
      else {
        const reach = SERVO_US.most - SERVO_US.least
        onChip.driver()?.pulse?.(onChip.channel, SERVO_US.least + (goal / travel) * reach)
        const pulse = onChip.soldered()?.pulseUs?.(onChip.channel) ?? 0
        // A servo without pulses stays where it is.
        if (pulse > 0) motor.step(((pulse - SERVO_US.least) / reach) * travel, now)
      }
      // One that a driver chip steps turns on by itself: it is looked at for as long as it is short of its goal.
      const steps = onChip?.soldered()?.stepped?.()[Math.floor(onChip.channel / 4)]
      if (steps !== undefined)
        return Math.abs((steps / STEPS_PER_DEGREE) * 10 - Math.min(travel, Math.max(0, goal))) > 1
      return Math.round(motor.tenths) !== before
    },
    look: () => {
      if (!onChip || slot.drive === 'servo') return Math.round(motor.tenths)
      const steps = onChip.soldered()?.stepped?.()[Math.floor(onChip.channel / 4)] ?? 0
      return Math.round(Math.min(slot.travelDeg, steps / STEPS_PER_DEGREE) * 10)
    },
  }
}

/** Rows of characters; `blank` is what it shows before it is told anything. */
const display = (rows: number, blank: string, keep: boolean): Output => {
  let shown = Array.from({ length: rows }, () => blank)
  return {
    take: (row, state) => {
      if (typeof state !== 'string' || row >= rows) return false
      shown[row] = state
      return true
    },
    rest: () => {
      if (!keep) shown = shown.map(() => blank)
    },
    step: () => false,
    look: () => shown.join('\n'),
  }
}

const outputFor = (slot: Slot, onChip: OnChip | null): Output | null => {
  switch (slot.kind) {
    case 'lamp':
      return lamp(slot, onChip)
    case 'needle':
      return needle(slot, onChip)
    case 'digits':
      return display(1, blankDigits(slot.digits), slot.keep)
    case 'text':
      return display(slot.rows, ' '.repeat(slot.columns), slot.keep)
    case 'colour':
      return display(1, darkState(slot.lamps), slot.keep)
    default:
      return null
  }
}

/** Everything a board drives, by slot. */
export class Outputs {
  private readonly outputs: (Output | null)[]
  /** What it was told since the computer began, or since it last went to rest. */
  private readonly told = new StateDigest()
  resting = false
  /** Whether something blinks or turns. */
  moving = true
  rests = 0

  /** Outputs on pins that stay as they were through a new configuration keep what they show. */
  constructor(
    private readonly configuration: Configuration,
    driver: (chip: number) => ChipDriver | undefined,
    soldered: (chip: Configuration['chips'][number]) => SolderedChip | undefined,
    before: Outputs | null,
  ) {
    const { chips, slots } = configuration
    this.outputs = slots.map((slot) => {
      const at = channelOf(pinsOf(slot)[0] ?? 0)
      const chip = at ? chips[at.chip] : undefined
      const onChip = at && {
        channel: at.channel,
        driver: () => driver(at.chip),
        soldered: () => (chip ? soldered(chip) : undefined),
      }
      // What hangs on a chip is told anew: its driver begins from nothing.
      return (at ? null : (before?.same(slot) ?? null)) ?? outputFor(slot, onChip)
    })
  }

  static readonly none = new Outputs(
    emptyConfiguration,
    () => undefined,
    () => undefined,
    null,
  )

  private same(slot: Slot): Output | null {
    const { chips, slots } = this.configuration
    const at = slots.findIndex((s) => slotKey(s, chips) === slotKey(slot, chips))
    const found = slots[at]
    return found && slotWords(found, chips) === slotWords(slot, chips) ? (this.outputs[at] ?? null) : null
  }

  take(slot: number, row: number, state: number | string): void {
    if (this.outputs[slot]?.take(row, state)) this.told.put(slot, row, state)
  }

  /** The computer begins to tell: what it told before does not count any more. */
  begin(): void {
    this.told.clear()
  }

  step(now: Micros, alone: boolean): void {
    let moving = alone && !this.resting
    if (alone && !this.resting) {
      this.rests = (this.rests + 1) & 255
      this.told.clear()
    }
    this.resting = alone
    for (const output of this.outputs) {
      if (alone) output?.rest()
      if (output?.step(now)) moving = true
    }
    this.moving = moving
  }

  get digest(): number {
    return this.told.value
  }

  /** What each driven slot shows. */
  *look(): Iterable<[Slot, number | string]> {
    for (const [i, slot] of this.configuration.slots.entries()) {
      const output = this.outputs[i]
      if (output) yield [slot, output.look()]
    }
  }
}

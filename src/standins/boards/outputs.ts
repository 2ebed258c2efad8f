import { type Slot, slotKey } from '../../core/harness/slot'
import { darkState } from '../../core/signal/colours'
import { blankDigits } from '../../core/signal/digits'
import type { Micros } from '../../core/units-of-measure'
import { NeedleMotor } from './needle-motor'

/** One driven thing on the board: it takes states, moves with time, and can be looked at. */
interface Output {
  take(row: number, state: number | string): void
  /** To what it shows when the board hears nothing. */
  rest(): void
  step(now: Micros): void
  /** A lamp's level on its pin, what a display shows, or where a needle stands. */
  look(): number | string
}

const lamp = (slot: Extract<Slot, { kind: 'lamp' }>): Output => {
  let packed = slot.rest === 'keep' ? 0 : slot.rest
  let level = 0
  return {
    take: (_, state) => {
      if (typeof state === 'number') packed = state
    },
    rest: () => {
      if (slot.rest !== 'keep') packed = slot.rest
    },
    step: (now) => {
      const period = (packed >>> 8) * 20_000
      level = period === 0 || now % period < period / 2 ? packed & 255 : 0
    },
    look: () => level,
  }
}

const needle = (slot: Extract<Slot, { kind: 'needle' }>): Output => {
  const motor = new NeedleMotor(slot.travelDeg * 10, slot.degPerS * 10)
  let goal = slot.rest === 'keep' ? 0 : slot.rest
  return {
    take: (_, state) => {
      if (typeof state === 'number') goal = state
    },
    rest: () => {
      if (slot.rest !== 'keep') goal = slot.rest
    },
    step: (now) => motor.step(goal, now),
    look: () => Math.round(motor.tenths),
  }
}

/** Rows of characters; `blank` is what it shows before it is told anything. */
const display = (rows: number, blank: string, keep: boolean): Output => {
  let shown = Array.from({ length: rows }, () => blank)
  return {
    take: (row, state) => {
      if (typeof state === 'string' && row < rows) shown[row] = state
    },
    rest: () => {
      if (!keep) shown = shown.map(() => blank)
    },
    step: () => {},
    look: () => shown.join('\n'),
  }
}

const outputFor = (slot: Slot): Output | null => {
  switch (slot.kind) {
    case 'lamp':
      return lamp(slot)
    case 'needle':
      return needle(slot)
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

  /** Outputs that stay as they were through a new configuration keep what they show. */
  constructor(
    private readonly slots: readonly Slot[],
    before: Outputs | null,
  ) {
    this.outputs = slots.map((slot) => before?.same(slot) ?? outputFor(slot))
  }

  private same(slot: Slot): Output | null {
    const at = this.slots.findIndex((s) => slotKey(s) === slotKey(slot))
    return JSON.stringify(this.slots[at]) === JSON.stringify(slot) ? (this.outputs[at] ?? null) : null
  }

  take(slot: number, row: number, state: number | string): void {
    this.outputs[slot]?.take(row, state)
  }

  step(now: Micros, alone: boolean): void {
    for (const output of this.outputs) {
      if (alone) output?.rest()
      output?.step(now)
    }
  }

  /** What each driven slot shows. */
  *look(): Iterable<[Slot, number | string]> {
    for (const [i, slot] of this.slots.entries()) {
      const output = this.outputs[i]
      if (output) yield [slot, output.look()]
    }
  }
}

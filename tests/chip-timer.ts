import { AVRTimer, type AVRTimerConfig, type CPU } from 'avr8js'

/** What of the emulator's timer says how far it is from its next event; it is the emulator's own affair otherwise. */
interface Inside {
  tcnt: number
  readonly ocrA: number
  readonly ocrB: number
  readonly ocrC: number
  readonly TOP: number
  readonly timerMode: number
  readonly countingUp: boolean
  readonly divider: number
  lastCycle: number
  readonly updateDivider: boolean
  readonly tcntUpdated: boolean
  count: AVRTimer['count']
}

/** Ways of counting in which it goes up and down again: as the emulator numbers them. */
const THERE_AND_BACK: readonly number[] = [1, 4]

/** What counts no further may turn round within one instruction, of which the longest takes five cycles (instruction set manual: CALL, RET). */
const LEAST_TOP = 8

const isUpward = ({ timerMode, countingUp }: Inside) => countingUp || !THERE_AND_BACK.includes(timerMode)

/** How many counts on something happens: a register is met, or it turns over or round. */
const countsToNext = (timer: Inside): number => {
  const { tcnt, ocrA, ocrB, ocrC, TOP, timerMode } = timer
  if (TOP < LEAST_TOP) return 1
  const isBothWays = THERE_AND_BACK.includes(timerMode)
  const isUp = isUpward(timer)
  if (isUp ? tcnt > TOP || (isBothWays && tcnt === TOP) : tcnt === 0) return 1
  let next = isUp ? TOP - tcnt + (isBothWays ? 0 : 1) : tcnt
  for (const register of [ocrA, ocrB, ocrC]) {
    const way = isUp ? register - tcnt : tcnt - register
    if (way > 0 && way < next) next = way
  }
  return next
}

/**
 * The emulator's timer, which wakes the chip where something happens instead of at each of its counts. What happens, and when, is
 * the emulator's; `chip-timer.test.ts` holds the one against the other.
 */
export class ChipTimer extends AVRTimer {
  constructor(chip: CPU, registers: AVRTimerConfig) {
    super(chip, registers)
    const inside = this as unknown as Inside
    const { count } = inside
    inside.count = (reschedule = true, external = false) => {
      // A new prescaler, or a count that was written, begins a stretch of its own.
      if (inside.updateDivider) return count(reschedule, external)
      // Up to the last count before it, nothing happens: as if it had been woken at each.
      const still = countsToNext(inside) - 1
      const counts = inside.divider ? Math.floor((chip.cycles - inside.lastCycle) / inside.divider) : 0
      const skipped = inside.tcntUpdated ? 0 : Math.min(still, counts)
      inside.tcnt += isUpward(inside) ? skipped : -skipped
      inside.lastCycle += skipped * inside.divider
      count(false, external)
      if (reschedule && inside.divider)
        chip.addClockEvent(
          inside.count,
          inside.lastCycle + countsToNext(inside) * inside.divider - chip.cycles,
        )
    }
    // Whatever moves the next event: it has counted as far as it is, and is woken anew.
    const { OCRA, OCRB, OCRC, ICR, TCCRA, TCCRB, TCNT } = registers
    for (const register of new Set([OCRA, OCRB, OCRC, ICR, TCCRA, TCCRB, TCNT])) {
      const hook = register > 0 && chip.writeHooks[register]
      if (!hook) continue
      chip.writeHooks[register] = (value, before, address, mask) => {
        if (!inside.updateDivider && !inside.tcntUpdated) inside.count(false)
        const taken = hook(value, before, address, mask)
        if (!inside.updateDivider && !inside.tcntUpdated && chip.clearClockEvent(inside.count))
          inside.count(true)
        return taken ?? false
      }
    }
  }
}

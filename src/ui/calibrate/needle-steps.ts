import { PULSES_US } from '@/core/aspects/trial'
import type { SeenToDo } from '@/core/calibration/motor'
import type { NeedleDrive } from '@/core/catalogue/part-kind'
import { formatNumber } from '@/core/signal/format'

/** One step of a gauge motor. */
export const STEP_DEG = 1 / 3
export type NeedleStep = 'way' | 'shortest' | 'longest' | 'first' | 'last' | 'marks'
const marks = ['first', 'last', 'marks'] as const
/** Only a motor on four leads can be soldered so that it turns the other way; only a servo has pulses of its own. */
export const orders: Readonly<Record<NeedleDrive, readonly NeedleStep[]>> = {
  'four-wire': ['way', ...marks],
  servo: ['shortest', 'longest', ...marks],
  frequency: marks,
  voltage: marks,
}
/** In the middle of what servos are given. */
export const MIDDLE_US = (PULSES_US.least + PULSES_US.most) / 2
/** A step of a pulse that is seen, and a large one. */
export const PULSE_STEP_US = 5
export const PULSE_FAR_US = 50
export const stepWords: Record<NeedleStep, string> = {
  way: 'Turns the right way',
  shortest: 'At its lower end',
  longest: 'At its upper end',
  first: 'On its first mark',
  last: 'On its last mark',
  marks: 'Any other mark',
}

/** What it can be seen to do when it is told to turn. */
export const answers: readonly [SeenToDo, string][] = [
  ['turned forwards', 'It does as told'],
  ['turned backwards', 'It turns the other way'],
  ['shivered', 'It shivers'],
]

/** What is asked for. */
export const says = (at: NeedleStep, isForward: boolean, mark: number): string => {
  switch (at) {
    case 'way':
      return `It is told to turn ${isForward ? 'forwards' : 'back'}.`
    case 'shortest':
      return 'Back, until it stands at its end.'
    case 'longest':
      return 'Forwards, until it stands at its end.'
    case 'marks':
      return 'To a mark, then its value.'
    default:
      return `Bring it onto the mark of ${formatNumber(mark)}.`
  }
}

export const pulseNudges: readonly [number, string][] = [
  [-5, '−50 µs'],
  [-STEP_DEG, '−5 µs'],
  [STEP_DEG, '+5 µs'],
  [5, '+50 µs'],
]

export const nudges: readonly [number, string][] = [
  [-5, '−5°'],
  [-STEP_DEG, '−⅓°'],
  [STEP_DEG, '+⅓°'],
  [5, '+5°'],
]

/** That a lead cannot be cured by what is told. */
export const MIXED =
  'Its two coils are mixed. It hangs on a driver chip, which cannot be told: exchange its two middle leads there.'

/** How to go about what is asked for. */
export const hintOf = (at: NeedleStep): string => {
  if (at === 'way') return 'Clockwise is forwards. What do you see?'
  if (at === 'shortest' || at === 'longest')
    return 'No further than it turns by itself: beyond that it hums and grows warm. ← → a step, ↑ ↓ ten. Enter takes it.'
  return '← → a step, ↑ ↓ five degrees. Enter when it stands on it.'
}

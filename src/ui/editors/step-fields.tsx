'use client'
import type { Action } from '@/core/rig/binding'
import type { VariableInfo } from '@/core/rig/simulator-catalogue'
import { endsOf } from '@/core/signal/stepping'
import { NumberField } from './number-field'
import { TextField } from './text-field'

const FAR = 1e9

type Step = Extract<Action, { do: 'step' }>

const plain = ({ digit: _digit, within: _within, ...step }: Step): Step => step

/** How far a step goes, between what limits, and what of the value it moves. */
export const StepFields = ({
  action,
  info,
  put,
}: {
  action: Step
  info: VariableInfo | undefined
  put: (next: Action) => void
}) => {
  const unit = info?.unit ?? ''
  // No further than the variable itself goes: that is where the other end would refuse it.
  const [lowest, highest] = info?.range ?? [-FAR, FAR]
  const inside = action.digit ? 'digit' : action.within !== undefined ? 'within' : 'whole'
  const turn = (how: string) => {
    const step = plain(action)
    if (how === 'digit')
      put({
        ...step,
        by: Math.sign(step.by) * Math.max(1, Math.round(Math.abs(step.by))),
        atEnd: 'wrap',
        digit: { place: 1, base: 10 },
      })
    else if (how === 'within') put({ ...step, atEnd: 'wrap', within: 1 })
    else put(step)
  }
  return (
    <>
      <NumberField
        label="by"
        unit={unit}
        least={-FAR}
        most={FAR}
        value={action.by}
        take={(by) => by !== 0 && put({ ...action, by })}
      />
      <NumberField
        label="from"
        unit=""
        least={lowest}
        most={action.most}
        value={action.least}
        take={(least) => put({ ...action, least })}
      />
      <NumberField
        label="to"
        unit=""
        least={action.least}
        most={highest}
        value={action.most}
        take={(most) => put({ ...action, most })}
      />
      <label className="flex items-center gap-1.5 text-[12px]">
        <span className="text-ink2">then</span>
        <select
          value={action.atEnd === 'stop' ? 'stop' : endsOf(action)}
          aria-label="At the end"
          onChange={(e) => put(atTheEnd(action, e.target.value))}
        >
          <option value="stop">stops</option>
          <option value="both">
            begins anew: after {action.most} comes {action.least}
          </option>
          <option value="one">
            begins anew: {action.most} is {action.least}
          </option>
        </select>
      </label>
      <label className="flex items-center gap-1.5 text-[12px]">
        <span className="text-ink2">moves</span>
        <select aria-label="What moves" value={inside} onChange={(e) => turn(e.target.value)}>
          <option value="whole">the whole value</option>
          <option value="digit">one digit, without carry</option>
          <option value="within">only part of the value</option>
        </select>
      </label>
      {action.digit && <DigitFields digit={action.digit} put={(digit) => put({ ...action, digit })} />}
      {action.within !== undefined && (
        <NumberField
          label="what lies within"
          unit={unit}
          least={1e-9}
          most={FAR}
          value={action.within}
          take={(within) => put({ ...action, within })}
        />
      )}
    </>
  )
}

/** Both ends of a range may exist, or be one place on a circle. */
const atTheEnd = ({ ends: _, ...step }: Step, how: string): Step =>
  how === 'both' || how === 'one' ? { ...step, atEnd: 'wrap', ends: how } : { ...step, atEnd: 'stop' }

const DigitFields = ({
  digit,
  put,
}: {
  digit: NonNullable<Step['digit']>
  put: (digit: NonNullable<Step['digit']>) => void
}) => (
  <>
    <label className="flex items-center gap-1.5 text-[12px]">
      <span className="text-ink2">the</span>
      <select
        aria-label="Which digit"
        value={digit.place}
        onChange={(e) => put({ ...digit, place: Number(e.target.value) })}
      >
        {[1000, 100, 10, 1, 0.1, 0.01, 0.001].map((place) => (
          <option key={place} value={place}>
            {place}s
          </option>
        ))}
      </select>
    </label>
    <NumberField
      label="in base"
      unit=""
      least={2}
      most={10}
      value={digit.base}
      take={(base) => put({ ...digit, base: Math.round(base) })}
    />
  </>
)

type Choose = Extract<Action, { do: 'choose' }>

const numbersIn = (text: string): number[] =>
  text
    .split(/[\s;]+/)
    .filter((t) => t !== '')
    .map((t) => Number(t.replace(',', '.')))

const valuesObjection = (text: string, range: VariableInfo['range'] | undefined): string | null => {
  const list = numbersIn(text)
  const beyond = range ? list.find((v) => v < range[0] || v > range[1]) : undefined
  if (range && beyond !== undefined)
    return `${beyond} is outside ${range[0]} to ${range[1]} of this variable.`
  if (list.length === 0) return 'At least one value is needed.'
  if (list.some((v) => !Number.isFinite(v))) return 'Only numbers, separated by blanks.'
  return list.every((v, i) => i === 0 || v > (list[i - 1] as number)) ? null : 'The values must rise.'
}

/** The values a control goes along, and what happens at their end. */
export const ChooseFields = ({
  action,
  info,
  put,
}: {
  action: Choose
  info: VariableInfo | undefined
  put: (next: Action) => void
}) => (
  <>
    <TextField
      label="Permitted values"
      width={200}
      value={action.values.join(' ')}
      objection={(text) => valuesObjection(text, action.every ? null : info?.range)}
      take={(text) => put({ ...action, values: numbersIn(text) })}
    />
    <select
      aria-label="Which way along the list"
      value={action.by > 0 ? 'up' : 'down'}
      onChange={(e) => put({ ...action, by: e.target.value === 'up' ? 1 : -1 })}
    >
      <option value="up">upwards</option>
      <option value="down">downwards</option>
    </select>
    <select
      aria-label="At the end of the list"
      value={action.atEnd}
      onChange={(e) => put({ ...action, atEnd: e.target.value === 'wrap' ? 'wrap' : 'stop' })}
    >
      <option value="stop">then stops</option>
      <option value="wrap">then begins anew</option>
    </select>
    <NumberField
      label="repeats every"
      unit=""
      least={0}
      most={FAR}
      value={action.every ?? 0}
      take={(every) => {
        const { every: _, ...rest } = action
        put(every > 0 ? { ...rest, every } : rest)
      }}
    />
  </>
)

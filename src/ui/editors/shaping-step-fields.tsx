'use client'
import { rowsOf } from '@/core/rig/rig'
import type { ShapingStep } from '@/core/signal/shaping'
import { units } from '@/core/signal/unit'
import { useStore } from '../live/store'
import { NumberField } from './number-field'
import { RemoveLine } from './remove-line'
import { TextField } from './text-field'

const FAR = 1e12

export const stepWords: Record<ShapingStep['step'], string> = {
  unit: 'convert to',
  scale: 'multiply by',
  offset: 'add',
  round: 'round to',
  clamp: 'keep within',
  curve: 'along the curve',
  compare: 'compare',
  ranges: 'by ranges',
  cases: 'case by case',
  choose: 'only if',
  fixed: 'write out',
  join: 'put words round it',
}

interface FieldsProps<S extends ShapingStep = ShapingStep> {
  readonly step: S
  /** Why a result written out will not do, or null. */
  readonly sound: (text: string) => string | null
  readonly put: (step: ShapingStep) => void
}

const number = (label: string, value: number, take: (v: number) => void, least = -FAR, most = FAR) => (
  <NumberField label={label} unit="" least={least} most={most} value={value} take={take} />
)

/** What can be set of one simple step. */
export const ShapingStepFields = ({ step, sound, put }: FieldsProps) => {
  switch (step.step) {
    case 'unit':
      return (
        <select aria-label="Unit" value={step.unit} onChange={(e) => put({ ...step, unit: e.target.value })}>
          {units.map((u) => (
            <option key={u.symbol} value={u.symbol}>
              {u.symbol} · {u.name}
            </option>
          ))}
        </select>
      )
    case 'scale':
    case 'offset':
      return (
        <NumberField
          label=""
          name={stepWords[step.step]}
          unit=""
          least={-FAR}
          most={FAR}
          value={step.by}
          take={(by) => put({ ...step, by })}
        />
      )
    case 'round':
      return number('multiples of', step.to, (to) => put({ ...step, to }), 1e-9)
    case 'clamp':
      return (
        <>
          {number('from', step.least, (least) => put({ ...step, least }), -FAR, step.most)}
          {number('to', step.most, (most) => put({ ...step, most }), step.least)}
        </>
      )
    case 'curve':
      return <CurveChoice name={step.name} take={(name) => put({ ...step, name })} />
    case 'compare':
      return (
        <>
          <select
            aria-label="How it is compared"
            value={step.with}
            onChange={(e) => put({ ...step, with: e.target.value as typeof step.with })}
          >
            {['<', '<=', '==', '!=', '>=', '>'].map((op) => (
              <option key={op}>{op}</option>
            ))}
          </select>
          <TextField
            label="With"
            value={step.limit}
            objection={sound}
            take={(limit) => put({ ...step, limit })}
          />
        </>
      )
    case 'ranges':
      return <RangesFields step={step} sound={sound} put={put} />
    case 'cases':
      return <CasesFields step={step} sound={sound} put={put} />
    case 'choose':
      return (
        <>
          <TextField
            label="Condition"
            width={190}
            value={step.when}
            objection={sound}
            take={(when) => put({ ...step, when })}
          />
          <span className="text-ink2">otherwise</span>
          <TextField
            label="Otherwise"
            value={step.otherwise}
            objection={sound}
            take={(otherwise) => put({ ...step, otherwise })}
          />
        </>
      )
    case 'fixed':
      return (
        <>
          {number('decimals', step.decimals, (d) => put({ ...step, decimals: Math.round(d) }), 0, 9)}
          {number(
            'width',
            step.width ?? 0,
            (w) => put({ ...step, width: w > 0 ? Math.round(w) : null }),
            0,
            40,
          )}
        </>
      )
    case 'join':
      return (
        <>
          <TextField
            label="Before"
            placeholder="before"
            value={step.before}
            take={(before) => put({ ...step, before })}
          />
          <span className="text-ink2">…</span>
          <TextField
            label="After"
            placeholder="after"
            value={step.after}
            take={(after) => put({ ...step, after })}
          />
        </>
      )
  }
}

const CurveChoice = ({ name, take }: { name: string; take: (name: string) => void }) => {
  const rig = useStore((s) => s.rig)
  return (
    <select aria-label="Curve" value={name} onChange={(e) => take(e.target.value)}>
      {rowsOf(rig, 'curve').map((c) => (
        <option key={c.id}>{c.name}</option>
      ))}
    </select>
  )
}

const RangesFields = ({ step, sound, put }: FieldsProps<Extract<ShapingStep, { step: 'ranges' }>>) => (
  <div className="flex flex-col gap-1">
    {step.below.map((b, i) => (
      <div key={i} className="flex items-center gap-2">
        {number(
          'below',
          b.limit,
          (limit) => put({ ...step, below: step.below.with(i, { ...b, limit }) }),
          (step.below[i - 1]?.limit ?? -FAR) + 1e-9,
          (step.below[i + 1]?.limit ?? FAR) - 1e-9,
        )}
        <span className="text-ink2">gives</span>
        <TextField
          label={`Gives below ${b.limit}`}
          value={b.gives}
          objection={sound}
          take={(gives) => put({ ...step, below: step.below.with(i, { ...b, gives }) })}
        />
        {step.below.length > 1 && (
          <RemoveLine take={() => put({ ...step, below: step.below.filter((_, k) => k !== i) })} />
        )}
      </div>
    ))}
    <div className="flex items-center gap-2">
      <span className="text-ink2">above that gives</span>
      <TextField
        label="Gives above"
        value={step.otherwise}
        objection={sound}
        take={(otherwise) => put({ ...step, otherwise })}
      />
      <button
        type="button"
        className="btn"
        onClick={() =>
          put({
            ...step,
            below: [...step.below, { limit: (step.below.at(-1)?.limit ?? 0) + 1, gives: step.otherwise }],
          })
        }
      >
        Another range
      </button>
    </div>
  </div>
)

const CasesFields = ({ step, sound, put }: FieldsProps<Extract<ShapingStep, { step: 'cases' }>>) => (
  <div className="flex flex-col gap-1">
    {step.cases.map((c, i) => (
      <div key={i} className="flex items-center gap-2">
        <TextField
          label={`Case ${i + 1}`}
          value={c.is}
          objection={sound}
          take={(is) => put({ ...step, cases: step.cases.with(i, { ...c, is }) })}
        />
        <span className="text-ink2">gives</span>
        <TextField
          label={`Result of case ${i + 1}`}
          value={c.gives}
          objection={sound}
          take={(gives) => put({ ...step, cases: step.cases.with(i, { ...c, gives }) })}
        />
        {step.cases.length > 1 && (
          <RemoveLine take={() => put({ ...step, cases: step.cases.filter((_, k) => k !== i) })} />
        )}
      </div>
    ))}
    <div className="flex items-center gap-2">
      <span className="text-ink2">else</span>
      <TextField
        label="Else"
        placeholder="nothing"
        value={step.otherwise ?? ''}
        objection={(t) => (t === '' ? null : sound(t))}
        take={(t) => put({ ...step, otherwise: t === '' ? null : t })}
      />
      <button
        type="button"
        className="btn"
        onClick={() => put({ ...step, cases: [...step.cases, step.cases.at(-1) ?? { is: '0', gives: '0' }] })}
      >
        Another case
      </button>
    </div>
  </div>
)

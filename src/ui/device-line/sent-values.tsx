'use client'
import { ChevronDown, ChevronUp } from 'lucide-react'
import { useState } from 'react'
import { fieldTypeNames } from '@/core/datagrams/field-type'
import type { SentValue } from '@/core/device-line/description'
import { fingerprintOf } from '@/core/device-line/fingerprint'
import { numbered } from '@/core/rig/numbered'
import { typeNames } from '../datagrams/type-words'
import { ExpressionField } from '../editors/expression-field'
import { freeBinding } from '../editors/free-binding'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { editDescription, moved, type WithDescription } from './device-edit'

export const NAME = /^[A-Za-z][A-Za-z0-9_]*$/
export const nameObjection = (t: string): string | null =>
  NAME.test(t.trim()) && t.trim().length <= 32 ? null : 'a letter, then A to Z, digits and _, up to 32'

/** The values that go out, in their order. */
export const SentValues = ({ row }: { row: WithDescription }) => {
  const { description } = row.settings
  const { send, form } = description
  const [open, setOpen] = useState<number | null>(send.length === 0 ? null : 0)
  const put = (sentence: string, change: (list: readonly SentValue[]) => readonly SentValue[]) =>
    editDescription(row.id, sentence, (d) => ({ ...d, send: [...change(d.send)] }))
  const change = (at: number, sentence: string, more: Partial<SentValue>) =>
    put(`${send[at]?.name} ${sentence}`, (list) => list.map((s, i) => (i === at ? { ...s, ...more } : s)))
  const add = () => {
    const name = numbered('value', new Set(send.map((s) => s.name.replace('_', ' ')))).replace(' ', '_')
    put(`sends ${name}`, (list) => [...list, { name, value: '', decimals: 0, as: 'f32' }])
    setOpen(send.length)
  }
  return (
    <section aria-label="What is sent">
      <div className="flex items-center gap-2 pb-1">
        <h3 className="font-bold">Goes out, in this order</h3>
        {description.marked && (
          <span className="mono text-ink2" title="Changes whenever the two ends would misread each other">
            fingerprint {fingerprintOf(description)}
          </span>
        )}
        <button type="button" className="btn ml-auto" onClick={add}>
          Another value
        </button>
      </div>
      {send.length === 0 && (
        <p className="text-ink2">
          Nothing is sent yet. A value is a variable, a control of the panel, or anything worked out from
          them.
        </p>
      )}
      <ol>
        {send.map((s, i) => (
          <li key={i} data-sent={s.name} className="border-t border-hair py-1">
            <div className="grid grid-cols-[20px_118px_minmax(0,1fr)_auto_auto] items-center gap-2">
              <span className="mono text-right text-ink2">{i + 1}</span>
              <TextField
                label={`Name of value ${i + 1}`}
                width={116}
                value={s.name}
                objection={nameObjection}
                take={(name) => change(i, `is called ${name.trim()}`, { name: name.trim() })}
              />
              <button
                type="button"
                aria-expanded={open === i}
                aria-label={`What ${s.name} is: ${s.value || 'no value yet'}`}
                className={`mono truncate border border-hair px-1.5 py-0.5 text-left ${s.value === '' ? 'text-warn' : ''}`}
                title={s.value}
                onClick={() => setOpen(open === i ? null : i)}
              >
                {s.value || 'no value yet'}
              </button>
              <span className="flex items-center gap-2">
                <span className="flex items-center gap-1">
                  <span className="text-ink2">in</span>
                  <TextField
                    label={`Unit of ${s.name}`}
                    width={62}
                    placeholder="unit"
                    list="units-of-sent"
                    value={s.unit ?? ''}
                    take={(t) =>
                      change(i, `in ${t.trim() || 'its own unit'}`, {
                        unit: t.trim().slice(0, 24) || undefined,
                      })
                    }
                  />
                </span>
                {form === 'line' ? (
                  <>
                    <NumberField
                      label="decimals"
                      name={`Decimals of ${s.name}`}
                      unit=""
                      narrow
                      value={s.decimals}
                      least={0}
                      most={6}
                      take={(n) => change(i, `with ${n} decimals`, { decimals: Math.round(n) })}
                    />
                    <NumberField
                      label="width"
                      name={`Width of ${s.name}`}
                      unit=""
                      narrow
                      value={s.width}
                      least={1}
                      most={20}
                      none={{ shown: '–', clear: () => change(i, 'as wide as it is', { width: undefined }) }}
                      take={(n) => change(i, `${n} wide`, { width: Math.round(n) })}
                    />
                  </>
                ) : (
                  <>
                    <select
                      aria-label={`How ${s.name} is kept`}
                      className="h-[24px] py-0"
                      value={s.as}
                      onChange={(e) =>
                        change(i, `as ${e.target.value}`, { as: e.target.value as SentValue['as'] })
                      }
                    >
                      {[...fieldTypeNames, 'text' as const].map((t) => (
                        <option key={t} value={t}>
                          {typeNames[t]}
                        </option>
                      ))}
                    </select>
                    {s.as === 'text' && (
                      <NumberField
                        label=""
                        name={`Room of ${s.name}`}
                        unit="bytes"
                        narrow
                        value={s.bytes ?? 1}
                        least={1}
                        most={64}
                        take={(n) => change(i, `${n} bytes`, { bytes: Math.round(n) })}
                      />
                    )}
                  </>
                )}
              </span>
              <span className="flex">
                <button
                  type="button"
                  className="btn px-1"
                  aria-label={`${s.name} earlier`}
                  disabled={i === 0}
                  onClick={() => put(`${s.name} earlier`, (list) => moved(list, i, -1))}
                >
                  <ChevronUp size={13} aria-hidden />
                </button>
                <button
                  type="button"
                  className="btn px-1"
                  aria-label={`${s.name} later`}
                  disabled={i === send.length - 1}
                  onClick={() => put(`${s.name} later`, (list) => moved(list, i, 1))}
                >
                  <ChevronDown size={13} aria-hidden />
                </button>
                <button
                  type="button"
                  className="btn px-1.5"
                  aria-label={`Do not send ${s.name}`}
                  onClick={() => put(`does not send ${s.name}`, (list) => list.filter((_, k) => k !== i))}
                >
                  ×
                </button>
              </span>
            </div>
            {open === i && (
              <div className="py-1.5 pl-[28px]">
                <ExpressionField
                  binding={freeBinding(`${row.id} ${i}`)}
                  use="choice"
                  label={`Value of ${s.name}`}
                  value={s.value}
                  emptyMeans={null}
                  take={(value) => change(i, `is ${value ?? 'nothing'}`, { value: value ?? '' })}
                />
              </div>
            )}
          </li>
        ))}
      </ol>
    </section>
  )
}

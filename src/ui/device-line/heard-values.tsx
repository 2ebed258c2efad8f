'use client'
import type { HeardValue } from '@/core/device-line/description'
import { numbered } from '@/core/rig/numbered'
import { TextField } from '../editors/text-field'
import { UnitList } from '../editors/unit-list'
import { editDescription, type WithDescription } from './device-edit'
import { nameObjection } from './sent-values'

/** The values that the device says, as variables like any others. */
export const HeardValues = ({ row }: { row: WithDescription }) => {
  const { hear } = row.settings.description
  const put = (sentence: string, change: (list: readonly HeardValue[]) => readonly HeardValue[]) =>
    editDescription(row.id, sentence, (d) => ({ ...d, hear: [...change(d.hear)] }))
  const change = (at: number, sentence: string, more: Partial<HeardValue>) =>
    put(`${hear[at]?.name} ${sentence}`, (list) => list.map((h, i) => (i === at ? { ...h, ...more } : h)))
  const add = () => {
    const name = numbered('said', new Set(hear.map((h) => h.name.replace('_', ' ')))).replace(' ', '_')
    put(`hears ${name}`, (list) => [...list, { name, as: 'number' }])
  }
  return (
    <section aria-label="What comes back">
      <div className="flex items-center gap-2 pb-1">
        <h3 className="font-bold">Comes back</h3>
        <span className="text-ink2">
          in this order, or each as name=value; they are variables like any others
        </span>
        <button type="button" className="btn ml-auto" onClick={add}>
          Another value
        </button>
      </div>
      <ol>
        {hear.map((h, i) => (
          <li
            key={i}
            data-heard={h.name}
            className="grid grid-cols-[20px_118px_auto_auto_minmax(0,1fr)_auto] items-center gap-2 border-t border-hair py-1"
          >
            <span className="mono text-right text-ink2">{i + 1}</span>
            <TextField
              label={`Name of what comes as ${i + 1}`}
              width={116}
              value={h.name}
              objection={nameObjection}
              take={(name) => change(i, `is called ${name.trim()}`, { name: name.trim() })}
            />
            <select
              aria-label={`What ${h.name} is`}
              className="h-[24px] py-0"
              value={h.as}
              onChange={(e) =>
                change(i, `is a ${e.target.value}`, { as: e.target.value as HeardValue['as'] })
              }
            >
              <option>number</option>
              <option>text</option>
            </select>
            <TextField
              label={`Unit of ${h.name}`}
              width={64}
              placeholder="unit"
              list="units-of-sent"
              value={h.unit ?? ''}
              take={(t) =>
                change(i, `in ${t.trim() || 'no unit'}`, { unit: t.trim().slice(0, 24) || undefined })
              }
            />
            <TextField
              label={`What ${h.name} means`}
              width={200}
              placeholder="what it is, in words"
              value={h.description ?? ''}
              take={(t) => change(i, 'in words', { description: t.trim().slice(0, 200) || undefined })}
            />
            <button
              type="button"
              className="btn px-1.5"
              aria-label={`Do not hear ${h.name}`}
              onClick={() => put(`does not hear ${h.name}`, (list) => list.filter((_, k) => k !== i))}
            >
              ×
            </button>
          </li>
        ))}
      </ol>
      <UnitList id="units-of-sent" />
    </section>
  )
}

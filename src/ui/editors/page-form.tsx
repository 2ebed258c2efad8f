'use client'
import { useState } from 'react'
import type { TextAspect } from '@/core/catalogue/part-kind'
import type { TextSettings } from '@/core/rig/binding'
import { layerSetsOf, layersOf } from '@/core/rig/rig'
import type { BindingRow } from '@/core/rig/rows'
import { useStore } from '../live/store'
import { ExpressionField } from './expression-field'
import { placeOf } from './expression-scope'
import { ExtraExpression, type IndicatorFormProps } from './extra-expression'
import { RemoveLine } from './remove-line'
import { ShapingSteps } from './shaping-steps'

type Line = TextSettings['lines'][number]

/** One line of a page: as an expression, by simple steps, and with its cursor. */
const LineForm = ({
  binding,
  line,
  place,
  put,
  remove,
}: {
  binding: BindingRow
  line: Line
  place: number
  put: (next: Line) => void
  remove: (() => void) | null
}) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const [steps, setSteps] = useState(false)
  const n = place + 1
  const layers = layerSetsOf(rig).flatMap((set) => layersOf(rig, set.id).map((layer) => ({ set, layer })))
  const show = (text: string) => put({ ...line, show: text })
  const blank = line.show === '""'
  return (
    <div className="border-b border-hair pb-1.5">
      <div className="mb-1 flex items-center gap-2 text-[12px]">
        <span className="text-ink2">line {n}</span>
        <span className="flex-1" />
        <select
          aria-label={`Cursor of line ${n}`}
          value={line.cursor ?? ''}
          onChange={(e) =>
            put(e.target.value === '' ? { show: line.show } : { show: line.show, cursor: e.target.value })
          }
        >
          <option value="">no cursor</option>
          {layers.map(({ set, layer }) => (
            <option key={layer.id} value={layer.id}>
              cursor in {set.name} · {layer.name}
            </option>
          ))}
        </select>
        <button type="button" className="btn" aria-expanded={steps} onClick={() => setSteps(!steps)}>
          Simple steps
        </button>
        {remove && <RemoveLine label={`Remove line ${n}`} take={remove} />}
      </div>
      <ExpressionField
        binding={binding}
        use="shaping"
        label={`Line ${n}`}
        value={line.show}
        emptyMeans={null}
        focus={place === 0}
        take={(t) => show(t ?? '""')}
      />
      {steps && (
        <div className="pl-4">
          <ShapingSteps
            source={blank ? (index.catalogue.variables[0]?.name ?? '') : line.show}
            place={placeOf(rig, index, binding, 'shaping')}
            free
            take={show}
          />
        </div>
      )}
    </div>
  )
}

/** The lines of a page of a text display. */
export const PageForm = ({
  binding,
  settings,
  change,
  aspect,
}: IndicatorFormProps<TextSettings> & { readonly aspect: TextAspect }) => {
  const { powered: _, ...bare } = settings
  const { lines } = settings
  return (
    <div className="flex flex-col gap-2">
      {lines.map((line, i) => (
        <LineForm
          key={i}
          binding={binding}
          line={line}
          place={i}
          put={(next) => change({ ...settings, lines: lines.with(i, next) })}
          remove={
            lines.length > 1 ? () => change({ ...settings, lines: lines.filter((_l, k) => k !== i) }) : null
          }
        />
      ))}
      {lines.length < aspect.rows && (
        <div>
          <button
            type="button"
            className="btn"
            onClick={() => change({ ...settings, lines: [...lines, { show: '""' }] })}
          >
            Another line
          </button>
        </div>
      )}
      <ExtraExpression
        binding={binding}
        label="powered while"
        use="condition"
        value={settings.powered}
        emptyMeans="always"
        take={(t) => change(t === null ? bare : { ...settings, powered: t })}
      />
    </div>
  )
}

import { memo } from 'react'
import type { Band } from '@/core/aspects/travel'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'

const FAR = 1e9
const percent = (x: number): number => Number((x * 100).toFixed(2))

/** How what a band gives goes from one end to the other. */
const shapes = [
  { word: 'straight', bend: undefined },
  { word: 'fine, then coarse', bend: 0.5 },
  { word: 'much so', bend: 1 },
  { word: 'coarse, then fine', bend: -0.5 },
  { word: 'much so, that way', bend: -1 },
] as const

/** The bands of a travel as they can be typed: from, to, what each gives in which unit, and how it goes between. */
export const BandTable = memo(function BandTable({
  bands,
  put,
}: {
  bands: readonly Band[]
  put: (bands: readonly Band[]) => void
}) {
  const change = (i: number, more: Partial<Band>) =>
    put(bands.map((b, k) => (k === i ? { ...b, ...more } : b)))
  const end = bands.at(-1)?.to ?? 0
  return (
    <div className="mt-2 text-[12px]">
      {bands.length > 0 && (
        <table className="w-full border-collapse">
          <thead>
            <tr className="text-left text-ink2">
              {['Band', 'From', 'To', 'Gives', '… to', 'Unit', 'Shape', ''].map((h) => (
                <th key={h} className="py-0.5 pr-2 font-normal">
                  {h || <span className="sr-only">Remove</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {bands.map((b, i) => (
              <tr key={i} className="border-t border-hair" data-band={b.name ?? i + 1}>
                <td className="py-1 pr-2">
                  <Typed
                    label={`Name of band ${i + 1}`}
                    value={b.name ?? ''}
                    take={(name) => change(i, { name: name || undefined })}
                    wide
                  />
                </td>
                <td className="pr-2">
                  <NumberField
                    narrow
                    label=""
                    name={`Band ${i + 1} from`}
                    unit="%"
                    least={percent(bands[i - 1]?.to ?? 0)}
                    most={percent(b.to) - 0.1}
                    value={percent(b.from)}
                    take={(v) => change(i, { from: v / 100 })}
                  />
                </td>
                <td className="pr-2">
                  <NumberField
                    narrow
                    label=""
                    name={`Band ${i + 1} to`}
                    unit="%"
                    least={percent(b.from) + 0.1}
                    most={percent(bands[i + 1]?.from ?? 1)}
                    value={percent(b.to)}
                    take={(v) => change(i, { to: v / 100 })}
                  />
                </td>
                {([0, 1] as const).map((k) => (
                  <td key={k} className="pr-2">
                    <NumberField
                      narrow
                      label=""
                      name={`Band ${i + 1} gives ${k === 0 ? 'at its beginning' : 'at its end'}`}
                      unit=""
                      least={-FAR}
                      most={FAR}
                      value={b.gives[k]}
                      take={(v) => change(i, { gives: k === 0 ? [v, b.gives[1]] : [b.gives[0], v] })}
                    />
                  </td>
                ))}
                <td className="pr-2">
                  <Typed
                    label={`Unit of band ${i + 1}`}
                    value={b.unit ?? ''}
                    take={(unit) => change(i, { unit: unit || undefined })}
                  />
                </td>
                <td className="pr-2">
                  {b.gives[0] === b.gives[1] ? (
                    <span className="text-ink2">flat</span>
                  ) : (
                    <select
                      aria-label={`Shape of band ${i + 1}`}
                      value={shapes.findIndex((s) => (s.bend ?? 0) === (b.bend ?? 0))}
                      onChange={(e) => change(i, { bend: shapes[Number(e.target.value)]?.bend })}
                    >
                      {shapes.map((s, k) => (
                        <option key={s.word} value={k}>
                          {s.word}
                        </option>
                      ))}
                    </select>
                  )}
                </td>
                <td>
                  <RemoveLine take={() => put(bands.filter((_, k) => k !== i))} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-1.5 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="btn"
          disabled={end >= 0.99}
          onClick={() => put([...bands, { from: end, to: 1, gives: [0, 1] }])}
        >
          Another band
        </button>
      </p>
    </div>
  )
})

const Typed = ({
  label,
  value,
  take,
  wide = false,
}: {
  label: string
  value: string
  take: (value: string) => void
  wide?: boolean
}) => (
  <input
    key={value}
    aria-label={label}
    className={wide ? 'w-[86px]' : 'w-[48px]'}
    maxLength={40}
    defaultValue={value}
    onBlur={(e) => e.target.value.trim() !== value && take(e.target.value.trim())}
    onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
  />
)

import { memo, useEffect, useId, useState } from 'react'
import type { Band } from '@/core/aspects/travel'
import { unitNamed } from '@/core/signal/unit'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { RefusalNote } from '../primitives/refusal-note'

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
                    objection={(u) =>
                      unitNamed(u) ? null : `“${u}” is no unit that is known: percent, deg or ft will do.`
                    }
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

/** Words to be typed; what cannot be taken stays as it was typed, with the reason, until it is mended or Escape puts the old ones back. */
const Typed = ({
  label,
  value,
  take,
  objection = () => null,
  wide = false,
}: {
  label: string
  value: string
  take: (value: string) => void
  objection?: (text: string) => string | null
  wide?: boolean
}) => {
  const [text, setText] = useState(value)
  const [why, setWhy] = useState<string | null>(null)
  const id = useId()
  useEffect(() => setText(value), [value])
  const settle = () => {
    const typed = text.trim()
    const found = typed === '' ? null : objection(typed)
    setWhy(found)
    if (found === null && typed !== value) take(typed)
  }
  return (
    <span className="relative">
      <input
        aria-label={label}
        aria-invalid={why !== null}
        aria-describedby={why === null ? undefined : id}
        className={wide ? 'w-[86px]' : 'w-[48px]'}
        maxLength={40}
        value={text}
        onChange={(e) => {
          setText(e.target.value)
          setWhy(null)
        }}
        onBlur={settle}
        onKeyDown={(e) => {
          if (e.key === 'Enter') settle()
          if (e.key !== 'Escape' || text === value) return
          e.stopPropagation()
          setText(value)
          setWhy(null)
        }}
      />
      {why !== null && <RefusalNote id={id} words={why} />}
    </span>
  )
}

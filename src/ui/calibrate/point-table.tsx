import { MOST_DEG } from '@/core/aspects/trial'
import type { NeedlePoint } from '@/core/signal/needle'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'

const FAR = 1e9
/** Further apart than the least that two values of one scale can be. */
const APART = 1e-6

/** Which value stands where, as it can be typed; a point is shown by the needle when it is asked for. */
export const PointTable = ({
  points,
  beyond,
  show,
  put,
}: {
  points: readonly NeedlePoint[]
  /** Those that the needle cannot reach. */
  beyond: readonly number[]
  show: (point: NeedlePoint) => void
  put: (points: readonly NeedlePoint[]) => void
}) => (
  <table className="border-collapse text-[12px]">
    <thead>
      <tr className="text-left text-ink2">
        <th className="font-normal">Value</th>
        <th className="font-normal">Stands at</th>
        <th>
          <span className="sr-only">Show, remove</span>
        </th>
      </tr>
    </thead>
    <tbody>
      {points.map((p, i) => (
        <tr key={i} className={`border-t border-hair ${beyond.includes(i) ? 'text-warn' : ''}`}>
          <td className="py-1 pr-3">
            <NumberField
              label=""
              name={`Value of point ${i + 1}`}
              unit=""
              least={(points[i - 1]?.value ?? -FAR) + APART}
              most={(points[i + 1]?.value ?? FAR) - APART}
              value={p.value}
              take={(value) => put(points.map((q, k) => (k === i ? { ...p, value } : q)))}
            />
          </td>
          <td className="pr-3">
            <NumberField
              label=""
              name={`Angle of point ${i + 1}`}
              unit="°"
              least={-MOST_DEG}
              most={MOST_DEG}
              value={p.deg}
              take={(deg) => put(points.map((q, k) => (k === i ? { ...p, deg } : q)))}
            />
          </td>
          <td className="flex items-center gap-2 py-1">
            <button type="button" className="btn h-[21px]" onClick={() => show(p)}>
              Show
            </button>
            {beyond.includes(i) && <span title="The needle does not get there">◇ beyond</span>}
            {points.length > 2 && <RemoveLine take={() => put(points.filter((_, k) => k !== i))} />}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
)

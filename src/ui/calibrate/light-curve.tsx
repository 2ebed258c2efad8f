import { type LightCurve, strengthOf } from '@/core/aspects/light'

const WIDE = 250
const HIGH = 170
const PAD = 28
const RIGHT = 16

/** How strongly it shines for how bright it is to be, with where it is now. */
export const CurveChart = ({ curve, now }: { curve: LightCurve | undefined; now: number | null }) => {
  const x = (share: number) => PAD + share * (WIDE - PAD - RIGHT)
  const y = (share: number) => HIGH - PAD - share * (HIGH - PAD - 8)
  const points = Array.from({ length: 41 }, (_, i) => {
    const share = Math.max(1e-6, i / 40)
    return `${x(share).toFixed(1)} ${y(strengthOf(curve, share)).toFixed(1)}`
  })
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-[250px] shrink-0"
      role="img"
      aria-label="Strength by brightness"
    >
      {[0, 0.5, 1].map((v) => (
        <g key={v} className="text-[10px]" fill="var(--ink2)">
          <path d={`M${x(0)} ${y(v)}H${x(1)}M${x(v)} ${y(0)}V${y(1)}`} stroke="var(--hair)" fill="none" />
          <text x={x(0) - 4} y={y(v) + 3} textAnchor="end">
            {v * 100}
          </text>
          <text x={x(v)} y={y(0) + 12} textAnchor="middle">
            {v * 100}
          </text>
        </g>
      ))}
      <text x={x(0.5)} y={HIGH - 3} textAnchor="middle" className="text-[11px]" fill="var(--ink2)">
        bright, % · shines with, % ↑
      </text>
      <path d={`M${points.join('L')}`} fill="none" stroke="var(--accent)" strokeWidth={2} />
      {now !== null && (
        <path
          d={`M${x(0)} ${y(now)}H${x(1)}`}
          stroke="var(--warn)"
          strokeDasharray="4 3"
          data-strength={now.toFixed(3)}
        />
      )}
    </svg>
  )
}

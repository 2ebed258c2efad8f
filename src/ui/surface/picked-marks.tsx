import type { Box } from '@/core/geometry/boxes'
import { point } from '@/core/geometry/contour'
import type { FitFinding } from '@/core/layout/fit/finding'
import { isLocked, middleOf, type Surface, type Thing, unionOf } from '@/core/layout/things'
import { formatNumber } from '@/core/signal/format'

/** What lies over the drawing: corners round what is picked, measures, findings, guides. */
export const PickedMarks = ({
  things,
  findings,
  on,
  scale,
}: {
  things: readonly Thing[]
  findings: readonly FitFinding[]
  on: Surface
  scale: number
}) => {
  const px = 1 / scale
  return (
    <>
      {on.guides.map((g) => (
        <path
          key={`${g.axis}${g.at}`}
          d={g.axis === 'x' ? `M${g.at} -2000V${on.height + 2000}` : `M-2000 ${g.at}H${on.width + 2000}`}
          stroke="var(--accent)"
          strokeWidth={px}
          strokeDasharray={`${6 * px} ${4 * px}`}
        />
      ))}
      {findings.map((f) => (
        <FindingMark key={f.id} box={f.box} px={px} />
      ))}
      {things.map((t) => (
        <Corners key={t.key} box={t.box} locked={isLocked(t)} px={px} />
      ))}
      {things.length === 2 && (
        <Between a={things[0] as Thing} b={things[1] as Thing} unit={on.unit} px={px} />
      )}
      {things.length > 2 && <Frame box={unionOf(things.map((t) => t.box))} px={px} />}
    </>
  )
}

const GAP_PX = 4
const ARM_PX = 8

const Corners = ({ box, locked, px }: { box: Box; locked: boolean; px: number }) => {
  const [l, r, t, b] = [
    box.minX - GAP_PX * px,
    box.maxX + GAP_PX * px,
    box.minY - GAP_PX * px,
    box.maxY + GAP_PX * px,
  ]
  const arm = ARM_PX * px
  const d = [
    `M${l + arm} ${t}H${l}V${t + arm}`,
    `M${r - arm} ${t}H${r}V${t + arm}`,
    `M${l + arm} ${b}H${l}V${b - arm}`,
    `M${r - arm} ${b}H${r}V${b - arm}`,
  ].join('')
  return (
    <g fill="none" stroke="#ffd9a8" strokeWidth={1.6 * px}>
      <path d={d} />
      {locked && (
        <path
          transform={`translate(${r} ${t}) scale(${px})`}
          d="M-4 0h8v6h-8zM-2.500 0v-2.500a2.500 2.500 0 0 1 5 0v2.500"
          fill="#20282b"
        />
      )}
    </g>
  )
}

const Frame = ({ box, px }: { box: Box; px: number }) => (
  <rect
    x={box.minX - 9 * px}
    y={box.minY - 9 * px}
    width={box.maxX - box.minX + 18 * px}
    height={box.maxY - box.minY + 18 * px}
    fill="none"
    stroke="#ffd9a8"
    strokeWidth={px}
    strokeDasharray={`${2 * px} ${3 * px}`}
  />
)

/** The way between two things, from middle to middle. */
const Between = ({ a, b, unit, px }: { a: Thing; b: Thing; unit: string; px: number }) => {
  const [p, q] = [middleOf(a), middleOf(b)]
  const at = point((p.x + q.x) / 2, (p.y + q.y) / 2)
  const words = `${formatNumber(Math.round(Math.hypot(p.x - q.x, p.y - q.y) * 100) / 100)} ${unit}`
  const width = (words.length * 7 + 8) * px
  return (
    <g>
      <path d={`M${p.x} ${p.y}L${q.x} ${q.y}`} stroke="#ffd9a8" strokeWidth={px} />
      <rect x={at.x - width / 2} y={at.y - 8 * px} width={width} height={16 * px} fill="#20282b" />
      <text
        x={at.x}
        y={at.y + 4 * px}
        fontSize={11.5 * px}
        textAnchor="middle"
        fill="#ffd9a8"
        className="mono"
      >
        {words}
      </text>
    </g>
  )
}

/** A place that does not fit: ringed and crossed, so that it is seen without its colour. */
const FindingMark = ({ box, px }: { box: Box; px: number }) => {
  const grown = 3 * px
  const [x, y] = [box.minX - grown, box.minY - grown]
  const [w, h] = [Math.max(0, box.maxX - box.minX) + 2 * grown, Math.max(0, box.maxY - box.minY) + 2 * grown]
  return (
    <g fill="none" stroke="#ff9db2" strokeWidth={1.4 * px}>
      <rect x={x} y={y} width={w} height={h} fill="#ff5f86" fillOpacity={0.16} />
      <path d={`M${x} ${y}l${w} ${h}M${x + w} ${y}l${-w} ${h}`} strokeWidth={0.7 * px} />
    </g>
  )
}

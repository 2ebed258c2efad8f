'use client'
import { kindOf } from '@/core/catalogue/own-kind'
import {
  type EncoderAspect,
  isIndicator,
  type PartKind,
  positionsAspect,
  type TravelAspect,
} from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import type { PartRow } from '@/core/rig/rows'
import { useKeyed } from '../live/keyed-values'
import { parts } from '../live/store'
import { KnobWork } from './knob-work'
import { ShownWork } from './shown-work'
import { SwitchWork } from './switch-work'
import { TravelWork } from './travel-work'

interface Props {
  readonly part: PartRow
  readonly selected: boolean
  /** Whether controls can be worked here, or parts only chosen. */
  readonly operable: boolean
}

/** One part from the front, to true size, alive; with mouse and keys where it can be worked. */
export const PartDrawing = ({ part, selected, operable }: Props) => {
  const kind = partKind(part.kind)
  if (!kind) return <UnknownPart part={part} />
  const place = `translate(${part.xMm} ${part.yMm}) rotate(${part.rotationDeg})`
  return (
    <g transform={place} data-part={part.id}>
      {part.settings.own ? (
        <g transform={`scale(${scaleOf(part, kind)})`}>
          <Work part={part} kind={kind} operable={operable} />
        </g>
      ) : (
        <Work part={part} kind={kind} operable={operable} />
      )}
      {selected && <Brackets kind={kindOf(part) ?? kind} />}
    </g>
  )
}

/** A part of the builder's own is drawn as what it works like, in its own size. */
const scaleOf = (part: PartRow, like: PartKind): string => {
  const { width, height } = kindOf(part)?.frontMm ?? like.frontMm
  return `${width / like.frontMm.width} ${height / like.frontMm.height}`
}

/** What can be done with it follows from what it has. */
const Work = ({ part, kind, operable }: { part: PartRow; kind: PartKind; operable: boolean }) => {
  const live = useKeyed(parts, part.id)
  const common = { part, kind, operable, live }
  const encoders = kind.aspects.filter((a): a is EncoderAspect => a.kind === 'encoder')
  const positions = positionsAspect(kind)
  if (encoders.length > 0) return <KnobWork {...common} encoders={encoders} push={positions} />
  if (positions) return <SwitchWork {...common} aspect={positions} />
  const travel = kind.aspects.find((a): a is TravelAspect => a.kind === 'travel')
  if (travel) return <TravelWork {...common} aspect={travel} />
  return <ShownWork {...common} aspects={kind.aspects.filter(isIndicator)} />
}

const UnknownPart = ({ part }: { part: PartRow }) => (
  <g transform={`translate(${part.xMm} ${part.yMm})`} data-part={part.id}>
    <rect
      x={-6}
      y={-6}
      width={12}
      height={12}
      fill="none"
      stroke="var(--fault)"
      strokeWidth={0.5}
      strokeDasharray="1 1"
    />
    <text y={1.2} fontSize={3} textAnchor="middle" fill="var(--legend)">
      ?
    </text>
  </g>
)

const Brackets = ({ kind }: { kind: PartKind }) => {
  const w = kind.frontMm.width / 2 + 2.2
  const h = kind.frontMm.height / 2 + 2.2
  const arm = 3
  const corner = (sx: number, sy: number) => `M${sx * (w - arm)} ${sy * h}H${sx * w}V${sy * (h - arm)}`
  return (
    <path
      d={corner(-1, -1) + corner(1, -1) + corner(-1, 1) + corner(1, 1)}
      fill="none"
      stroke="#ffd9a8"
      strokeWidth={0.7}
      pointerEvents="none"
    />
  )
}

'use client'
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import { type PartKind, type PositionsAspect, positionsAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import type { PartLive } from '@/core/live/feed'
import type { PartRow } from '@/core/rig/rows'
import { operate, select } from '../live/connection'
import { useKeyed } from '../live/keyed-values'
import { parts } from '../live/store'
import { ButtonLook } from './button-look'
import { LampLook } from './lamp-look'
import { LeverLook } from './lever-look'
import { ToggleLook } from './toggle-look'

interface Props {
  readonly part: PartRow
  readonly selected: boolean
  /** Whether controls can be worked here, or parts only chosen. */
  readonly operable: boolean
}

/** How long a movement on screen may take to show in the contacts. */
const ON_ITS_WAY_MS = 250

/** Where along its travel a lever's position lies, in millimetres from the middle. */
const leverY = (aspect: PositionsAspect, position: string | null, travelMm: number): number => {
  const at = aspect.positions.findIndex((p) => p.id === position)
  const share = at < 0 ? 0.5 : at / (aspect.positions.length - 1)
  return (share - 0.5) * travelMm
}

const label = (part: PartRow, position: string | null): string =>
  position === null ? 'not heard yet' : (part.settings.labels?.[position] ?? position)

/** One part from the front, to true size, alive; with mouse and keys where it can be worked. */
export const PartDrawing = ({ part, selected, operable }: Props) => {
  const kind = partKind(part.kind)
  const live = useKeyed(parts, part.id)
  if (!kind) return <UnknownPart part={part} />
  const place = `translate(${part.xMm} ${part.yMm}) rotate(${part.rotationDeg})`
  return (
    <g transform={place} data-part={part.id}>
      <Worked part={part} kind={kind} live={live} operable={operable} />
      {selected && <Brackets kind={kind} />}
    </g>
  )
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

const Worked = ({
  part,
  kind,
  live,
  operable,
}: {
  part: PartRow
  kind: PartKind
  live: PartLive | undefined
  operable: boolean
}) => {
  const aspect = positionsAspect(kind)
  const pose = live?.hand ?? live?.position ?? null
  const svg = useRef<SVGGElement>(null)
  const [dragY, setDragY] = useState<number | null>(null)
  const { front } = kind
  const at = aspect?.positions.findIndex((p) => p.id === pose) ?? -1

  const asked = useRef({ position: pose, until: 0 })
  /** Where the hand is or is on its way to: keys can be quicker than the contacts. */
  const heading = (): string | null =>
    performance.now() < asked.current.until ? asked.current.position : pose
  const go = (position: string | undefined) => {
    if (position === undefined || position === heading()) return
    asked.current = { position, until: performance.now() + ON_ITS_WAY_MS }
    operate(part.id, position)
  }
  const place = (): number => aspect?.positions.findIndex((p) => p.id === heading()) ?? -1
  const step = (by: number) => {
    const last = (aspect?.positions.length ?? 1) - 1
    const from = Math.max(0, place())
    go(aspect?.positions[Math.max(0, Math.min(last, from + by))]?.id)
  }
  const press = (down: boolean) => operate(part.id, aspect?.positions[down ? 1 : 0]?.id ?? '')

  /** The lever's place under the pointer, in millimetres from its middle. */
  const underPointer = (e: PointerEvent): number => {
    const matrix = svg.current?.getScreenCTM()
    if (!matrix) return 0
    return new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse()).y
  }
  const moveLever = (e: PointerEvent) => {
    if (front.look !== 'lever' || !aspect) return
    const half = front.travelMm / 2
    const y = Math.min(half, Math.max(-half, underPointer(e)))
    setDragY(y)
    go(aspect.positions[Math.round(((y + half) / front.travelMm) * (aspect.positions.length - 1))]?.id)
  }

  const down = (e: PointerEvent) => {
    select(part.id)
    if (!operable || !aspect || e.button !== 0) return
    e.currentTarget.setPointerCapture(e.pointerId)
    if (front.look === 'lever') moveLever(e)
    else if (aspect.momentary) press(true)
    else go(aspect.positions[(place() + 1) % aspect.positions.length]?.id)
  }
  const up = () => {
    if (!operable || !aspect) return
    setDragY(null)
    if (aspect.momentary) press(false)
  }
  const keyDown = (e: KeyboardEvent) => {
    const steps: Record<string, number> =
      front.look === 'lever' ? { ArrowUp: -1, ArrowDown: 1 } : { ArrowUp: 1, ArrowDown: -1 }
    if (e.key === 'Enter' && !operable) select(part.id)
    else if (!operable || !aspect) return
    else if (aspect.momentary && (e.key === ' ' || e.key === 'Enter')) {
      if (!e.repeat) press(true)
    } else if (!aspect.momentary && steps[e.key] !== undefined) step(steps[e.key] ?? 0)
    else if (!aspect.momentary && (e.key === ' ' || e.key === 'Enter')) {
      go(aspect.positions[(place() + 1) % aspect.positions.length]?.id)
    } else return
    e.preventDefault()
  }
  const keyUp = (e: KeyboardEvent) => {
    if (operable && aspect?.momentary && (e.key === ' ' || e.key === 'Enter')) press(false)
  }

  const words = aspect ? label(part, pose) : (live?.panel ?? 'out')
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the role follows from what the part is
    <g
      ref={svg}
      {...rolesOf(aspect, operable, at, words)}
      aria-label={aspect && operable ? part.name : `${part.name}: ${words}`}
      tabIndex={0}
      className="worked cursor-pointer"
      style={{ touchAction: 'none' }}
      onPointerDown={down}
      onPointerMove={(e) => dragY !== null && moveLever(e)}
      onPointerUp={up}
      onPointerCancel={up}
      onKeyDown={keyDown}
      onKeyUp={keyUp}
      onFocus={() => select(part.id)}
    >
      <rect
        x={-kind.frontMm.width / 2}
        y={-kind.frontMm.height / 2}
        width={kind.frontMm.width}
        height={kind.frontMm.height}
        fill="transparent"
      />
      <rect
        className="focus-ring"
        x={-kind.frontMm.width / 2 - 1.2}
        y={-kind.frontMm.height / 2 - 1.2}
        width={kind.frontMm.width + 2.4}
        height={kind.frontMm.height + 2.4}
        fill="none"
        stroke="#cfe8f3"
        strokeWidth={0.5}
      />
      {front.look === 'lamp' && <LampLook look={front} live={live} />}
      {front.look === 'toggle' && <ToggleLook look={front} up={pose === 'up'} />}
      {front.look === 'button' && <ButtonLook look={front} pressed={pose === 'pressed'} />}
      {front.look === 'lever' && aspect && (
        <LeverLook look={front} y={dragY ?? leverY(aspect, pose, front.travelMm)} />
      )}
    </g>
  )
}

const rolesOf = (aspect: PositionsAspect | undefined, operable: boolean, at: number, words: string) => {
  if (!aspect || !operable) return { role: 'button' }
  if (aspect.momentary) return { role: 'button', 'aria-pressed': at === 1 }
  if (aspect.positions.length === 2) return { role: 'switch', 'aria-checked': at === 1 }
  return {
    role: 'slider',
    'aria-orientation': 'vertical' as const,
    'aria-valuemin': 0,
    'aria-valuemax': aspect.positions.length - 1,
    'aria-valuenow': Math.max(0, at),
    'aria-valuetext': words,
  }
}

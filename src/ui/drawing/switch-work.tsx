'use client'
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import { type PositionsAspect, rotaryDeg } from '@/core/catalogue/part-kind'
import type { PartLive } from '@/core/live/feed'
import { operate } from '../live/connection'
import { ButtonLook } from './button-look'
import { HatLook, hatKeys, hatSide } from './hat-look'
import { PointerKnob } from './knob-look'
import { LeverLook } from './lever-look'
import { ToggleLook } from './toggle-look'
import { Worked, type WorkProps } from './worked'
import { Heading, inPlace, positionWords, underPointer } from './working'

type Props = WorkProps & { readonly aspect: PositionsAspect; readonly live: PartLive | undefined }

/** A switch of any kind, worked with mouse and keys. Shift keeps a springing one where it was put. */
export const SwitchWork = ({ part, kind, aspect, live, operable }: Props) => {
  const state = live?.aspects[aspect.id]
  const metered = typeof state?.metered === 'string' ? state.metered : null
  const pose = metered ?? (typeof state?.told === 'string' ? state.told : null)
  const svg = useRef<SVGGElement>(null)
  const [dragY, setDragY] = useState<number | null>(null)
  const [kept, setKept] = useState(false)
  const { front } = kind
  const places = inPlace(aspect)
  const resting = aspect.positions[0].id

  const asked = useRef(new Heading())
  const heading = () => asked.current.from(pose, performance.now())
  // Each time the contacts tell something, whether or not a hand asks.
  heading()
  /** It was put away from its rest here, and has to be let go here, whatever the contacts tell meanwhile. */
  const away = useRef(false)
  const put = (position: string) => {
    asked.current.ask(position, performance.now())
    away.current = position !== resting
    operate(part.id, aspect.id, { to: 'position', position })
  }
  const go = (position: string | undefined) => {
    if (position !== undefined && position !== heading()) put(position)
  }
  const step = (by: number, round = false) => {
    const last = places.length - 1
    const from = Math.max(0, places.indexOf(heading() ?? ''))
    const to = from + by
    go(places[round ? (to + places.length) % places.length : Math.max(0, Math.min(last, to))])
  }
  const letGo = () => {
    if (aspect.momentary && !kept && (away.current || heading() !== resting)) put(resting)
  }

  const moveLever = (e: PointerEvent) => {
    if (front.look !== 'lever') return
    const half = front.travelMm / 2
    const y = Math.min(half, Math.max(-half, underPointer(svg, e).y))
    setDragY(y)
    go(places[Math.round(((half - y) / front.travelMm) * (places.length - 1))])
  }
  /** The side on which it was touched: up or right is onwards. */
  const side = (e: PointerEvent): number => {
    const { x, y } = underPointer(svg, e)
    return front.look === 'rotary' ? (x < 0 ? -1 : 1) : y > 0 ? -1 : 1
  }
  const wantedBy = (e: PointerEvent): string | undefined => {
    if (front.look === 'hat') return hatSide(underPointer(svg, e))
    return places.length === 2 ? aspect.positions[1]?.id : places[side(e) > 0 ? places.length - 1 : 0]
  }
  const springTo = (e: PointerEvent) => {
    const wanted = wantedBy(e)
    if (kept) {
      setKept(false)
      go(resting)
      return
    }
    if (e.shiftKey) setKept(true)
    go(wanted)
  }
  const down = (e: PointerEvent) => {
    if (!operable || e.button !== 0) return
    e.currentTarget.setPointerCapture(e.pointerId)
    if (front.look === 'lever') moveLever(e)
    else if (aspect.momentary) springTo(e)
    else if (places.length === 2) step(1, true)
    else step(side(e))
  }
  const up = () => {
    setDragY(null)
    if (operable) letGo()
  }
  const keyDown = (e: KeyboardEvent) => {
    const by: Record<string, number> = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }
    const arrow = by[e.key]
    const press = e.key === ' ' || e.key === 'Enter'
    if (!operable || !(press || arrow !== undefined)) return
    e.preventDefault()
    if (aspect.momentary) {
      if (e.repeat) return
      if (front.look === 'hat') go(hatKeys[e.key])
      else if (places.length === 2 && press) go(aspect.positions[1]?.id)
      else if (arrow !== undefined) go(places[arrow > 0 ? places.length - 1 : 0])
    } else if (press) step(1, true)
    else step(arrow ?? 0)
  }

  const at = places.indexOf(pose ?? '')
  const words = positionWords(part, pose)
  return (
    <Worked
      ref={svg}
      part={part}
      aspectId={aspect.id}
      reach={{ x: kind.frontMm.width / 2, y: kind.frontMm.height / 2 }}
      label={operable ? part.name : `${part.name}: ${words}`}
      role={rolesOf(aspect, operable, at, words)}
      on={{
        onPointerDown: down,
        onPointerMove: (e) => dragY !== null && moveLever(e),
        onPointerUp: up,
        onKeyDown: keyDown,
        onKeyUp: () => operable && letGo(),
        onBlur: () => operable && letGo(),
        onGone: () => away.current && letGo(),
      }}
    >
      {front.look === 'toggle' && (
        <ToggleLook look={front} lean={pose === 'up' ? 'up' : pose === 'middle' ? 'middle' : 'down'} />
      )}
      {front.look === 'button' && (
        <ButtonLook look={front} pressed={pose === 'pressed'} lamp={live?.aspects.lamp} />
      )}
      {front.look === 'lever' && (
        <LeverLook
          look={front}
          y={dragY ?? (0.5 - (at < 0 ? 0.5 : at / (places.length - 1))) * front.travelMm}
        />
      )}
      {front.look === 'rotary' && (
        <PointerKnob
          radiusMm={front.knobMm / 2}
          deg={rotaryDeg(places.length, Math.max(0, at), front.stepDeg)}
        />
      )}
      {front.look === 'hat' && <HatLook look={front} position={pose} />}
      {kept && <Kept at={kind.frontMm.width / 2} />}
    </Worked>
  )
}

/** A finger that stays: the switch is kept where it was put until it is touched again. */
const Kept = ({ at }: { at: number }) => (
  <g transform={`translate(${at} ${-at})`}>
    <circle r={2.2} fill="#ffd9a8" stroke="#0b0f11" strokeWidth={0.3} />
    <path d="M-1 0h2M0-1v2" stroke="#0b0f11" strokeWidth={0.4} />
  </g>
)

const rolesOf = (
  aspect: PositionsAspect,
  operable: boolean,
  at: number,
  words: string,
): Record<string, string | number | boolean> => {
  if (!operable) return { role: 'button' }
  if (aspect.momentary && aspect.positions.length === 2) return { role: 'button', 'aria-pressed': at === 1 }
  if (aspect.positions.length === 2) return { role: 'switch', 'aria-checked': at === 1 }
  return {
    role: 'slider',
    'aria-orientation': 'vertical',
    'aria-valuemin': 0,
    'aria-valuemax': aspect.positions.length - 1,
    'aria-valuenow': Math.max(0, at),
    'aria-valuetext': words,
  }
}

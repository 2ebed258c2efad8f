'use client'
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import type { TravelAspect } from '@/core/catalogue/part-kind'
import type { PartLive } from '@/core/live/feed'
import { operate } from '../live/connection'
import { PointerKnob } from './knob-look'
import { SlideLook } from './slide-look'
import { Worked, type WorkProps } from './worked'
import { LONGEST_ON_ITS_WAY_MS, underPointer } from './working'

/** How far a pot turns from end to end. */
const POT_DEG = 270
const KEY_STEP = 0.02
/** A lever that stands so near to where it was sent has come there. */
const THERE = 0.005

type Props = WorkProps & { readonly aspect: TravelAspect; readonly live: PartLive | undefined }

/** A lever or pot, moved along its travel with mouse and keys. */
export const TravelWork = ({ part, kind, aspect, live, operable }: Props) => {
  const svg = useRef<SVGGElement>(null)
  const [drag, setDrag] = useState<number | null>(null)
  /** Keys go on from where the last one sent it, until it says that it is there. */
  const sent = useRef({ level: 0, until: 0 })
  const { front } = kind
  const metered = live?.aspects[aspect.id]?.metered
  if (typeof metered === 'number' && Math.abs(metered - sent.current.level) < THERE) sent.current.until = 0
  const place = drag ?? (typeof metered === 'number' ? metered : 0)
  const go = (level: number) => {
    const to = Math.min(1, Math.max(0, level))
    operate(part.id, aspect.id, { to: 'slide', level: to })
    sent.current = { level: to, until: performance.now() + LONGEST_ON_ITS_WAY_MS }
    return to
  }
  const under = (e: PointerEvent): number => {
    const { x, y } = underPointer(svg, e)
    if (front.look === 'slide') return (front.slotMm / 2 - y) / front.slotMm
    const deg = (Math.atan2(x, -y) * 180) / Math.PI
    return deg / POT_DEG + 0.5
  }
  const down = (e: PointerEvent) => {
    if (!operable || e.button !== 0) return
    e.currentTarget.setPointerCapture(e.pointerId)
    setDrag(go(under(e)))
  }
  const keyDown = (e: KeyboardEvent) => {
    if (!operable) return
    const isOnItsWay = performance.now() < sent.current.until
    const from = isOnItsWay ? sent.current.level : place
    const to: Record<string, number> = {
      ArrowUp: from + KEY_STEP,
      ArrowRight: from + KEY_STEP,
      ArrowDown: from - KEY_STEP,
      ArrowLeft: from - KEY_STEP,
      PageUp: from + 5 * KEY_STEP,
      PageDown: from - 5 * KEY_STEP,
      Home: 0,
      End: 1,
    }
    const level = to[e.key]
    if (level === undefined) return
    go(level)
    e.preventDefault()
  }
  const percent = Math.round(place * 100)
  return (
    <Worked
      ref={svg}
      part={part}
      aspectId={aspect.id}
      reach={{ x: kind.frontMm.width / 2, y: kind.frontMm.height / 2 }}
      label={part.name}
      role={
        operable
          ? {
              role: 'slider',
              'aria-orientation': 'vertical',
              'aria-valuemin': 0,
              'aria-valuemax': 100,
              'aria-valuenow': percent,
              'aria-valuetext': `${percent} % of its travel`,
            }
          : { role: 'button' }
      }
      on={{
        onPointerDown: down,
        onPointerMove: (e) => drag !== null && setDrag(go(under(e))),
        onPointerUp: () => setDrag(null),
        onKeyDown: keyDown,
      }}
    >
      {front.look === 'slide' && <SlideLook look={front} place={place} />}
      {front.look === 'pot' && <PointerKnob radiusMm={front.knobMm / 2} deg={(place - 0.5) * POT_DEG} />}
    </Worked>
  )
}

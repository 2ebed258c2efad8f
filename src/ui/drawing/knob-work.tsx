'use client'
import { type KeyboardEvent, type PointerEvent, useEffect, useRef } from 'react'
import type { EncoderAspect, PositionsAspect } from '@/core/catalogue/part-kind'
import type { PartLive } from '@/core/live/feed'
import { operate } from '../live/connection'
import { KnobRing } from './knob-look'
import { Worked, type WorkProps } from './worked'
import { underPointer } from './working'

/** How far the hand has to go round for one click. */
const DEG_PER_CLICK = 18
/** How far it is drawn turned for one click. */
const DEG_DRAWN_PER_CLICK = 15

type Props = WorkProps & {
  readonly encoders: readonly EncoderAspect[]
  readonly push: PositionsAspect | undefined
  readonly live: PartLive | undefined
}

/** Knobs on one axis: each ring turns by wheel, arrows or by going round it; pushing is a click, or the space bar. */
export const KnobWork = ({ part, kind, encoders, push, live, operable }: Props) => {
  const { front } = kind
  if (front.look !== 'knob') return null
  const rings = [front.outerMm / 2, ...(front.innerMm === null ? [] : [front.innerMm / 2])]
  return (
    <g>
      {encoders.map((encoder, i) => (
        <Ring
          key={encoder.id}
          part={part}
          encoder={encoder}
          // The innermost knob is the one that is pushed.
          push={i === encoders.length - 1 ? push : undefined}
          radiusMm={rings[i] ?? 5}
          raised={i > 0 || encoders.length === 1}
          named={encoders.length > 1}
          live={live}
          operable={operable}
        />
      ))}
    </g>
  )
}

const Ring = ({
  part,
  encoder,
  push,
  radiusMm,
  raised,
  named,
  live,
  operable,
}: {
  part: WorkProps['part']
  encoder: EncoderAspect
  push: PositionsAspect | undefined
  radiusMm: number
  raised: boolean
  named: boolean
  live: PartLive | undefined
  operable: boolean
}) => {
  const svg = useRef<SVGGElement>(null)
  const drag = useRef<{ deg: number; turned: boolean; pushed: boolean } | null>(null)
  const clicks = Number(live?.aspects[encoder.id]?.told ?? 0)
  const pressed = push !== undefined && live?.aspects[push.id]?.metered === 'pressed'
  const turn = (by: number) => operate(part.id, encoder.id, { to: 'turn', clicks: by })
  const pushing = useRef(false)
  const press = (down: boolean) => {
    pushing.current = down
    const position = push?.positions[down ? 1 : 0]?.id
    if (push && position) operate(part.id, push.id, { to: 'position', position })
  }

  useEffect(() => {
    const element = svg.current
    if (!element || !operable) return
    const wheel = (e: WheelEvent) => {
      e.preventDefault()
      e.stopPropagation()
      operate(part.id, encoder.id, { to: 'turn', clicks: e.deltaY < 0 ? 1 : -1 })
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => element.removeEventListener('wheel', wheel)
  }, [operable, part.id, encoder.id])

  const angle = (e: PointerEvent): number => {
    const { x, y } = underPointer(svg, e)
    return (Math.atan2(y, x) * 180) / Math.PI
  }
  const down = (e: PointerEvent) => {
    if (!operable || e.button !== 0) return
    e.stopPropagation()
    e.currentTarget.setPointerCapture(e.pointerId)
    const { x, y } = underPointer(svg, e)
    // In the middle it is pushed, at the rim it is turned.
    const pushed = push !== undefined && Math.hypot(x, y) < radiusMm * 0.55
    drag.current = { deg: angle(e), turned: false, pushed }
    if (pushed) press(true)
  }
  const move = (e: PointerEvent) => {
    const d = drag.current
    if (!d || d.pushed) return
    const now = angle(e)
    const way = ((now - d.deg + 540) % 360) - 180
    const by = Math.trunc(way / DEG_PER_CLICK)
    if (by === 0) return
    drag.current = { ...d, deg: d.deg + by * DEG_PER_CLICK, turned: true }
    turn(by)
  }
  const up = () => {
    const d = drag.current
    drag.current = null
    if (d?.pushed) press(false)
  }
  const keyDown = (e: KeyboardEvent) => {
    if (!operable) return
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 5, PageDown: -5 }[e.key]
    if (by !== undefined) turn(by)
    else if ((e.key === ' ' || e.key === 'Enter') && push) {
      if (!e.repeat) press(true)
    } else return
    e.preventDefault()
  }
  const keyUp = (e: KeyboardEvent) => {
    if (operable && (e.key === ' ' || e.key === 'Enter')) press(false)
  }
  return (
    <Worked
      ref={svg}
      part={part}
      aspectId={encoder.id}
      reach={{ x: radiusMm, y: radiusMm }}
      round
      label={named ? `${part.name}, ${encoder.id}` : part.name}
      role={
        operable
          ? { role: 'spinbutton', 'aria-valuenow': clicks, 'aria-valuetext': `${clicks} clicks` }
          : { role: 'button' }
      }
      on={{
        onPointerDown: down,
        onPointerMove: move,
        onPointerUp: up,
        onKeyDown: keyDown,
        onKeyUp: keyUp,
        // A push held by a key ends when the focus leaves: nobody would hear the key come up.
        onBlur: () => pushing.current && press(false),
        onGone: () => pushing.current && press(false),
      }}
    >
      <g transform={pressed ? 'scale(.93)' : undefined}>
        <KnobRing
          radiusMm={radiusMm}
          deg={clicks * DEG_DRAWN_PER_CLICK}
          ribs={Math.round(radiusMm * 2.6)}
          raised={raised}
        />
      </g>
    </Worked>
  )
}

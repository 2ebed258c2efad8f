'use client'
import { curveStepAfter, line, scaleLinear } from 'd3'
import { useEffect, useState } from 'react'
import { formatValues } from '@/core/signal/format'
import { history, useStore } from '../live/store'
import { HISTORY_MS, type Sample } from '../live/value-history'
import { DottedName } from '../primitives/dotted-name'

const WIDTH = 264
const HEIGHT = 52
const EVERY_MS = 250

/** The last minute of one variable, newest at the right edge. */
export const LastMinute = ({ name }: { name: string }) => {
  const index = useStore((s) => s.catalogue)
  const info = index.catalogue.variables[index.variable.get(name) ?? -1]
  const [now, setNow] = useState(0)
  useEffect(() => {
    const timer = setInterval(() => setNow(performance.now()), EVERY_MS)
    setNow(performance.now())
    return () => clearInterval(timer)
  }, [])
  const samples = history.of(name)
  if (now === 0) return null
  if (!info || samples.length === 0)
    return (
      <p className="mt-1 text-[12px] text-ink2">
        <span className="mono">
          <DottedName name={name} />
        </span>{' '}
        has told nothing in this minute.
      </p>
    )
  const held: Sample[] = [...samples, { t: now, v: samples.at(-1)?.v ?? 0 }]
  const values = held.map((s) => s.v)
  const least = Math.min(...values)
  const most = Math.max(...values)
  const span = most - least || Math.max(1, Math.abs(most)) * 0.1
  const x = scaleLinear([now - HISTORY_MS, now], [0, WIDTH])
  const y = scaleLinear([least - span * 0.08, most + span * 0.08], [HEIGHT, 0])
  const steps = info.type === 'boolean' || info.choices !== undefined
  const draw = line<Sample>(
    (s) => Math.max(0, x(s.t)),
    (s) => y(s.v),
  )
  if (steps) draw.curve(curveStepAfter)
  return (
    <figure className="mt-1">
      <figcaption className="flex justify-between text-[11px] leading-[16px] text-ink3">
        <span className="truncate">{name}</span>
        <span className="mono shrink-0 pl-2">{formatValues([least, most], info, ' … ')}</span>
      </figcaption>
      <svg
        width="100%"
        viewBox={`0 0 ${WIDTH} ${HEIGHT + 2}`}
        role="img"
        aria-label={`${name} over the last minute`}
        className="block max-w-full"
      >
        <g stroke="var(--hair)">
          <path d={`M0 .5h${WIDTH}M0 ${HEIGHT / 2}.5h${WIDTH}M0 ${HEIGHT + 0.5}h${WIDTH}`} />
        </g>
        <path d={draw(held) ?? undefined} fill="none" stroke="var(--accent)" strokeWidth={1.5} />
      </svg>
      <div className="flex justify-between text-[11px] leading-[12px] text-ink3">
        <span>60 s ago</span>
        <span>now</span>
      </div>
    </figure>
  )
}

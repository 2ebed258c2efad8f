import type { Look } from '@/core/catalogue/part-kind'
import { EDGE } from './lens'

/** A shell with its contacts in a ring. */
export const ConnectorLook = ({ look }: { look: Extract<Look, { look: 'connector' }> }) => {
  const r = look.shellMm / 2
  return (
    <g>
      <circle r={r + 2} fill="#2a3236" stroke={EDGE} strokeWidth={0.4} />
      <circle r={r * 0.8} fill="#12181a" stroke="#5d696e" strokeWidth={0.4} />
      {Array.from({ length: look.contacts }, (_, i) => {
        const a = ((i + 0.5) / look.contacts) * 2 * Math.PI
        const at = { cx: (r * 0.52 * Math.sin(a)).toFixed(2), cy: (r * 0.52 * Math.cos(a)).toFixed(2) }
        return <circle key={at.cx + at.cy} {...at} r={0.7} fill="#c9b26a" />
      })}
    </g>
  )
}

/** A screw's head with its cross. */
export const ScrewLook = ({ look }: { look: Extract<Look, { look: 'screw' }> }) => {
  const r = look.headMm / 2
  const arm = r * 0.55
  return (
    <g>
      <circle r={r} fill="#7d888c" stroke={EDGE} strokeWidth={0.3} />
      <path d={`M${-arm} 0H${arm}M0${-arm}V${arm}`} stroke="#20282b" strokeWidth={r * 0.25} />
    </g>
  )
}

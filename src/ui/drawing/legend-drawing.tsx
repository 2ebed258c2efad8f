import type { LegendRow } from '@/core/rig/rows'

/** Width of engraved capitals of B612 with the spacing used here, in millimetres. */
const textWidth = (text: string, sizeMm: number): number => text.length * (sizeMm * 0.68 + 0.25)

const SPACING_MM = 0.25

/** A word, a line round a group, or a tick, as it is engraved. */
export const LegendDrawing = ({ legend }: { legend: LegendRow }) => {
  const { xMm: x, yMm: y, settings } = legend
  switch (settings.kind) {
    case 'text':
      return (
        <text
          x={x}
          y={y}
          fontSize={settings.sizeMm}
          textAnchor={settings.anchor}
          letterSpacing={SPACING_MM}
          fill="var(--legend)"
        >
          {settings.text}
        </text>
      )
    case 'tick':
      return <path d={`M${x} ${y}h${settings.lengthMm}`} stroke="var(--legend)" strokeWidth={0.3} />
    case 'frame': {
      const { widthMm: w, heightMm: h, title, sizeMm } = settings
      const gap = title === '' ? 0 : textWidth(title, sizeMm) + 3
      const shoulder = (w - gap) / 2
      return (
        <g>
          <path
            d={`M${x + shoulder} ${y}H${x}v${h}h${w}v${-h}h${-shoulder}`}
            fill="none"
            stroke="var(--legend)"
            strokeWidth={0.35}
          />
          <text
            x={x + w / 2}
            y={y + sizeMm * 0.35}
            fontSize={sizeMm}
            textAnchor="middle"
            letterSpacing={SPACING_MM}
            fill="var(--legend)"
          >
            {title}
          </text>
        </g>
      )
    }
  }
}

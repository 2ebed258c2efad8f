import type { Look } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'
import { ScreenDrawing } from '../screens/screen-drawing'
import { EDGE } from './lens'

/** A screen in its window: dark, or with what it shows, live. */
export const ScreenLook = ({
  look,
  part,
  operable,
}: {
  look: Extract<Look, { look: 'screen' }>
  part: PartRow
  operable: boolean
}) => {
  const { widthMm: w, heightMm: h } = look
  return (
    <g>
      <rect
        x={-w / 2 - 1}
        y={-h / 2 - 1}
        width={w + 2}
        height={h + 2}
        fill="#1a2124"
        stroke={EDGE}
        strokeWidth={0.4}
      />
      <rect x={-w / 2} y={-h / 2} width={w} height={h} fill="#0d1214" />
      {part.settings.screen !== undefined && (
        <ScreenDrawing
          screenId={part.settings.screen}
          operable={operable}
          // A panel that is worked is looked at closely; one that lies on Bench is glanced at.
          pauseMs={operable ? 33 : 250}
          {...{ x: -w / 2, y: -h / 2, width: w, height: h }}
        />
      )}
    </g>
  )
}

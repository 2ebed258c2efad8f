import { EDGE } from './lens'

/** The slot a lever runs in, seen from the front. */
export const Slot = ({ widthMm, lengthMm }: { widthMm: number; lengthMm: number }) => (
  <rect
    x={-widthMm / 2}
    y={-lengthMm / 2}
    width={widthMm}
    height={lengthMm}
    rx={widthMm / 2}
    fill="#101618"
    stroke={EDGE}
    strokeWidth={0.4}
  />
)

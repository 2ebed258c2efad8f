import Link from 'next/link'
import { measuredOf } from '@/core/calibration/calibrated'
import type { Aspect } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'
import { useCalibrate } from './calibrate-store'
import { measuredAs } from './measured-kind'
import { whenWords } from './since'

/** When an aspect was measured, and the way to where it is. */
export const MeasureLine = ({ part, aspect }: { part: PartRow; aspect: Aspect }) => {
  const kind = measuredAs(aspect)
  if (!kind) return null
  const measured = measuredOf(part, aspect)
  return (
    <p className="flex items-center gap-3 border-t border-hair pt-2 text-[12px] text-ink2">
      <span className="flex-1">{measured ? `Measured ${whenWords(measured.at)}.` : 'Not measured yet.'}</span>
      <Link
        href="/calibrate"
        className="btn inline-flex items-center"
        onClick={() => useCalibrate.setState({ kind, aspectId: aspect.id })}
      >
        {measured ? 'Measure it anew' : 'Measure it'}
      </Link>
    </p>
  )
}

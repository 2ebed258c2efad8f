import { changedSince, measuredOf, thenOf } from '@/core/calibration/calibrated'
import type { Aspect } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'
import { useStore } from '../live/store'
import { driftWords } from './drift-words'

const DAY_MS = 86_400_000

/** When something was, in words short enough for a line. */
export const whenWords = (at: string, now = Date.now()): string => {
  const ms = now - Date.parse(at)
  if (ms < 60_000) return 'a moment ago'
  if (ms < 3_600_000) return `${Math.round(ms / 60_000)} min ago`
  if (ms < DAY_MS) return `${Math.round(ms / 3_600_000)} h ago`
  const days = Math.round(ms / DAY_MS)
  return days === 1 ? 'a day ago' : `${days} days ago`
}

/** When a part was measured, and what is otherwise since. */
export const Since = ({ part, aspect }: { part: PartRow; aspect: Aspect }) => {
  const rig = useStore((s) => s.rig)
  const drift = useStore((s) => s.drift)
  const measured = measuredOf(part, aspect)
  const drifted = drift.find((d) => d.partId === part.id && d.aspectId === aspect.id)?.drifted
  const changed = measured ? changedSince(measured, thenOf(rig, part, aspect, new Date())) : []
  return (
    <p className="mt-3 text-[12px] text-ink2">
      {measured
        ? `Measured ${whenWords(measured.at)}${measured.place === '' ? '' : ` on ${measured.place}`}.`
        : 'Not measured yet: it works as its catalogue and its settings say.'}
      {changed.map((words) => (
        <span key={words} className="text-warn">
          {' '}
          Since then {words}.
        </span>
      ))}
      {drifted && (
        <span className="text-warn">
          {' '}
          ◇ It {driftWords(drifted).what}: {driftWords(drifted).figures}. {driftWords(drifted).cure}
        </span>
      )}
    </p>
  )
}

import { useRouter } from 'next/navigation'
import { partKind } from '@/core/catalogue/parts'
import { useCalibrate } from '../calibrate/calibrate-store'
import { driftWords } from '../calibrate/drift-words'
import { measuredAs } from '../calibrate/measured-kind'
import { select } from '../live/connection'
import { useStore } from '../live/store'

/** Parts that do worse than when they were measured: said before they fail. */
export const DriftedParts = () => {
  const router = useRouter()
  const drift = useStore((s) => s.drift)
  const rig = useStore((s) => s.rig)
  if (drift.length === 0) return null
  return (
    <section aria-label="Drifted" className="border-t border-line pb-3">
      <h2 className="px-3.5 pt-2.5 pb-1.5">Worse than when measured</h2>
      <ul>
        {drift.map(({ partId, aspectId, drifted }) => {
          const part = rig.part[partId]
          if (!part) return null
          const { what, figures, cure } = driftWords(drifted)
          const aspects = partKind(part.kind)?.aspects ?? []
          return (
            <li key={`${partId} ${aspectId}`}>
              <button
                type="button"
                className="block w-full border-t border-hair px-3.5 py-1 text-left hover:text-accent"
                onClick={() => {
                  const aspect = aspects.find((a) => a.id === aspectId)
                  const kind = aspect ? measuredAs(aspect) : null
                  if (kind) useCalibrate.setState({ kind, aspectId })
                  select(partId)
                  router.push('/calibrate')
                }}
              >
                <span className="text-warn" aria-hidden="true">
                  ◇{' '}
                </span>
                <b>{part.name}</b>
                {aspects.length > 1 && <span className="text-ink2"> · {aspectId}</span>} {what}:{' '}
                <span className="mono text-[12px]">{figures}</span>
                <span className="block text-[12px] text-ink2">{cure}</span>
              </button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

import { readyNatures } from '@/core/calibration/ready-natures'
import type { Aspect } from '@/core/catalogue/part-kind'
import { cameWithDevice } from '@/core/harness/given'
import { changeRow, sameValue } from '@/core/rig/edit'
import type { PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { useToldNature } from './probed-store'

/** What a simulated part is really like: chosen by whoever wants to see how a fault is found. */
export const Nature = ({ part, aspect }: { part: PartRow; aspect: Aspect }) => {
  const drive = aspect.kind === 'needle' ? aspect.drive : undefined
  const ready = readyNatures.filter(
    (r) => r.nature.kind === aspect.kind && (r.drive === undefined || r.drive === drive),
  )
  const rig = useStore((s) => s.rig)
  const is = part.settings.simulated?.[aspect.id]
  const isOnTheWay = useToldNature(
    ({ told }) =>
      told?.partId === part.id && told.aspectId === aspect.id && !sameValue(told.nature, is ?? null),
  )
  // What a simulated controller is like is its own affair.
  if (ready.length === 0 || cameWithDevice(rig, part.id)) return null
  const known = ready.find((r) => sameValue(r.nature, is))
  const choose = (id: string) => {
    const nature = ready.find((r) => r.id === id)?.nature
    const others = Object.entries(part.settings.simulated ?? {}).filter(([key]) => key !== aspect.id)
    const simulated = Object.fromEntries(nature ? [...others, [aspect.id, nature] as const] : others)
    const { simulated: _before, ...settings } = part.settings
    const next = Object.keys(simulated).length > 0 ? { ...settings, simulated } : settings
    const change = changeRow('part', part, { ...part, settings: next })
    if (change) edit(`Gave the simulated “${part.name}” another nature`, [change])
  }
  return (
    <label className="mt-2 block text-[12px]">
      <span className="text-ink2">
        {isOnTheWay ? 'Simulated. It is being made' : 'Simulated. It is really'}
      </span>
      <select
        aria-label="What the simulated part is like"
        className="mt-0.5 w-full truncate pr-6"
        value={is === undefined ? '' : (known?.id ?? 'own')}
        onChange={(e) => choose(e.target.value)}
      >
        <option value="">as its catalogue says</option>
        {ready.map((r) => (
          <option key={r.id} value={r.id}>
            {r.words}
          </option>
        ))}
        {is !== undefined && !known && <option value="own">as its file says</option>}
      </select>
    </label>
  )
}

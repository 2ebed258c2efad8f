import type { NeedleSettings } from '@/core/aspects/needle'
import { kindOf } from '@/core/catalogue/own-kind'
import type { NeedleAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import { partsOf, type Rig } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { put } from '../editors/change-aspect'
import { useStore } from '../live/store'

interface Needle {
  readonly part: PartRow
  readonly aspect: NeedleAspect
  readonly settings: NeedleSettings
}

/** Other needles of a part's panel. */
const othersOf = (rig: Rig, part: PartRow): Needle[] =>
  partsOf(rig, part.panelId)
    .filter((p) => p.id !== part.id)
    .flatMap((p) =>
      (kindOf(p)?.aspects ?? []).flatMap((aspect): Needle[] => {
        const settings = aspect.kind === 'needle' && settingsOf(p.settings, aspect.id, 'needle')
        return settings ? [{ part: p, aspect, settings }] : []
      }),
    )

/** Gives something of a needle to another one of its panel. */
export const SameFor = ({
  part,
  aspect,
  give,
}: {
  part: PartRow
  aspect: NeedleAspect
  give: (theirs: NeedleSettings) => NeedleSettings
}) => {
  const rig = useStore((s) => s.rig)
  const others = othersOf(rig, part)
  if (others.length === 0) return null
  const key = (o: Needle) => `${o.part.id} ${o.aspect.id}`
  return (
    <label className="mt-2 flex items-center gap-1.5 text-[12px] text-ink2">
      The same for
      <select
        className="h-6 min-w-0 py-0"
        value=""
        onChange={(e) => {
          const to = others.find((o) => key(o) === e.target.value)
          if (to) put(to.part, to.aspect, give(to.settings))
        }}
      >
        <option value="">another needle of this panel …</option>
        {others.map((o) => (
          <option key={key(o)} value={key(o)}>
            {o.part.name}
            {o.aspect.id !== aspect.id ? `, ${o.aspect.id}` : ''}
          </option>
        ))}
      </select>
    </label>
  )
}

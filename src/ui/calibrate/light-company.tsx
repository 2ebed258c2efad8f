import type { AspectSettings } from '@/core/aspects/aspects'
import type { LightCurve } from '@/core/aspects/light'
import type { Aspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { changeRow } from '@/core/rig/edit'
import { lightingsOf, partsOf } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** With which group of lights it is dimmed. */
export const Group = ({ part }: { part: PartRow }) => {
  const rig = useStore((s) => s.rig)
  const groups = lightingsOf(rig)
  const choose = (id: string) => {
    const { lighting: _, ...settings } = part.settings
    const next = id === '' ? settings : { ...settings, lighting: id }
    const name = groups.find((g) => g.id === id)?.name
    edit(name ? `“${part.name}” is dimmed with ${name}` : `“${part.name}” is dimmed by nothing`, [
      changeRow('part', part, { ...part, settings: next }),
    ])
  }
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <label className="flex items-center gap-1.5 text-ink2">
        Dimmed with
        <select
          aria-label="Dimmed with"
          value={part.settings.lighting ?? ''}
          onChange={(e) => choose(e.target.value)}
          className="h-6 py-0"
        >
          <option value="">nothing</option>
          {groups.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="btn" onClick={() => useStore.setState({ lightingOpen: true })}>
        Groups of lights …
      </button>
    </div>
  )
}

/** Gives the curve to all others of the same kind: they were made alike, so they shine alike. */
export const Others = ({
  part,
  aspect,
  curve,
}: {
  part: PartRow
  aspect: Aspect
  curve: LightCurve | undefined
}) => {
  const rig = useStore((s) => s.rig)
  const others = partsOf(rig, part.panelId).filter((p) => p.kind === part.kind && p.id !== part.id)
  if (!curve || others.length === 0) return null
  const give = () => {
    const { least, most, bend } = curve
    const same = Object.fromEntries(Object.entries({ least, most, bend }).filter(([, v]) => v !== undefined))
    edit(
      `Gave the brightness of “${part.name}” to ${others.length} others`,
      others.flatMap((p) => {
        const theirs = p.settings.aspects?.[aspect.id]
        const next = { ...theirs, kind: aspect.kind, ...same } as AspectSettings
        const aspects = { ...p.settings.aspects, [aspect.id]: next }
        return changeRow('part', p, { ...p, settings: { ...p.settings, aspects } }) ?? []
      }),
    )
  }
  const name = partKind(part.kind)?.name ?? part.kind
  return (
    <p>
      <button type="button" className="btn" title={`${name} on this panel`} onClick={give}>
        {others.length === 1
          ? 'The same for the other one of its kind'
          : `The same for ${others.length} others of its kind`}
      </button>
    </p>
  )
}

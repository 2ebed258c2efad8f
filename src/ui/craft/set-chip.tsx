'use client'
import { craftSetsOf, inSet, putInSet } from '@/core/rig/craft-sets'
import { addRow } from '@/core/rig/edit'
import { bindingsOf } from '@/core/rig/rig'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** For which craft a binding holds; nothing where there are no craft sets. */
export const SetChip = ({ bindingId }: { bindingId: string | null }) => {
  const rig = useStore((s) => s.rig)
  const binding = rig.binding[bindingId ?? '']
  const sets = craftSetsOf(rig)
  if (!binding || sets.length === 0) return null
  const is = binding.settings.craftSet ?? ''
  const choose = (value: string) => {
    const [how, id = ''] = value.split(' ', 2)
    const set = rig.craftSet[id]
    if (how === 'every') edit('A binding holds for every craft', [putInSet(binding, null)])
    else if (how === 'only' && set) edit(`A binding holds only for ${set.name}`, [putInSet(binding, set.id)])
    else if (how === 'copy' && set) {
      const last = Math.max(...bindingsOf(rig, binding.partId).map((b) => b.position))
      const copy = inSet({ ...binding, id: crypto.randomUUID(), position: last + 1 }, set.id)
      edit(`Copied a binding for ${set.name}`, [addRow('binding', copy)])
    }
  }
  return (
    <select
      aria-label="For which craft"
      title="For which craft this path holds"
      className={`h-[20px] max-w-[128px] py-0 pr-0 pl-1 text-[11px] ${is === '' ? 'text-ink2' : 'border-accent text-accent'}`}
      value={is === '' ? 'every' : `only ${is}`}
      onChange={(e) => choose(e.target.value)}
    >
      <option value="every">every craft</option>
      {sets.map((s) => (
        <option key={s.id} value={`only ${s.id}`}>
          only {s.name}
        </option>
      ))}
      {sets
        .filter((s) => s.id !== is)
        .map((s) => (
          <option key={`copy ${s.id}`} value={`copy ${s.id}`}>
            a copy for {s.name}
          </option>
        ))}
    </select>
  )
}

/** That a part has bindings that do not hold now: which, and what would let them. */
export const OtherSets = ({ partId }: { partId: string }) => {
  const rig = useStore((s) => s.rig)
  const holds = useStore((s) => s.status?.craftSet.holds ?? null)
  const all = bindingsOf(rig, partId)
  const others = new Set(all.map((b) => b.settings.craftSet).filter((s) => s !== undefined && s !== holds))
  const own = all.some((b) => b.settings.craftSet === holds && holds !== null)
  const replaced =
    own && rig.craftSet[holds ?? '']?.settings.replaces && all.some((b) => b.settings.craftSet === undefined)
  if (others.size === 0 && !replaced) return null
  const names = [...others].map((id) => rig.craftSet[id ?? '']?.name ?? 'a set that is gone')
  return (
    <button
      type="button"
      className="text-[12px] text-ink2 hover:text-ink"
      onClick={() => useStore.setState({ craftSetsOpen: true })}
    >
      {[...(replaced ? ['others for every craft'] : []), ...names.map((n) => `others for ${n}`)].join(' · ')}
    </button>
  )
}

'use client'
import { kindOf } from '@/core/catalogue/own-kind'
import { partKind } from '@/core/catalogue/parts'
import { sameValue } from '@/core/rig/edit'
import { exchanged, exchangesFor, ownMakes } from '@/core/rig/exchange'
import type { Rig } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { notify } from '../live/store'

/** Another part of the family in the same place; what does not fit it is said, and undo brings it back. */
export const ExchangeChoice = ({ rig, part }: { rig: Rig; part: PartRow }) => {
  const now = kindOf(part)
  const own = ownMakes(rig).filter(
    (o) => partKind(o.like)?.family === now?.family && !sameValue(o, part.settings.own),
  )
  const exchange = (choice: string) => {
    const make = own[Number(choice.slice('own '.length))]
    const to = partKind(choice.startsWith('own ') ? (make?.like ?? '') : choice)
    if (!to) return
    const { changes, lost } = exchanged(rig, part, to, choice.startsWith('own ') ? make : undefined)
    const name = choice.startsWith('own ') ? make?.name : to.name
    edit(`Exchanged “${part.name}” for ${name}`, changes)
    notify(
      lost.length === 0
        ? `“${part.name}” is now ${name}; everything it had fits.`
        : `“${part.name}” is now ${name}. Not kept: ${lost.join('; ')}. Undo brings it back.`,
      'plain',
    )
  }
  return (
    <label className="flex items-center gap-1.5 text-[12px]">
      <span className="text-ink2">is</span>
      <select
        aria-label="Exchange for"
        className="h-6 min-w-0 flex-1 py-0 text-[12px]"
        value="now"
        onChange={(e) => exchange(e.target.value)}
      >
        <option value="now">{now?.name ?? part.kind}</option>
        {own.map((o, i) => (
          <option key={o.name} value={`own ${i}`}>
            {o.name}
          </option>
        ))}
        {exchangesFor(part).map((k) => (
          <option key={k.id} value={k.id}>
            {k.name}
          </option>
        ))}
      </select>
    </label>
  )
}

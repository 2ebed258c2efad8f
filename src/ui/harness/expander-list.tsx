'use client'
import { expanderKind, expanderKinds } from '@/core/catalogue/expanders'
import { newExpander } from '@/core/harness/new-expander'
import { addRow, changeRow, removeRow } from '@/core/rig/edit'
import { expandersOf, leadsOnExpander, linesOf } from '@/core/rig/rig'
import type { ExpanderRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { heading, NameField } from './drawer-pieces'
import { newId, useBoard } from './harness-store'

/** The expanders of the board that is looked at. */
export const ExpanderList = () => {
  const rig = useStore((s) => s.rig)
  const board = useBoard()
  if (!board) return null
  const there = expandersOf(rig, board.id)
  const add = (kind: string) => {
    const known = expanderKind(kind)
    if (!known) return
    const row = newExpander(rig, board.id, known, 1, newId())
    if (!row) {
      notify(`Every address of a ${known.name} is taken on ${board.name}.`)
      return
    }
    edit(`Added ${row.name} to ${board.name}`, [addRow('expander', row)])
  }
  return (
    <section aria-label="Expanders">
      <div className={heading}>
        <h3 className="flex-1 font-bold">Expanders</h3>
        <select
          aria-label="Add an expander"
          className="h-[21px] w-36 py-0"
          value=""
          onChange={(e) => e.target.value && add(e.target.value)}
        >
          <option value="">Add …</option>
          {expanderKinds.map((k) => (
            <option key={k.id} value={k.id}>
              {k.name}: {k.says}
            </option>
          ))}
        </select>
      </div>
      {there.map((e) => (
        <ExpanderLine key={e.id} expander={e} />
      ))}
    </section>
  )
}

const ExpanderLine = ({ expander }: { expander: ExpanderRow }) => {
  const rig = useStore((s) => s.rig)
  const kind = expanderKind(expander.kind)
  const set = (sentence: string, to: Partial<ExpanderRow>) =>
    edit(sentence, [changeRow('expander', expander, { ...expander, ...to })])
  const remove = () => {
    const used = leadsOnExpander(rig, expander.id).length
    if (used > 0) {
      notify(
        `${used} ${used === 1 ? 'wire ends' : 'wires end'} on ${expander.name}; assign them elsewhere or take them off first.`,
      )
      return
    }
    edit(`Removed ${expander.name}`, [
      ...linesOf(rig, expander.id).map((l) => removeRow('lead', l)),
      removeRow('expander', expander),
    ])
  }
  return (
    <div className="flex items-center gap-2 border-t border-hair px-3 py-1">
      <NameField
        label={`Name of ${expander.name}`}
        width={84}
        value={expander.name}
        take={(name) => set(`Renamed an expander to ${name}`, { name })}
      />
      {kind && kind.mostChips > 1 && (
        <NumberField
          label=""
          name={`Chips of ${expander.name}`}
          unit="chips"
          narrow
          value={expander.chips}
          least={1}
          most={kind.mostChips}
          take={(chips) => set(`${expander.name} is a chain of ${chips}`, { chips: Math.round(chips) })}
        />
      )}
      {kind?.addresses && (
        <NumberField
          label=""
          name={`Jumpers of ${expander.name}`}
          unit="jumpers"
          narrow
          value={expander.jumpers}
          least={0}
          most={kind.addresses.count - 1}
          take={(jumpers) =>
            set(`Set the jumpers of ${expander.name} to ${jumpers}`, { jumpers: Math.round(jumpers) })
          }
        />
      )}
      <span className="ml-auto" />
      <RemoveLine label={`Remove ${expander.name}`} take={remove} />
    </div>
  )
}

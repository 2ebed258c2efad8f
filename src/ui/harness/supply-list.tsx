'use client'
import { loadsOf } from '@/core/harness/loads'
import { addRow, changeRow, removeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { boardsOf, rowsOf } from '@/core/rig/rig'
import type { SupplyRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { heading, LoadBar, NameField } from './drawer-pieces'
import { newId } from './harness-store'

/** The supplies of the rig with what hangs on them, and how they are joined. */
export const SupplyList = () => {
  const rig = useStore((s) => s.rig)
  const { supplies } = loadsOf(rig)
  const list = rowsOf(rig, 'supply')
  const add = () => {
    const row: SupplyRow = {
      ...{ id: newId(), volts: 5, maxMilliamps: 2000, groundJoined: false, plusJoinedTo: null },
      name: numbered('Supply', new Set(list.map((s) => s.name))),
    }
    edit(`Added ${row.name}`, [addRow('supply', row)])
  }
  return (
    <section aria-label="Supplies" className="pb-3">
      <div className={heading}>
        <h3 className="flex-1 font-bold">Supplies</h3>
        <button type="button" className="btn h-[21px]" onClick={add}>
          Add
        </button>
      </div>
      {list.map((s) => (
        <SupplyLine key={s.id} supply={s} load={supplies.get(s.id) ?? { typical: 0, most: 0 }} />
      ))}
    </section>
  )
}

const SupplyLine = ({ supply, load }: { supply: SupplyRow; load: { typical: number; most: number } }) => {
  const rig = useStore((s) => s.rig)
  const set = (sentence: string, to: Partial<SupplyRow>) =>
    edit(sentence, [changeRow('supply', supply, { ...supply, ...to })])
  const used =
    rowsOf(rig, 'lead').some((l) => l.supplyId === supply.id) ||
    rowsOf(rig, 'board').some((b) => b.supplyId === supply.id)
  return (
    <div className="border-t border-hair px-3 py-1.5">
      <div className="flex items-center gap-2">
        <NameField
          label={`Name of ${supply.name}`}
          width={150}
          value={supply.name}
          take={(name) => set(`Renamed a supply to ${name}`, { name })}
        />
        <span className="ml-auto" />
        {!used && (
          <RemoveLine
            label={`Remove ${supply.name}`}
            take={() => edit(`Removed ${supply.name}`, [removeRow('supply', supply)])}
          />
        )}
      </div>
      <div className="flex items-center gap-2 py-1">
        <NumberField
          label=""
          name={`Volts of ${supply.name}`}
          unit="V"
          narrow
          value={supply.volts}
          least={1}
          most={60}
          take={(volts) => set(`${supply.name} gives ${volts} V`, { volts })}
        />
        <NumberField
          label=""
          name={`Milliamps of ${supply.name}`}
          unit="mA"
          value={supply.maxMilliamps}
          least={10}
          most={100000}
          take={(maxMilliamps) => set(`${supply.name} gives up to ${maxMilliamps} mA`, { maxMilliamps })}
        />
      </div>
      <LoadBar words="what hangs on it" typical={load.typical} most={load.most} limit={supply.maxMilliamps} />
      <label className="flex items-center gap-1.5 pt-1">
        <input
          type="checkbox"
          checked={supply.groundJoined}
          onChange={(e) =>
            set(
              e.target.checked
                ? `Joined the ground of ${supply.name}`
                : `${supply.name} has its ground apart`,
              { groundJoined: e.target.checked },
            )
          }
        />
        minus joined to the boards’ ground
      </label>
      <label className="flex items-center gap-1.5 pt-0.5">
        plus joined to
        <select
          aria-label={`What the plus of ${supply.name} is joined to`}
          className="h-[21px] py-0"
          value={supply.plusJoinedTo ?? ''}
          onChange={(e) =>
            set(`Changed what the plus of ${supply.name} is joined to`, {
              plusJoinedTo: e.target.value || null,
            })
          }
        >
          <option value="">nothing</option>
          {boardsOf(rig).map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
          {rowsOf(rig, 'supply')
            .filter((o) => o.id !== supply.id)
            .map((o) => (
              <option key={o.id} value={o.id}>
                {o.name}
              </option>
            ))}
        </select>
      </label>
    </div>
  )
}

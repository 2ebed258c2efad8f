'use client'
import { useMemo } from 'react'
import type { Terminal } from '@/core/catalogue/part-kind'
import { bareTerminals } from '@/core/harness/bare-terminals'
import type { Beginning } from '@/core/harness/leads'
import { unwiredLines } from '@/core/harness/needed-lines'
import { panelsOf, partsOf, type Rig, rowsOf } from '@/core/rig/rig'
import { useStore } from '../live/store'
import { pickUp, showPart } from './harness-store'

interface Unwired {
  readonly id: string
  readonly name: string
  readonly of: Beginning['of']
  readonly where: string
  readonly terminals: readonly Terminal[]
}

/** Everything with a terminal that has no wire yet, panel by panel. */
const unwiredIn = (rig: Rig): Unwired[] => {
  const found: Unwired[] = []
  for (const panel of panelsOf(rig)) {
    for (const part of partsOf(rig, panel.id)) {
      const terminals = bareTerminals(rig, part)
      if (terminals.length > 0)
        found.push({ id: part.id, name: part.name, of: 'part', where: panel.name, terminals })
    }
  }
  for (const expander of rowsOf(rig, 'expander')) {
    const terminals = unwiredLines(rig, expander)
    const where = rig.board[expander.boardId]?.name ?? ''
    if (terminals.length > 0)
      found.push({ id: expander.id, name: expander.name, of: 'expander', where, terminals })
  }
  return found
}

/** Terminals without a wire, to be dragged onto pins. */
export const Tray = () => {
  const rig = useStore((s) => s.rig)
  const selected = useStore((s) => s.selected)
  const list = useMemo(() => unwiredIn(rig), [rig])
  if (list.length === 0)
    return (
      <p className="p-3 text-[12px] text-ink2">
        {rowsOf(rig, 'part').length === 0
          ? 'No part is drawn yet; its terminals will wait here for their wires.'
          : 'Every terminal has its wire.'}
      </p>
    )
  return (
    <ul>
      {list.map((u, i) => (
        <li key={u.id} className={u.id === selected ? 'bg-accent-bg' : ''}>
          {u.where !== list[i - 1]?.where && (
            <div className="cap border-t border-line px-3 pt-2">{u.where}</div>
          )}
          <button
            type="button"
            className="w-full truncate px-3 pt-1 text-left text-[12px] hover:text-accent"
            onClick={() => u.of === 'part' && showPart(u.id)}
          >
            {u.name}
          </button>
          <div className="flex flex-wrap gap-1 px-3 pt-0.5 pb-1.5">
            {u.terminals.map((t) => {
              const from: Beginning = { of: u.of, id: u.id, terminal: t.id }
              return (
                <button
                  key={t.id}
                  type="button"
                  data-from={JSON.stringify(from)}
                  aria-label={`${u.name}: ${t.name}, no wire yet`}
                  title={`${t.hint ? `${t.hint}. ` : ''}Drag it to a pin, or press Enter and then Enter on a pin`}
                  className="flex cursor-grab items-center gap-1 border border-dashed border-ink3 px-1.5 text-[11px] leading-[17px] hover:border-accent hover:text-accent"
                  onClick={() => pickUp(from)}
                >
                  {t.name}
                </button>
              )
            })}
          </div>
        </li>
      ))}
    </ul>
  )
}

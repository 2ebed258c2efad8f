'use client'
import Link from 'next/link'
import { useState } from 'react'
import { boardTerminals } from '@/core/aspects/aspects'
import type { Pin } from '@/core/catalogue/board-model'
import { modelOf } from '@/core/catalogue/own-board'
import type { Terminal } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { endOfLead, endWords, putOn } from '@/core/harness/leads'
import { pinObjection } from '@/core/harness/pin-objection'
import { boardsOf, leadsOf, leadsOnBoard, type Rig } from '@/core/rig/rig'
import type { LeadRow, PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** Which lead hangs on a pin, if one does. */
const holderOf = (rig: Rig, boardId: string, pin: string): LeadRow | undefined =>
  leadsOnBoard(rig, boardId).find((l) => l.pin === pin)

/** Where each lead of a part ends: board and pin, chosen from those that are free. */
export const PinEditor = ({ part, close }: { part: PartRow; close: () => void }) => {
  const rig = useStore((s) => s.rig)
  const boards = boardsOf(rig)
  const leads = leadsOf(rig, part.id)
  const kind = partKind(part.kind)
  const onBoard = new Set(kind?.aspects.flatMap((a) => boardTerminals(kind, a)))
  const wired = (kind?.terminals ?? []).filter((t) => onBoard.has(t.id))
  const firstBoard = leads.find((l) => l.boardId)?.boardId ?? boards[0]?.id ?? ''
  const [boardId, setBoardId] = useState(firstBoard)
  const model = modelOf(rig.board[boardId])

  const put = (terminal: string, pin: string) => {
    const sentence = `Moved “${part.name}” ${terminal} to ${rig.board[boardId]?.name ?? 'the board'} ${pin}`
    const from = { of: 'part', id: part.id, terminal } as const
    edit(
      sentence,
      putOn(rig, from, { at: 'contact', boardId, pin }, () => crypto.randomUUID()),
    )
  }
  return (
    <div className="flex max-h-[62vh] w-[400px] flex-col gap-2 overflow-y-auto p-3">
      <label className="grid grid-cols-[150px_1fr] items-center gap-2">
        <span className="text-ink2">Board</span>
        <select value={boardId} onChange={(e) => setBoardId(e.target.value)}>
          {boards.map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </select>
      </label>
      {wired.map((t) => {
        const lead = leads.find((l) => l.terminal === t.id)
        const here = lead?.boardId === boardId ? (lead.pin ?? '') : ''
        return (
          <label key={t.id} className="grid grid-cols-[150px_1fr] items-center gap-2">
            <span className="text-ink2">
              {t.name}
              {t.hint && <span className="block text-[11px] leading-[14px]">{t.hint}</span>}
            </span>
            <select
              aria-label={`Pin of ${t.name}`}
              value={here}
              onChange={(e) => e.target.value && put(t.id, e.target.value)}
            >
              <option value="">
                {lead && !here ? `now on ${endWords(rig, endOfLead(lead))}` : 'no pin yet'}
              </option>
              {(model?.pins ?? []).map((pin) => (
                <PinOption key={pin.name} pin={pin} taken={takenBy(rig, boardId, pin, lead?.id, t)} />
              ))}
            </select>
          </label>
        )
      })}
      <p className="text-[11px] leading-[15px] text-ink2">
        A contact goes between its pin and ground; the board pulls the pin up, so pressed reads low. A moved
        lead works once the board is loaded.
      </p>
      <div>
        <button type="button" className="btn" onClick={close}>
          Done
        </button>{' '}
        <Link href="/harness" className="btn" onClick={close}>
          Show in Harness <span className="key">H</span>
        </Link>
      </div>
    </div>
  )
}

const takenBy = (
  rig: Rig,
  boardId: string,
  pin: Pin,
  own: string | undefined,
  terminal: Terminal,
): string | null => {
  const objection = pinObjection(pin, terminal)
  if (objection) return objection
  const lead = holderOf(rig, boardId, pin.name)
  return !lead || lead.id === own ? null : (rig.part[lead.partId ?? '']?.name ?? 'an expander')
}

const PinOption = ({ pin, taken }: { pin: Pin; taken: string | null }) => (
  <option value={pin.name} disabled={taken !== null}>
    {pin.name}
    {taken ? ` · ${taken}` : ''}
  </option>
)

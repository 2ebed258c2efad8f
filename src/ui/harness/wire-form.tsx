'use client'
import { beginningOf, wireColours } from '@/core/harness/leads'
import { asRibbon, ribbonMates } from '@/core/harness/ribbon'
import { changeRow, removeRow } from '@/core/rig/edit'
import type { LeadRow } from '@/core/rig/rows'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { WireDash } from './expander-drawing'
import { pickUp, useHarness } from './harness-store'

const change = (lead: LeadRow, sentence: string, to: Partial<LeadRow>): void =>
  edit(sentence, [changeRow('lead', lead, { ...lead, ...to })])

/** The wire that is looked at: where it goes, its colour, whether it may move, the ribbon it lies in. */
export const WireForm = () => {
  const leadId = useHarness((s) => s.leadId)
  const carried = useHarness((s) => s.carried)
  const lead = useStore((s) => s.rig.lead[leadId ?? ''])
  const rig = useStore((s) => s.rig)
  if (!lead) return null
  const part = rig.part[lead.partId ?? '']
  const mates = ribbonMates(rig, lead)
  const together = lead.ribbon !== null && mates.every((l) => l.ribbon === lead.ribbon)
  return (
    <section aria-label="Wire" className="border-b border-line px-3 py-2 text-[12px]">
      <div className="grid grid-cols-[1fr_auto] gap-x-2 gap-y-1">
        <b className="flex items-center gap-1.5 whitespace-nowrap">
          Wire {lead.number} <WireDash colour={lead.colour} />
        </b>
        <span className="flex gap-1">
          <button type="button" className="btn h-[21px]" onClick={() => pickUp(beginningOf(lead))}>
            {carried ? 'Choose a pin …' : 'Move'}
          </button>
          <button
            type="button"
            className="btn h-[21px]"
            onClick={() => {
              edit(`Took wire ${lead.number} off`, [removeRow('lead', lead)])
              useHarness.setState({ leadId: null })
            }}
          >
            Take off
          </button>
        </span>
        <label className="flex items-center gap-2">
          <span className="text-ink2">Colour</span>
          <select
            aria-label="Colour of the wire"
            className="h-[22px] py-0"
            value={lead.colour}
            onChange={(e) =>
              change(lead, `Wire ${lead.number} is ${e.target.value}`, { colour: e.target.value })
            }
          >
            {[...new Set([...wireColours, lead.colour])].map((c) => (
              <option key={c} value={c}>
                {c}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={lead.locked}
            onChange={(e) =>
              change(
                lead,
                e.target.checked ? `Locked wire ${lead.number}` : `Let wire ${lead.number} loose`,
                {
                  locked: e.target.checked,
                },
              )
            }
          />
          Stays put
        </label>
        <div className="col-span-2 flex items-center gap-2">
          <span className="text-ink2">Ribbon</span>
          <TextField
            label="Ribbon of the wire"
            value={lead.ribbon ?? ''}
            take={(name) =>
              change(
                lead,
                name
                  ? `Put wire ${lead.number} into ribbon ${name}`
                  : `Took wire ${lead.number} out of its ribbon`,
                {
                  ribbon: name || null,
                },
              )
            }
          />
          {mates.length > 1 && !together && (
            <button
              type="button"
              className="btn h-[21px] whitespace-nowrap"
              title={`All ${mates.length} wires of ${part?.name ?? 'the part'} that end on this board lie in one ribbon`}
              onClick={() =>
                edit(
                  `Put ${mates.length} wires of ${part?.name ?? 'a part'} into one ribbon`,
                  asRibbon(rig, lead),
                )
              }
            >
              All {mates.length}
            </button>
          )}
        </div>
      </div>
    </section>
  )
}

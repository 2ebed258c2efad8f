'use client'
import type { Terminal } from '@/core/catalogue/part-kind'
import { endOfLead, endWords } from '@/core/harness/leads'
import type { LeadRow } from '@/core/rig/rows'
import { WireDash } from '../harness/expander-drawing'
import { useHarness } from '../harness/harness-store'
import { useStore } from '../live/store'
import { Row } from './row'

/** The wires of what is selected: number, colour, and where each ends. */
export const LeadRows = ({
  leads,
  terminals,
  wanted,
}: {
  leads: readonly LeadRow[]
  terminals: readonly Terminal[]
  /** How many there are to be. */
  wanted: number
}) => {
  const rig = useStore((s) => s.rig)
  return (
    <>
      <Row term="Leads">
        <span className="mono">
          {leads.length} of {wanted}
        </span>
      </Row>
      {leads.length > 0 && (
        <dd className="col-span-2 m-0">
          <ul aria-label="Leads" className="border-t border-hair py-0.5">
            {leads.map((l) => {
              const end = endWords(rig, endOfLead(l))
              return (
                <li key={l.id} className="flex h-[19px] items-center gap-1.5 text-[12px]">
                  <span className="mono w-7 text-right text-ink2">{l.number}</span>
                  <WireDash colour={l.colour} />
                  <span className="sr-only">{l.colour}</span>
                  <span className="min-w-0 flex-1 truncate text-ink2">
                    {terminals.find((t) => t.id === l.terminal)?.name ?? l.terminal}
                  </span>
                  <button
                    type="button"
                    className="mono max-w-[120px] truncate hover:text-accent"
                    title={`${end}, ${l.colour}`}
                    onClick={() => useHarness.setState({ leadId: l.id })}
                  >
                    {l.pin ?? end}
                  </button>
                </li>
              )
            })}
          </ul>
        </dd>
      )}
    </>
  )
}

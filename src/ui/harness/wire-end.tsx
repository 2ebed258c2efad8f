'use client'
import { beginningOf, type LeadEnd, terminalAt } from '@/core/harness/leads'
import type { LeadRow } from '@/core/rig/rows'
import { useKeyed } from '../live/keyed-values'
import { parts, useStore } from '../live/store'
import { pickUp, putDown, useDrawnRig, useHarness } from './harness-store'
import { liveAt, type WireLive } from './wire-look'

/** What of a terminal's name is said for the one who solders, not for the one who looks. */
export const TRAILING = /(,| to| through| of) .*$/

/** What a wire is called where there is little room: its number, and what it begins at. */
export const useWireWords = (lead: LeadRow): { owner: string; terminal: string } => {
  const rig = useDrawnRig()
  const owner = (rig.part[lead.partId ?? ''] ?? rig.expander[lead.fromExpanderId ?? ''])?.name
  const terminal = terminalAt(rig, beginningOf(lead))?.name ?? lead.terminal
  return { owner: owner ?? 'gone', terminal: terminal.replace(TRAILING, '') }
}

/** What the terminal of a wire does now: pressed, lit, where it stands, what it shows. */
export const useWireLive = (lead: LeadRow): WireLive => {
  const part = useStore((s) => s.rig.part[lead.partId ?? ''])
  const live = useKeyed(parts, lead.partId ?? '')
  return part ? liveAt(part, lead.terminal, live) : { on: null, words: null }
}

export const useIsLooked = (lead: LeadRow | undefined): boolean => {
  const selected = useStore((s) => s.selected)
  const leadId = useHarness((s) => s.leadId)
  return lead !== undefined && (lead.id === leadId || (lead.partId !== null && lead.partId === selected))
}

/**
 * What a pin, a channel or a wire's label does: it can be dragged, taken into the hand with Enter or a click, and put
 * down upon. `end` is where a wire would end that is put down here.
 */
export const handling = (end: LeadEnd | null, lead: LeadRow | undefined) => {
  const act = () => {
    const { carried } = useHarness.getState()
    if (carried && end) putDown(end)
    else if (lead) {
      pickUp(beginningOf(lead))
      // Looked at, not yet moved: a second step takes it into the hand.
      useHarness.setState({ carried: null })
    }
  }
  return {
    'data-end': end ? JSON.stringify(end) : undefined,
    'data-from': lead ? JSON.stringify(beginningOf(lead)) : undefined,
    onClick: act,
    onKeyDown: (e: React.KeyboardEvent) => {
      if (e.key === 'Enter' || e.key === ' ') {
        e.preventDefault()
        if (!useHarness.getState().carried && lead) pickUp(beginningOf(lead))
        else act()
      }
      if (e.key === 'Escape') useHarness.setState({ carried: null })
    },
  }
}

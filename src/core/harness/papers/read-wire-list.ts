import { type Change, changeRow } from '../../rig/edit'
import { type Rig, rowsOf } from '../../rig/rig'
import type { LeadRow } from '../../rig/rows'
import { wireColours } from '../leads'
import { type ListKind, type ListRead, readList, shortened } from './read-list'

const wireList: ListKind = {
  name: 'wire list',
  isOne: (has) => has('number') && (has('colour') || has('ribbon')),
  must: '“number”, and “colour” or “ribbon”',
}

/**
 * Reads a wire list back: colours and ribbons by the number of the wire. Ends are not taken from it, since pins are
 * changed where they can be checked. A file that is not such a list is refused whole, with a sentence why.
 */
export const readWireList = (rig: Rig, text: string): ListRead | { readonly problem: string } => {
  const read = readList(text, wireList)
  if ('problem' in read) return read
  const byNumber = new Map(rowsOf(rig, 'lead').map((l) => [`${l.number}`, l]))
  const changes: Change[] = []
  const left: string[] = []
  const seen = new Set<string>()
  for (const [line, cell] of read.lines) {
    const number = cell('number') ?? ''
    // Pieces between chips carry a letter; they go with the wire they carry on.
    if (/^\d+[a-z]$/.test(number)) continue
    const lead = byNumber.get(number)
    const say = (why: string) => left.push(`line ${line}: ${why}`)
    if (!lead) say(`there is no wire “${number}”`)
    else if (seen.has(number)) say(`wire ${number} comes twice`)
    else {
      const change = changeFor(lead, cell('colour') ?? null, cell('ribbon') ?? null, say)
      if (change) changes.push(change)
    }
    seen.add(number)
  }
  return { changes, left: shortened(left) }
}

const changeFor = (
  lead: LeadRow,
  colour: string | null,
  ribbon: string | null,
  say: (why: string) => void,
): Change | null => {
  let next = lead
  if (colour !== null && colour !== lead.colour) {
    if ((wireColours as readonly string[]).includes(colour)) next = { ...next, colour }
    else say(`wire ${lead.number} cannot be “${colour}”; it stays ${lead.colour}`)
  }
  if (ribbon !== null && ribbon !== (lead.ribbon ?? '')) {
    if (ribbon.length <= 60) next = { ...next, ribbon: ribbon === '' ? null : ribbon }
    else say(`the ribbon of wire ${lead.number} has too long a name`)
  }
  return changeRow('lead', lead, next)
}

import Papa from 'papaparse'
import { type Change, changeRow } from '../../rig/edit'
import { type Rig, rowsOf } from '../../rig/rig'
import type { LeadRow } from '../../rig/rows'
import { wireColours } from '../leads'
import { FORMULA } from './csv'

/** What a wire list from a spreadsheet changes, and what of it was left out, in sentences. */
export interface WireListRead {
  readonly changes: readonly Change[]
  readonly left: readonly string[]
}

const MOST_CHARACTERS = 2_000_000
const MOST_SAID = 8

/** What a spreadsheet was kept from taking for a formula comes back with its apostrophe. */
const plain = (cell: string | undefined): string => {
  const text = (cell ?? '').trim()
  return text.startsWith("'") && FORMULA.test(text.slice(1)) ? text.slice(1) : text
}

/**
 * Reads a wire list back: colours and ribbons by the number of the wire. Ends are not taken from it, since pins are
 * changed where they can be checked. A file that is not such a list is refused whole, with a sentence why.
 */
export const readWireList = (rig: Rig, text: string): WireListRead | { readonly problem: string } => {
  if (text.length > MOST_CHARACTERS) return { problem: 'This is too large for a wire list.' }
  // Tables saved by some spreadsheets begin with a mark of their encoding.
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true })
  const [head, ...rows] = data
  const fields = (head ?? []).map((f) => plain(f).toLowerCase())
  const at = {
    number: fields.indexOf('number'),
    colour: fields.indexOf('colour'),
    ribbon: fields.indexOf('ribbon'),
  }
  if (at.number < 0 || (at.colour < 0 && at.ribbon < 0))
    return {
      problem: 'This is not a wire list: its first line must name “number”, and “colour” or “ribbon”.',
    }
  const broken = errors.find((e) => e.type === 'Quotes')
  if (broken)
    return {
      problem: `The list is damaged in line ${(broken.row ?? 0) + 1}: ${broken.message}. Nothing was taken.`,
    }
  const byNumber = new Map(rowsOf(rig, 'lead').map((l) => [`${l.number}`, l]))
  const changes: Change[] = []
  const left: string[] = []
  const seen = new Set<string>()
  for (const [i, row] of rows.entries()) {
    const number = plain(row[at.number])
    // Pieces between chips carry a letter; they go with the wire they carry on.
    if (/^\d+[a-z]$/.test(number)) continue
    const lead = byNumber.get(number)
    const say = (why: string) => left.push(`line ${i + 2}: ${why}`)
    if (!lead) say(`there is no wire “${number}”`)
    else if (seen.has(number)) say(`wire ${number} comes twice`)
    else {
      const change = changeFor(
        lead,
        at.colour < 0 ? null : plain(row[at.colour]),
        at.ribbon < 0 ? null : plain(row[at.ribbon]),
        say,
      )
      if (change) changes.push(change)
    }
    seen.add(number)
  }
  const more = left.length - MOST_SAID
  return { changes, left: more > 0 ? [...left.slice(0, MOST_SAID), `and ${more} more`] : left }
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

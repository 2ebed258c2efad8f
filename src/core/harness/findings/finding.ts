import type { Change } from '../../rig/edit'
import type { Rig } from '../../rig/rig'
import type { LeadRow } from '../../rig/rows'
import { propose } from '../assignment/propose'
import { beginningOf, beginningWords, leadTo } from '../leads'
import { freePin } from '../spare-pins'

export type FindingKind =
  | 'clash'
  | 'ability'
  | 'own pin'
  | 'two-wire'
  | 'address'
  | 'two boards'
  | 'resistor'
  | 'pin current'
  | 'group current'
  | 'board current'
  | 'expander current'
  | 'rail current'
  | 'usb current'
  | 'supply current'
  | 'ground'
  | 'joined plus'
  | 'voltage'
  | 'inductive'
  | 'board supply'
  | 'open'
  | 'channels'
  | 'ribbon'
  | 'unknown'
  | 'capacity'
  | 'pwm'
  | 'timer'
  | 'regulator'
  | 'resistor heat'

/** Findings that leave a part no way to work; the others say that it will not work well, or not for long. */
const fatal: ReadonlySet<FindingKind> = new Set([
  'clash',
  'ability',
  'own pin',
  'two-wire',
  'address',
  'two boards',
  'ground',
  'voltage',
  'board supply',
  'open',
  'unknown',
])

/** Parts that cannot work as they are wired: whatever was seen of them was not the real thing. */
export const partsThatCannotWork = (findings: readonly HarnessFinding[]): ReadonlySet<string> =>
  new Set(findings.filter((f) => fatal.has(f.kind)).flatMap((f) => f.place.partIds))

/** Where a finding is. */
export interface FindingPlace {
  readonly partIds: readonly string[]
  readonly leadIds: readonly string[]
  readonly boardId?: string | undefined
  readonly expanderId?: string | undefined
  readonly supplyId?: string | undefined
}

/** A way out, as one edit. Worked out when it is taken. */
export interface Cure {
  readonly words: string
  readonly changes: (id: () => string) => readonly Change[]
}

/** Something electrical that will not work, or not for long. */
export interface HarnessFinding {
  /** The same for the same finding in each version of a rig. */
  readonly id: string
  readonly kind: FindingKind
  readonly words: string
  readonly place: FindingPlace
  readonly cure: Cure | null
}

/** The place of a lead: its part or expander, and what it ends at. */
export const placeOf = (lead: LeadRow): FindingPlace => ({
  partIds: lead.partId === null ? [] : [lead.partId],
  leadIds: [lead.id],
  boardId: lead.boardId ?? undefined,
  expanderId: lead.expanderId ?? lead.fromExpanderId ?? undefined,
})

/** “Wire 12 (Gear lamp · plus)”. */
export const wireWords = (rig: Rig, lead: LeadRow): string =>
  `wire ${lead.number} (${beginningWords(rig, beginningOf(lead))})`

export const asSentence = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1)

/** Moves a wire to a free pin of its board; where none is free, its part is assigned anew. */
export const moveCure = (
  rig: Rig,
  lead: LeadRow,
  boardId: string | undefined,
  fits: (pin: string) => boolean = () => true,
): Cure | null => {
  const from = beginningOf(lead)
  const pin = boardId === undefined ? null : freePin(rig, boardId, from, fits)
  if (pin !== null && boardId !== undefined) {
    return {
      words: `Move wire ${lead.number} to ${pin}`,
      changes: (id) => [leadTo(rig, from, { at: 'contact', boardId, pin }, id)].filter((c) => c !== null),
    }
  }
  return lead.partId === null ? null : assignCure(rig, lead.partId)
}

/** Assigns a part's wires anew, wherever there is room. */
export const assignCure = (rig: Rig, partId: string): Cure => ({
  words: `Assign the wires of “${rig.part[partId]?.name ?? partId}” anew`,
  changes: (id) => propose(rig, { partIds: new Set([partId]) }, id).changes,
})

/** A change of one row as a list. */
export const changed = (...changes: (Change | null)[]): readonly Change[] => changes.filter((c) => c !== null)

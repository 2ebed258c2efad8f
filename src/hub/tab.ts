import type { FromHub } from '../core/live/feed'
import { type PartSubject, partSubjects } from './part-subject'
import type { ScopeTab } from './scope/scope-tab'

/** The line to a tab. */
export interface TabLine {
  readonly send: (text: string) => void
  /** Whether so much is on its way that it does not read as fast as it is told. */
  readonly isFull: () => boolean
}

/** One open tab, as the hub sees it: what it shows, and what it still has to be told. */
export class Tab {
  selected: string | null = null
  /** Every variable and every part, as while a formula is written. */
  watchesAll = false
  follows = false
  /** The connection of which it shows what goes over it. */
  raw: string | null = null
  /** The connection whose datagrams it looks at. */
  datagrams: string | null = null
  /** The vehicle bus that it looks at. */
  bus: string | null = null
  /** The controller that it looks at. */
  controller: string | null = null
  /** Whether it lists which parts agree. */
  wantsAgreements = false
  /** What it looks at in Scope, while that is open. */
  scope: ScopeTab | null = null
  /** The parts that it shows, by subject, and the variables whose values it shows. */
  private readonly shown: Record<PartSubject, ReadonlySet<string>> = {
    parts: new Set(),
    says: new Set(),
    paths: new Set(),
    agreements: new Set(),
  }
  slots: ReadonlySet<number> = new Set()
  /** What it shows since a moment ago and has not been told. */
  readonly fresh: Record<PartSubject, Set<string>> = {
    parts: new Set(),
    says: new Set(),
    paths: new Set(),
    agreements: new Set(),
  }
  readonly freshSlots = new Set<number>()
  /** It is new, or has missed something: all that it shows is told anew. */
  missed = true
  toldLayers = ''
  toldTrace = ''

  constructor(readonly line: TabLine) {}

  send(message: FromHub): void {
    this.line.send(JSON.stringify(message))
  }

  /** Says of which parts it shows a subject now. */
  show(subject: PartSubject, parts: readonly string[]): void {
    for (const id of parts) if (!this.shown[subject].has(id)) this.fresh[subject].add(id)
    this.shown[subject] = new Set(parts)
  }

  showValues(slots: readonly number[]): void {
    for (const slot of slots) if (!this.slots.has(slot)) this.freshSlots.add(slot)
    this.slots = new Set(slots)
  }

  shows(subject: PartSubject, partId: string): boolean {
    if (this.shown[subject].has(partId)) return true
    if (subject === 'agreements') return this.wantsAgreements
    return subject === 'parts' && (this.watchesAll || this.selected === partId)
  }

  /** It begins from nothing: everything that it shows is owed to it. */
  beginAnew(everyPart: readonly string[]): void {
    this.missed = false
    if (this.scope) this.scope.fresh = true
    this.toldTrace = ''
    this.toldLayers = ''
    for (const subject of partSubjects) for (const id of this.shown[subject]) this.fresh[subject].add(id)
    for (const slot of this.slots) this.freshSlots.add(slot)
    if (this.wantsAgreements) for (const id of everyPart) this.fresh.agreements.add(id)
    if (this.watchesAll) for (const id of everyPart) this.fresh.parts.add(id)
    if (this.selected !== null) this.fresh.parts.add(this.selected)
  }
}

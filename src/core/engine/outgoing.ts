import { outgoingOf } from '../connections/connections'
import { connectionsOf, type Rig } from '../rig/rig'
import type { Compiled, Wanted } from '../signal/expression/compile'
import { unitNamed } from '../signal/unit'
import { evaluate } from './evaluate'
import { Mistakes } from './mistakes'
import { type OwnSlots, scopeFor } from './scope'
import type { Variables } from './variables'

/** A value in a unit that is known is wanted as a number of that; anything else as it is. */
const wantedIn = (unit: string | undefined): Wanted => {
  const known = unit === undefined ? undefined : unitNamed(unit)
  return known ? { as: 'type', type: { is: 'number', unit: known } } : { as: 'any' }
}

interface Sent {
  readonly compiled: Compiled | null
  readonly problem: string | null
  /** The sources without which it is not known, as bits. */
  readonly needs: number
}

/** What a value that is sent is now; absent is null, and why it cannot be worked out at all. */
export interface OutgoingNow {
  readonly value: number | string | null
  readonly problem: string | null
}

const nothing: OutgoingNow = { value: null, problem: null }

/** The values that connections send, compiled; whoever sends one asks for it when it is time. */
export class Outgoing {
  private sent = new Map<string, ReadonlyMap<string, Sent>>()
  /** Every slot that some of them read. */
  reads: ReadonlySet<number> = new Set()

  constructor(private readonly variables: Variables) {}

  compile(rig: Rig, slots: OwnSlots): void {
    const { variables } = this
    const scope = scopeFor(rig, variables.index, undefined, slots)
    const isKnown = variables.index.catalogue.variables.length > 0
    const reads = new Set<number>()
    this.sent = new Map()
    for (const { id, on, settings } of connectionsOf(rig)) {
      if (!on) continue
      const values = new Map<string, Sent>()
      for (const { key, expression, unit } of isKnown ? outgoingOf(settings) : []) {
        const mistakes = new Mistakes()
        const compiled = mistakes.expression('shaping', expression, scope, variables, wantedIn(unit))
        for (const slot of compiled?.reads ?? []) reads.add(slot)
        const needs = compiled ? variables.needs(compiled.reads) : 0
        values.set(key, { compiled, problem: mistakes.list[0]?.message ?? null, needs })
      }
      this.sent.set(id, values)
    }
    this.reads = reads
  }

  /** What a connection is to send now where a value belongs. What a source told that has gone since is not known any more. */
  now(connection: string, key: string): OutgoingNow {
    const sent = this.sent.get(connection)?.get(key)
    if (!sent) return nothing
    const { compiled, problem, needs } = sent
    const isThere = (needs & ~this.variables.up) === 0
    const value = compiled === null || !isThere ? null : evaluate(compiled, null)
    return { value: typeof value === 'number' && Number.isNaN(value) ? null : value, problem }
  }
}

import { lightingsOf, type Rig } from '../rig/rig'
import type { LightingRow } from '../rig/rows'
import type { CatalogueIndex } from '../rig/simulator-catalogue'
import type { Scope } from '../signal/expression/checked'
import type { Compiled, Values, Wanted } from '../signal/expression/compile'
import { unitNamed } from '../signal/unit'
import { evaluate } from './evaluate'
import { Mistakes } from './mistakes'
import { type OwnSlots, scopeFor } from './scope'

/** A level from 0 to 1; percent becomes that. */
export const levelWanted: Wanted = {
  as: 'type',
  type: { is: 'number', unit: unitNamed('ratio') ?? null },
}

/** At the bottom of what just shows. */
const JUST = 1e-6

/** What dims a group of lights: its expression compiled, or what is wrong with it. */
export interface Dimmer {
  readonly compiled: Compiled | null
  readonly problem: string | null
}

/** Compiles what dims a group. A mistake in it leaves its lights as bright as they are. */
export const dimmerOf = (row: LightingRow, scope: Scope, values: Values): Dimmer => {
  const mistakes = new Mistakes()
  const compiled = mistakes.expression('shaping', row.settings.level, scope, values, levelWanted)
  return { compiled, problem: mistakes.list[0]?.message ?? null }
}

/** How bright a group is now, 0 to 1; what cannot be told dims nothing. */
export const levelOf = (row: LightingRow, compiled: Compiled | null): number | null => {
  const level = compiled === null ? null : evaluate(compiled, null)
  if (typeof level !== 'number' || Number.isNaN(level)) return null
  const least = row.settings.bottom === 'readable' ? JUST : 0
  return Math.min(1, Math.max(least, level))
}

/** A group of lights as pages are told of it. */
export interface LightingNow {
  readonly level: number | null
  readonly problem: string | null
}

/** All groups of a rig, for those who look at them; each light has its own dimmer compiled with its binding. */
export class Lighting {
  private groups: readonly { row: LightingRow; dimmer: Dimmer }[] = []

  compile(rig: Rig, index: CatalogueIndex, values: Values, slots: OwnSlots): void {
    const scope = scopeFor(rig, index, undefined, slots)
    const isKnown = index.catalogue.variables.length > 0
    this.groups = lightingsOf(rig).map((row) => ({
      row,
      dimmer: isKnown ? dimmerOf(row, scope, values) : { compiled: null, problem: null },
    }))
  }

  /** Every slot that some group reads. */
  get reads(): number[] {
    return this.groups.flatMap(({ dimmer }) => [...(dimmer.compiled?.reads ?? [])])
  }

  now(): Record<string, LightingNow> {
    return Object.fromEntries(
      this.groups.map(({ row, dimmer }) => {
        const level = levelOf(row, dimmer.compiled)
        // To a hundredth: it is a bar on a page.
        return [
          row.id,
          { level: level === null ? null : Math.round(level * 100) / 100, problem: dimmer.problem },
        ]
      }),
    )
  }
}

import type { Shaper, Shows } from '../aspects/aspect-kind'
import { indicatorKind, ownSettings } from '../aspects/aspects'
import type { IndicatorAspect } from '../catalogue/part-kind'
import { type IndicatorSettings, takesInput } from '../rig/binding'
import { layersOf, type Rig } from '../rig/rig'
import type { BindingRow, PartRow } from '../rig/rows'
import type { CatalogueIndex } from '../rig/simulator-catalogue'
import type { Scope } from '../signal/expression/checked'
import type { Compiled, Evaluate, Values, Wanted } from '../signal/expression/compile'
import { dimmerOf, levelOf } from './lighting'
import type { BindingMistake, Mistakes } from './mistakes'
import { type CompiledLayer, layerKey, type OwnSlots, unknownVariable } from './scope'

/** A binding of an indicator as the engine runs it. */
export interface IndicatorProgram {
  readonly kind: 'indicator'
  readonly row: BindingRow
  readonly settings: IndicatorSettings
  /** The slot `input` is read from, or -1. */
  readonly source: number
  readonly sourceIsText: boolean
  /** A lamp's state for an input, without any detour: lamps are most of what a frame concerns. */
  readonly packs: Evaluate | null
  /** What it shows for an input, null where it has no say; null itself when the binding is off or has a mistake. */
  readonly state: Shows | null
  /** Whether an absent input is shown as such rather than leaving the say to the next binding. */
  readonly showsAbsent: boolean
  readonly condition: Evaluate | null
  readonly layer: CompiledLayer | null
  /** The main expression, for the trace; text pages have several and none of them is the main one. */
  readonly show: Compiled | null
  readonly onlyWhile: Compiled | null
  /** How bright its group of lights is, 0 to 1 or null where that cannot be told; null itself where it is in none. */
  readonly dims: (() => number | null) | null
  /** Every slot whose change can change what is shown. */
  readonly reads: readonly number[]
  readonly mistakes: readonly BindingMistake[]
  /** A bit for each source without which it has no say; `Variables.needs`. */
  needs: number
  /** What it threw, once it has; it is not asked again before it is compiled anew. */
  fault: string | null
}

interface Context {
  readonly rig: Rig
  readonly part: PartRow
  readonly row: BindingRow
  readonly aspect: IndicatorAspect
  readonly index: CatalogueIndex
  readonly values: Values
  readonly slots: OwnSlots
  readonly scope: Scope
}

/** Compiles an indicator's binding; what is wrong with it becomes a mistake at its station. */
export const compileIndicator = (
  context: Context,
  settings: IndicatorSettings,
  onlyWhile: Compiled | null,
  layer: CompiledLayer | null,
  mistakes: Mistakes,
): IndicatorProgram => {
  const { row, index } = context
  const source = settings.variable ? (index.variable.get(settings.variable) ?? -1) : -1
  if (settings.variable && source < 0) mistakes.say('simulator', unknownVariable(settings.variable, index))
  else if (!settings.variable && takesInput(settings)) mistakes.say('simulator', 'No variable is chosen yet.')
  const kind = indicatorKind(settings.kind)
  const shaping = new Shaping(context, mistakes)
  const own = ownSettings(context.part.settings, context.aspect)
  const shown = mistakes.list.length > 0 ? null : kind.compile(settings, context.aspect, shaping, own)
  const dims = kind.lit ? shaping.dimmer() : null
  const isLit = kind.lit !== undefined && (dims !== null || kind.isCurved?.(own) === true)
  const state: Shows | null =
    shown === null || !isLit
      ? shown
      : (input) => {
          const plain = shown(input)
          return plain === null ? null : (kind.lit?.(plain, dims?.() ?? 1, own) ?? plain)
        }
  const sound = row.on && mistakes.list.length === 0
  const reads = new Set<number>(source >= 0 ? [source] : [])
  for (const c of [...shaping.compiled, onlyWhile]) for (const s of c?.reads ?? []) reads.add(s)
  if (layer) reads.add(layer.slot)
  const [main] = shaping.compiled
  return {
    // What every frame looks at comes first.
    packs: sound && kind.packs && !isLit ? (main?.evaluate ?? null) : null,
    source,
    sourceIsText: index.catalogue.variables[source]?.type === 'text',
    condition: onlyWhile?.evaluate ?? null,
    layer,
    needs: 0,
    state: sound ? state : null,
    showsAbsent: kind.showsAbsent,
    kind: 'indicator',
    row,
    settings,
    dims,
    show: kind.main(settings) === null ? null : (main ?? null),
    onlyWhile,
    reads: [...reads],
    mistakes: mistakes.list,
    fault: null,
  }
}

/** Compiles the expressions of one binding, and keeps what they read. */
class Shaping implements Shaper {
  readonly compiled: Compiled[] = []

  constructor(
    private readonly context: Context,
    private readonly mistakes: Mistakes,
  ) {}

  expression(source: string | undefined, wanted: Wanted): Evaluate | null {
    return this.compile(source, wanted, this.context.scope)
  }

  aside(source: string | undefined, wanted: Wanted): Evaluate | null {
    return this.compile(source, wanted, { ...this.context.scope, input: undefined })
  }

  say(station: 'part' | 'shaping', message: string): void {
    this.mistakes.say(station, message)
  }

  layerIsActive(layerId: string): (() => boolean) | null {
    const { rig, slots, values } = this.context
    const layer = rig.layer[layerId]
    if (!layer) return null
    const slot = slots.slot(layerKey(layer.layerSet), true)
    const known = layersOf(rig, layer.layerSet).some((l) => l.id === layerId)
    this.compiled.push(layerRead(slot))
    return () => known && values.texts[slot] === layer.name
  }

  /** What dims the part's group of lights; what is wrong with that is said where the group is. */
  dimmer(): (() => number | null) | null {
    const { rig, part, scope, values } = this.context
    const row = rig.lighting[part.settings.lighting ?? '']
    if (!row) return null
    const { compiled } = dimmerOf(row, { ...scope, input: undefined }, values)
    if (!compiled) return null
    this.compiled.push(compiled)
    return () => levelOf(row, compiled)
  }

  private compile(source: string | undefined, wanted: Wanted, scope: Scope): Evaluate | null {
    if (source === undefined) return null
    const compiled = this.mistakes.expression('shaping', source, scope, this.context.values, wanted)
    if (compiled) this.compiled.push(compiled)
    return compiled?.evaluate ?? null
  }
}

/** Stands for the reading of a layer where no expression does it. */
const layerRead = (slot: number): Compiled => ({
  type: { is: 'text' },
  evaluate: () => null,
  needs: [],
  reads: [slot],
  readsInput: false,
})

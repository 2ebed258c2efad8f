import { layerSetsOf, layersOf, type Rig } from '../rig/rig'
import type { LayerRow, LayerSetRow } from '../rig/rows'
import type { CatalogueIndex } from '../rig/simulator-catalogue'
import type { Compiled } from '../signal/expression/compile'
import type { Millis } from '../units-of-measure'
import { evaluated, faultWords } from './evaluate'
import { Mistakes } from './mistakes'
import { layerKey, type OwnSlots, scopeFor } from './scope'
import type { Variables } from './variables'

/** A layer set as the engine runs it. */
export interface LayerState {
  readonly set: LayerSetRow
  readonly layers: readonly LayerRow[]
  readonly chosen: Compiled | null
  readonly slot: number
  /** What is wrong with how it is chosen, in words. */
  mistake: string | null
  /** Whether its choice, by way of others, depends on itself; then it is not followed. */
  looping: boolean
  active: string | null
  /** What the choice last gave when it named no layer. */
  strange: string | null
  usedAt: Millis
}

/** Whom a change of layers concerns. */
export interface LayerEvents {
  /** The active layer of a set has changed: whoever depends on it is to look. */
  readonly changed: (slot: number) => void
  readonly timeOut: (at: Millis, setId: string) => void
}

/** Which layer of each set is active, and why it changes: actions, a choice by expression, time. */
export class Layers {
  readonly sets = new Map<string, LayerState>()

  constructor(
    private readonly variables: Variables,
    private readonly events: LayerEvents,
  ) {}

  compile(rig: Rig, index: CatalogueIndex, slots: OwnSlots): void {
    const { variables } = this
    const before = new Map(this.sets)
    this.sets.clear()
    for (const set of layerSetsOf(rig)) {
      const layers = layersOf(rig, set.id)
      const slot = variables.ownSlot(layerKey(set.id), true)
      const mistakes = new Mistakes()
      const scope = scopeFor(rig, index, undefined, slots)
      const chosen =
        index.catalogue.variables.length === 0
          ? null
          : mistakes.expression('shaping', set.settings.chosenBy, scope, variables, { as: 'any' })
      const was = before.get(set.id)
      const kept = layers.some((l) => l.id === was?.active) ? (was?.active ?? null) : null
      const state: LayerState = {
        set,
        layers,
        chosen,
        slot,
        mistake: mistakes.list[0]?.message ?? null,
        looping: false,
        active: kept ?? layers[0]?.id ?? null,
        strange: null,
        usedAt: was?.usedAt ?? 0,
      }
      this.sets.set(set.id, state)
      this.write(state)
    }
    for (const id of before.keys()) if (!this.sets.has(id)) variables.free(layerKey(id))
  }

  /** Follows what chooses layers, by name or by number counted from 1: all choices are made before any is followed. */
  choose(states: Iterable<LayerState>): void {
    const chosen: [LayerState, LayerRow | undefined][] = []
    for (const state of states) {
      const value = state.chosen && !state.looping ? this.choice(state, state.chosen) : null
      if (value === null) continue
      const layer =
        typeof value === 'number' ? state.layers[value - 1] : state.layers.find((l) => l.name === value)
      state.strange = layer ? null : String(value)
      chosen.push([state, layer])
    }
    for (const [state, layer] of chosen) if (layer) this.activate(state, layer.id)
  }

  private choice(state: LayerState, chosen: Compiled): number | string | null {
    try {
      return evaluated(chosen, null)
    } catch (error) {
      state.mistake ??= faultWords(error)
      return null
    }
  }

  /** Carries out an action on a set: on to the next, back, or to one of its layers. */
  go(setId: string, to: string, now: Millis): void {
    const state = this.sets.get(setId)
    if (!state || state.layers.length === 0) return
    const at = state.layers.findIndex((l) => l.id === state.active)
    const count = state.layers.length
    const by = to === 'next' ? 1 : to === 'previous' ? -1 : 0
    this.used(setId, now)
    this.activate(state, by === 0 ? to : (state.layers[(at + by + count) % count]?.id ?? null))
  }

  /** A control of the set was used: the time until it falls back begins anew. */
  used(setId: string, now: Millis): void {
    const state = this.sets.get(setId)
    if (!state) return
    state.usedAt = now
    const { timeoutMs } = state.set.settings
    if (timeoutMs !== null) this.events.timeOut(now + timeoutMs, setId)
  }

  /** The time of a set may be over. */
  timedOut(setId: string, now: Millis): void {
    const state = this.sets.get(setId)
    const timeout = state?.set.settings.timeoutMs ?? null
    if (!state || timeout === null || now - state.usedAt < timeout) return
    this.activate(state, state.layers[0]?.id ?? null)
  }

  private activate(state: LayerState, layerId: string | null): void {
    if (state.active === layerId) return
    state.active = layerId
    this.write(state)
    this.events.changed(state.slot)
  }

  /** Puts the active layer's name where expressions read it. */
  write(state: LayerState): void {
    this.variables.texts[state.slot] = this.nameOf(state)
  }

  nameOf(state: LayerState): string | null {
    return state.layers.find((l) => l.id === state.active)?.name ?? null
  }

  isActive(layer: { readonly setId: string; readonly layerId: string } | null): boolean {
    return layer === null || this.sets.get(layer.setId)?.active === layer.layerId
  }
}

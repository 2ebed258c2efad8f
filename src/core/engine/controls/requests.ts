import type { Effect } from '../input'
import type { ControlState, Firing } from '../units'
import { skippedPositions } from './positions'

/** Requests without an answer that are kept: a source that never answers fills no memory. */
const MOST_OPEN = 2000

/** What was asked of the simulator, its answers, and which bindings are proven by them. */
export class Requests {
  private request = 0
  private readonly open = new Map<number, { state: ControlState; firing: Firing }>()

  constructor(private readonly emit: (effect: Effect) => void) {}

  /** The number under which something is asked. */
  ask(state: ControlState, firing: Firing): number {
    const request = ++this.request
    firing.open++
    this.open.set(request, { state, firing })
    if (this.open.size > MOST_OPEN) {
      const [oldest] = this.open.keys()
      if (oldest !== undefined) this.open.delete(oldest)
    }
    return request
  }

  answered(request: number, problem: string | null): ControlState | null {
    const asked = this.open.get(request)
    if (!asked) return null
    this.open.delete(request)
    const { state, firing } = asked
    firing.open--
    // The first objection stands, whatever else was taken.
    if (problem !== null) firing.problem ??= problem || 'it gave no reason'
    this.review(state, firing)
    return state
  }

  /** Everything a firing had to tell may be told and taken by now. */
  review(state: ControlState, firing: Firing): void {
    if (firing.problem !== null || firing.open > 0 || !firing.told) return
    firing.problem = ''
    this.acknowledge(state, firing)
  }

  /** Proven is a binding of which everything it can do was taken by the simulator. */
  private acknowledge(state: ControlState, firing: Firing): void {
    if (state.acknowledged.has(firing.input)) return
    state.acknowledged.add(firing.input)
    if (state.acknowledged.size === everything(state))
      this.emit({ is: 'proven', bindingId: state.program.row.id })
  }

  /** Some sources are gone, and so are their answers. */
  forget(gone: number): void {
    for (const [request, { state, firing }] of this.open) {
      if ((state.program.needs & gone) === 0) continue
      firing.problem ??= 'the simulator went away before it answered'
      this.open.delete(request)
    }
  }
}

/** How many different things a binding can do. */
const everything = ({ control, program }: ControlState): number => {
  const { aspect } = control
  const { when } = program.settings
  if (when === 'position' && aspect.kind === 'positions')
    return aspect.positions.length - skippedPositions(control).length
  return when === 'turn' || when === 'hold' ? 2 : 1
}

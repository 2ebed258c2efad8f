import { proofBasis } from '../core/engine/proof'
import type { ProofState } from '../core/live/feed'
import { type Rig, rowsOf } from '../core/rig/rig'
import type { MemoryFile } from './memory'

/** Which bindings were seen to work, and what they were then. */
export class Proofs {
  constructor(private readonly file: MemoryFile) {}

  /** Notes that a binding was seen to work; says whether that is news. */
  note(rig: Rig, bindingId: string): boolean {
    const basis = proofBasis(rig, bindingId)
    const { proven } = this.file.memory
    if (basis === null || proven[bindingId] === basis) return false
    proven[bindingId] = basis
    this.file.keep()
    return true
  }

  /** How far each binding of the given parts, or of all, is proven. */
  of(rig: Rig, partIds: ReadonlySet<string> | null = null): Record<string, ProofState> {
    const { proven } = this.file.memory
    return Object.fromEntries(
      rowsOf(rig, 'binding')
        .filter((b) => partIds === null || partIds.has(b.partId))
        .map((b) => {
          const basis = proven[b.id]
          const state =
            basis === undefined ? 'not yet' : basis === proofBasis(rig, b.id) ? 'proven' : 'changed since'
          return [b.id, state]
        }),
    )
  }
}

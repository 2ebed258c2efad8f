import { bindingsOf, leadsOf, type Rig } from '../rig/rig'

/**
 * What a binding's proof rests on: the binding, its part's kind and the leads. When any of it changes, what was
 * seen to work has to be seen again. Names, places and legends do not matter.
 */
export const proofBasis = (rig: Rig, bindingId: string): string | null => {
  const binding = rig.binding[bindingId]
  const part = binding ? rig.part[binding.partId] : undefined
  if (!binding || !part) return null
  const leads = leadsOf(rig, part.id).map((l) => [l.terminal, l.boardId, l.pin, l.expanderId, l.channel])
  const others = bindingsOf(rig, part.id).map((b) => b.id)
  return JSON.stringify([binding.on, binding.settings, part.kind, leads, others])
}

import { namesIn } from './binding-change'
import { type Rig, rowsOf } from './rig'

/** By name of a variable or event, the parts whose bindings act on it or show it, each once, in the rig's order. */
export const boundNames = (rig: Rig): ReadonlyMap<string, readonly string[]> => {
  const bound = new Map<string, string[]>()
  for (const binding of rowsOf(rig, 'binding'))
    for (const name of namesIn(binding.settings)) {
      const parts = bound.get(name)
      if (!parts) bound.set(name, [binding.partId])
      else if (!parts.includes(binding.partId)) parts.push(binding.partId)
    }
  return bound
}

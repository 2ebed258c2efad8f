import type { BindingRow } from '@/core/rig/rows'

/** An expression field speaks of a binding; what stands by itself, as what dims a group or goes out over a wire, has none. */
export const freeBinding = (id: string): BindingRow => ({
  id,
  partId: '',
  position: 0,
  on: true,
  settings: { kind: 'lamp', variable: null, show: 'input', onlyWhile: null, rest: 'out' },
})

import type { PartKind } from '@/core/catalogue/part-kind'
import type { PartLive } from '@/core/live/feed'

/** Whether something is on at a terminal now: a contact closed, a lamp lit; null where that says nothing. */
export const liveAt = (
  kind: PartKind | undefined,
  terminal: string,
  live: PartLive | undefined,
): boolean | null => {
  for (const aspect of kind?.aspects ?? []) {
    const now = live?.aspects[aspect.id]
    if (!now) continue
    if (aspect.kind === 'positions' && aspect.positions.some((p) => p.closes.includes(terminal))) {
      const at = now.told ?? now.metered
      return aspect.positions.some((p) => p.id === at && p.closes.includes(terminal))
    }
    if (aspect.kind === 'lamp') {
      const level = now.metered ?? now.told
      const isLamp = kind?.terminals.some(
        (t) => t.id === terminal && (t.role === 'lamp-plus' || t.role === 'lamp-minus'),
      )
      if (isLamp) return typeof level === 'number' ? (level & 255) > 0 : null
    }
  }
  return null
}

import type { PartKind } from '../part-kind'

/** A two-position bat toggle with one contact, closed when the bat is up. */
export const toggle: PartKind = {
  id: 'toggle-2',
  name: 'Toggle, 2 positions',
  front: { look: 'toggle', bushMm: 12.4 },
  frontMm: { width: 12.4, height: 24 },
  terminals: [
    { id: 'common', name: 'common to ground', role: 'common' },
    { id: 'closed', name: 'contact, closed when up', role: 'contact' },
  ],
  aspects: [
    {
      kind: 'positions',
      id: 'position',
      positions: [
        { id: 'down', closes: [] },
        { id: 'up', closes: ['closed'] },
      ],
      momentary: false,
      debounceMs: 8,
    },
  ],
}

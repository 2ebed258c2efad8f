import { bushed, flatSided, type Mount } from '../mount'
import type { PartKind } from '../part-kind'

const common = { id: 'common', name: 'common', hint: 'to ground', role: 'common' } as const
const contact = (id: string, name: string, hint?: string) =>
  ({ id, name, ...(hint === undefined ? {} : { hint }), role: 'contact' }) as const

/** A bush of 6 mm with a flat; the bat sweeps more room than its bush. */
const mount: Mount = bushed(flatSided(6.2, 5.7), [8, 13.2, 20], [13, 26])

/** A two-position bat toggle with one contact, closed when the bat is up. */
export const toggle: PartKind = {
  id: 'toggle-2',
  name: 'Toggle, 2 positions',
  family: 'toggle',
  mount,
  front: { look: 'toggle', bushMm: 12.4 },
  frontMm: { width: 12.4, height: 24 },
  terminals: [common, contact('closed', 'contact', 'closed when up')],
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

/** A contact for either position: one of them is closed, but for the moment in which the bat passes the middle. */
export const changeover: PartKind = {
  ...toggle,
  id: 'toggle-2-changeover',
  name: 'Toggle, 2 positions, changeover',
  terminals: [common, contact('up', 'upper contact'), contact('down', 'lower contact')],
  aspects: [
    {
      kind: 'positions',
      id: 'position',
      positions: [
        { id: 'down', closes: ['down'] },
        { id: 'up', closes: ['up'] },
      ],
      momentary: false,
      debounceMs: 8,
      gap: true,
    },
  ],
}

const threeWay = (id: string, name: string, momentary: boolean): PartKind => ({
  id,
  name,
  family: 'toggle',
  mount,
  front: { look: 'toggle', bushMm: 12.4 },
  frontMm: { width: 12.4, height: 24 },
  terminals: [common, contact('up', 'upper contact'), contact('down', 'lower contact')],
  aspects: [
    {
      kind: 'positions',
      id: 'position',
      positions: [
        { id: 'middle', closes: [] },
        { id: 'up', closes: ['up'] },
        { id: 'down', closes: ['down'] },
      ],
      momentary,
      debounceMs: 8,
    },
  ],
})

export const toggleThree = threeWay('toggle-3', 'Toggle, 3 positions', false)
/** Springs back to the middle from either side. */
export const springToggle = threeWay('toggle-3-spring', 'Toggle, springs back to the middle', true)

/** Under a cover that has to be lifted first; closing it puts the bat down. */
export const guardedToggle: PartKind = {
  ...toggle,
  id: 'toggle-2-guarded',
  name: 'Toggle, 2 positions, guarded',
  front: { look: 'toggle', bushMm: 12.4, guarded: true },
  frontMm: { width: 17, height: 38 },
  mount: bushed(flatSided(12.2, 11.4), [16, 29, 30], [18, 52]),
}

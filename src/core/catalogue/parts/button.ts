import type { CapColour, PartKind } from '../part-kind'

const button = (id: string, colour: CapColour): PartKind => ({
  id,
  name: `Button, 10 mm, ${colour}`,
  front: { look: 'button', capMm: 10, bezelMm: 14, colour },
  frontMm: { width: 14, height: 14 },
  terminals: [
    { id: 'common', name: 'common to ground', role: 'common' },
    { id: 'closed', name: 'contact, closed when pressed', role: 'contact' },
  ],
  aspects: [
    {
      kind: 'positions',
      id: 'press',
      positions: [
        { id: 'released', closes: [] },
        { id: 'pressed', closes: ['closed'] },
      ],
      momentary: true,
      debounceMs: 6,
    },
  ],
})

export const redButton = button('button-10-red', 'red')
export const greyButton = button('button-10-grey', 'grey')

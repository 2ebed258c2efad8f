import type { EncoderAspect, PartKind, PositionsAspect, Terminal } from '../part-kind'

const ground: Terminal = { id: 'common', name: 'common to ground', role: 'common' }

const phases = (prefix: string, words: string): Terminal[] => [
  { id: `${prefix}a`, name: `${words}A`, role: 'contact' },
  { id: `${prefix}b`, name: `${words}B`, role: 'contact' },
]

const turning = (id: string, prefix: string): EncoderAspect => ({
  kind: 'encoder',
  id,
  a: `${prefix}a`,
  b: `${prefix}b`,
  changesPerClick: 4,
})

const pushTerminal: Terminal = { id: 'push', name: 'push contact', role: 'contact' }

const push: PositionsAspect = {
  kind: 'positions',
  id: 'push',
  positions: [
    { id: 'released', closes: [] },
    { id: 'pressed', closes: ['push'] },
  ],
  momentary: true,
  debounceMs: 6,
}

export const encoder: PartKind = {
  id: 'encoder',
  name: 'Encoder',
  front: { look: 'knob', outerMm: 18, innerMm: null },
  frontMm: { width: 18, height: 18 },
  terminals: [ground, ...phases('', '')],
  aspects: [turning('turn', '')],
}

export const pushEncoder: PartKind = {
  id: 'encoder-push',
  name: 'Encoder with push',
  front: { look: 'knob', outerMm: 18, innerMm: null },
  frontMm: { width: 18, height: 18 },
  terminals: [ground, ...phases('', ''), pushTerminal],
  aspects: [turning('turn', ''), push],
}

/** Two knobs on one axis, and the inner one can be pushed. */
export const dualEncoder: PartKind = {
  id: 'encoder-dual-push',
  name: 'Dual encoder with push',
  front: { look: 'knob', outerMm: 25, innerMm: 14 },
  frontMm: { width: 25, height: 25 },
  terminals: [ground, ...phases('outer-', 'outer '), ...phases('inner-', 'inner '), pushTerminal],
  aspects: [turning('outer', 'outer-'), turning('inner', 'inner-'), push],
}

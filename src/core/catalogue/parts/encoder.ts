import { bushed, flatSided } from '../mount'
import type { EncoderAspect, PartKind, PositionsAspect, Terminal } from '../part-kind'

const ground: Terminal = { id: 'common', name: 'common', hint: 'to ground', role: 'common' }

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

const bush = flatSided(7.2, 6.7)
const dualBush = flatSided(9.7, 8.9)

export const encoder: PartKind = {
  id: 'encoder',
  name: 'Encoder',
  family: 'encoder',
  mount: bushed(bush, [13, 13, 12], [26, 26]),
  front: { look: 'knob', outerMm: 18, innerMm: null },
  frontMm: { width: 18, height: 18 },
  terminals: [ground, ...phases('', '')],
  aspects: [turning('turn', '')],
}

export const pushEncoder: PartKind = {
  id: 'encoder-push',
  name: 'Encoder with push',
  family: 'encoder',
  mount: bushed(bush, [13, 13, 14], [26, 26]),
  front: { look: 'knob', outerMm: 18, innerMm: null },
  frontMm: { width: 18, height: 18 },
  terminals: [ground, ...phases('', ''), pushTerminal],
  aspects: [turning('turn', ''), push],
}

/** Two knobs on one axis. */
export const dualEncoder: PartKind = {
  id: 'encoder-dual',
  name: 'Dual encoder',
  family: 'encoder',
  mount: bushed(dualBush, [17, 17, 26], [33, 33]),
  front: { look: 'knob', outerMm: 25, innerMm: 14 },
  frontMm: { width: 25, height: 25 },
  terminals: [ground, ...phases('outer-', 'outer '), ...phases('inner-', 'inner ')],
  aspects: [turning('outer', 'outer-'), turning('inner', 'inner-')],
}

/** Two knobs on one axis, and the inner one can be pushed. */
export const dualPushEncoder: PartKind = {
  id: 'encoder-dual-push',
  name: 'Dual encoder with push',
  family: 'encoder',
  mount: bushed(dualBush, [17, 17, 28], [33, 33]),
  front: { look: 'knob', outerMm: 25, innerMm: 14 },
  frontMm: { width: 25, height: 25 },
  terminals: [ground, ...phases('outer-', 'outer '), ...phases('inner-', 'inner '), pushTerminal],
  aspects: [turning('outer', 'outer-'), turning('inner', 'inner-'), push],
}

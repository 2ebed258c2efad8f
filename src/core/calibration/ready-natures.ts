import type { Nature } from '../aspects/nature'
import type { NeedleDrive } from '../catalogue/part-kind'

/** Something that a simulated part can be like, so that it can be found by measuring. */
export interface ReadyNature {
  readonly id: string
  readonly words: string
  readonly nature: Nature
  /** Of needles: only those that are driven so. */
  readonly drive?: NeedleDrive
}

/** What simulated parts can be like, beside what their catalogue says. */
export const readyNatures: readonly ReadyNature[] = [
  { id: 'long bounce', words: 'Contacts that bounce long', nature: { kind: 'positions', bounceUs: 14_000 } },
  { id: 'two changes', words: 'Two changes a click', nature: { kind: 'encoder', changesPerClick: 2 } },
  {
    id: 'unusual',
    words: 'One change a click, turned round',
    nature: { kind: 'encoder', changesPerClick: 1, reverse: true },
  },
  { id: 'worn click', words: 'A worn contact', nature: { kind: 'encoder', missesOneIn: 5 } },
  {
    id: 'uneven ends',
    words: 'Noisy, with uneven ends',
    nature: { kind: 'travel', low: 0.07, high: 0.91, noise: 5 },
  },
  {
    id: 'exchanged ends',
    words: 'Exchanged ends, bent',
    nature: { kind: 'travel', swapped: true, bend: 0.3, noise: 1.5 },
  },
  {
    id: 'worn track',
    words: 'A worn track',
    nature: { kind: 'travel', noise: 2, broken: { from: 0.62, to: 0.66 } },
  },
  { id: 'askew', words: 'Needle pressed on askew', nature: { kind: 'needle', offsetDeg: 9, playDeg: 1.5 } },
  {
    id: 'crossed',
    words: 'Two leads crossed',
    nature: { kind: 'needle', leads: 'crossed' },
    drive: 'four-wire',
  },
  {
    id: 'turned',
    words: 'One coil turned round',
    nature: { kind: 'needle', leads: 'turned' },
    drive: 'four-wire',
  },
  {
    id: 'loses steps',
    words: 'Motor that loses steps',
    nature: { kind: 'needle', losesOneIn: 40 },
    drive: 'four-wire',
  },
  {
    id: 'short pulses',
    words: 'Servo with ends of its own',
    nature: { kind: 'needle', leastUs: 1000, mostUs: 2000 },
    drive: 'servo',
  },
  { id: 'red first', words: 'Red before green', nature: { kind: 'colour', order: 'RGB' } },
  {
    id: 'blue first',
    words: 'Blue, green, red; five lamps',
    nature: { kind: 'colour', order: 'BGR', lamps: 5 },
  },
]

import type { Micros } from '../../core/units-of-measure'
import { Contact } from './contact'

/** From one contact change to the next in a quick hand. */
const CHANGE_US = 4200
/** And from one of the same contact to its next, at least. */
const CONTACT_US = 15_000
/** A, B of the four states a knob turns through; both open in a click. */
const gray = [
  [false, false],
  [true, false],
  [true, true],
  [false, true],
] as const

/** A knob with two contacts that close a quarter apart, and bounce as contacts do. */
export class Knob {
  readonly a: Contact
  readonly b: Contact
  private state = 0
  private left = 0
  private movedAt: Micros = Number.NEGATIVE_INFINITY
  private changes = 0
  /** One turn through its four states in so many, contact A does not close; 0 never. */
  missesOneIn = 0

  constructor(random: () => number) {
    this.a = new Contact(false, random, 1, CONTACT_US)
    this.b = new Contact(false, random, 1, CONTACT_US)
  }

  /** The hand turns on by so many contact changes, clockwise above zero. */
  turn(changes: number): void {
    this.left += changes
  }

  get moving(): boolean {
    return this.left !== 0 || this.a.moving || this.b.moving
  }

  settle(now: Micros): void {
    if (this.left !== 0 && now - this.movedAt >= CHANGE_US) {
      this.movedAt = now
      const by = Math.sign(this.left)
      this.left -= by
      this.state = (this.state + by + 4) % 4
      const [a, b] = gray[this.state] as (typeof gray)[number]
      const misses =
        this.missesOneIn > 0 && Math.floor(this.changes++ / 4) % this.missesOneIn === this.missesOneIn - 1
      this.a.move(a && !misses, now)
      this.b.move(b, now)
    }
    this.a.settle(now)
    this.b.settle(now)
  }
}

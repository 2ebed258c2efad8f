import { type Axis, type Capabilities, type ControllerInput, inputsOf, shareOf } from './capabilities'
import { EV_ABS, EV_KEY, type InputEvent } from './event-reader'

/** Where everything on a controller stands, pin by pin. */
export class Standing {
  readonly inputs: readonly ControllerInput[]
  /** By pin: what the device itself says, a key being 0 or 1. */
  readonly raw = new Map<number, number>()
  private readonly keys = new Map<number, ControllerInput>()
  private readonly byAxis = new Map<number, ControllerInput[]>()
  private readonly ranges: ReadonlyMap<number, Axis>

  constructor(hello: Capabilities) {
    this.inputs = inputsOf(hello)
    this.ranges = new Map(hello.axes.map((a) => [a.code, a]))
    const down = new Set(hello.down)
    for (const input of this.inputs) {
      if (input.is === 'button') {
        this.keys.set(input.code, input)
        this.raw.set(input.pin, Number(down.has(input.code)))
        continue
      }
      const along = this.byAxis.get(input.code)
      if (along) along.push(input)
      else this.byAxis.set(input.code, [input])
      this.raw.set(input.pin, this.ranges.get(input.code)?.value ?? 0)
    }
  }

  /** What changed at one time; gives the pins that stand elsewhere now. */
  take(events: readonly InputEvent[]): Set<number> {
    const changed = new Set<number>()
    for (const { type, code, value } of events) {
      if (type === EV_KEY) {
        const key = this.keys.get(code)
        // A key that repeats by itself has not been pressed again.
        if (key) this.put(key.pin, Number(value !== 0), changed)
      } else if (type === EV_ABS) {
        for (const { pin } of this.byAxis.get(code) ?? []) this.put(pin, value, changed)
      }
    }
    return changed
  }

  private put(pin: number, value: number, changed: Set<number>): void {
    if (this.raw.get(pin) === value) return
    this.raw.set(pin, value)
    changed.add(pin)
  }

  /** Whether the contact at a pin is closed. */
  isClosed(pin: number): boolean {
    const value = this.raw.get(pin) ?? 0
    const side = this.sideOf(pin)
    if (side === undefined) return value !== 0
    const { least = -1, most = 1 } = this.ranges.get(side.code) ?? {}
    const middle = (least + most) / 2
    return (value - middle) * (side.sign ?? 1) > (most - least) / 4
  }

  private sideOf(pin: number): ControllerInput | undefined {
    return this.inputs.find((i) => i.pin === pin && i.is === 'hat side')
  }

  /** Closed contacts as bits, the first pin lowest. */
  bits(pins: readonly number[]): number {
    let bits = 0
    for (const [i, pin] of pins.entries()) if (this.isClosed(pin)) bits |= 1 << i
    return bits
  }

  /** The axis at a pin as a share of its way, 0 to 1. */
  share(pin: number): number {
    const range = this.rangeOf(pin)
    return range ? shareOf(range, this.raw.get(pin) ?? 0) : 0
  }

  /** How far an axis goes, in counts of its own. */
  rangeOf(pin: number): Axis | undefined {
    const input = this.inputs.find((i) => i.pin === pin)
    return input?.is === 'axis' ? this.ranges.get(input.code) : undefined
  }
}

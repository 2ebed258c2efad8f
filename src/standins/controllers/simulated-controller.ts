import { AXES_FROM, type Capabilities, HATS_FROM } from '../../core/controllers/capabilities'
import { EV_ABS, EV_KEY, type InputEvent, reportBytes } from '../../core/controllers/event-reader'
import {
  FIRST_KEY,
  HAT_X,
  HAT_Y,
  type SimulatedControl,
  type SimulatedModelName,
  simulatedCapabilities,
  simulatedModels,
} from '../../core/controllers/simulated-models'

/** A lever that comes so near to a detent falls into it. */
const DETENT_REACH = 0.025
/** How far a worn track trembles, in counts. */
const TREMBLES = 3

/** A controller with the bytes of a real one: its toggles are pairs of buttons, its levers have detents and tremble. */
export class SimulatedController {
  private readonly closed = new Set<number>()
  private readonly at = new Map<number, number>()
  private readonly hat = new Set<number>()
  /** What it says whenever something has moved; nothing while nobody listens. */
  say: ((bytes: Uint8Array) => void) | null = null

  constructor(
    readonly model: SimulatedModelName,
    private readonly serial: string,
    private readonly micros: () => number,
    private readonly random: () => number,
  ) {
    for (const control of this.controls) {
      if (control.is === 'switch') this.rest(control)
      else if (control.is === 'lever') this.at.set(control.axis, control.springs ? 0.5 : 0)
    }
    for (const lever of this.controls) if (lever.is === 'lever') this.closeBelow(lever)
  }

  private get controls(): readonly SimulatedControl[] {
    return simulatedModels[this.model].controls
  }

  private get most(): number {
    return simulatedModels[this.model].most
  }

  private rest({ buttons }: Extract<SimulatedControl, { is: 'switch' }>): void {
    const first = buttons.includes(null) ? null : buttons[0]
    if (typeof first === 'number') this.closed.add(first)
  }

  hello(): Capabilities {
    const hats = new Map(this.hatEvents().map((e) => [e.code, e.value]))
    return simulatedCapabilities(this.model, this.serial, [...this.closed], new Map([...this.at, ...hats]))
  }

  private tell(events: readonly InputEvent[]): void {
    if (events.length > 0) this.say?.(reportBytes(events, this.micros()))
  }

  private put(button: number, closed: boolean): InputEvent[] {
    if (this.closed.has(button) === closed) return []
    if (closed) this.closed.add(button)
    else this.closed.delete(button)
    return [{ type: EV_KEY, code: FIRST_KEY + button, value: Number(closed) }]
  }

  /** Puts one of its controls somewhere: a button pressed or not, a switch in a position, a lever at a share, a hat to a side. */
  handle(index: number, to: number): void {
    const control = this.controls[index]
    if (!control) return
    switch (control.is) {
      case 'button':
        this.tell(this.put(control.button, to > 0))
        break
      case 'switch':
        this.throwTo(control, Math.round(to))
        break
      case 'lever':
        this.slideAxis(control.axis, to)
        break
      case 'hat':
        this.lean(to)
    }
  }

  /** A contact opens before the next one closes, and the hand takes a moment from one to the other. */
  private throwTo({ buttons }: Extract<SimulatedControl, { is: 'switch' }>, position: number): void {
    const goal = buttons[position]
    if (goal === undefined) return
    const opens = buttons.flatMap((b) => (b !== null && b !== goal ? this.put(b, false) : []))
    this.tell(opens)
    if (goal !== null) this.tell(this.put(goal, true))
  }

  private slideAxis(axis: number, share: number): void {
    const lever = this.controls.find((c) => c.is === 'lever' && c.axis === axis)
    if (lever?.is !== 'lever') return
    const near = lever.detents.find((d) => Math.abs(d - share) < DETENT_REACH)
    this.at.set(axis, near ?? Math.min(1, Math.max(0, share)))
    this.tell([this.axisEvent(axis), ...this.closeBelow(lever)])
  }

  private closeBelow({ axis, below }: Extract<SimulatedControl, { is: 'lever' }>): InputEvent[] {
    return below ? this.put(below.button, (this.at.get(axis) ?? 0) < below.detent) : []
  }

  private axisEvent(axis: number, by = 0): InputEvent {
    const value = Math.round((this.at.get(axis) ?? 0) * this.most) + by
    return { type: EV_ABS, code: axis, value: Math.min(this.most, Math.max(0, value)) }
  }

  /** 0 is the middle; then clockwise from the top in steps of an eighth. */
  private lean(to: number): void {
    this.hat.clear()
    const angle = to - 1
    if (to >= 1) {
      if (angle === 7 || angle <= 1) this.hat.add(0)
      if (angle >= 1 && angle <= 3) this.hat.add(1)
      if (angle >= 3 && angle <= 5) this.hat.add(2)
      if (angle >= 5) this.hat.add(3)
    }
    this.tell(this.hatEvents())
  }

  private hatEvents(): InputEvent[] {
    if (!simulatedModels[this.model].hat) return []
    const side = (n: number) => Number(this.hat.has(n))
    return [
      { type: EV_ABS, code: HAT_X, value: side(1) - side(3) },
      { type: EV_ABS, code: HAT_Y, value: side(2) - side(0) },
    ]
  }

  /** A hand on a part that hangs on these pins. One that is a throw of a switch goes where its contact is closed. */
  move(contacts: readonly { readonly pin: number; readonly closed: boolean }[]): void {
    let leans = false
    for (const { pin, closed } of contacts) {
      if (pin >= HATS_FROM) {
        if (closed) this.hat.add(pin - HATS_FROM)
        else this.hat.delete(pin - HATS_FROM)
        leans = true
        continue
      }
      const of = this.controls.find((c) => c.is === 'switch' && c.buttons.includes(pin))
      if (of?.is !== 'switch') this.tell(this.put(pin, closed))
      else if (closed) this.throwTo(of, of.buttons.indexOf(pin))
      else if (of.buttons.includes(null) && contacts.every((c) => !c.closed))
        this.throwTo(of, of.buttons.indexOf(null))
    }
    if (leans) this.tell(this.hatEvents())
  }

  slide(pin: number, level: number): void {
    this.slideAxis(pin - AXES_FROM, level)
  }

  /** Its tracks are not quite still. */
  tremble(): void {
    const axes = [...this.at.keys()]
    const axis = axes[Math.floor(this.random() * axes.length)]
    if (axis !== undefined && this.say)
      this.tell([this.axisEvent(axis, Math.round((this.random() * 2 - 1) * TREMBLES))])
  }

  closedPins(): number[] {
    return [...this.closed, ...[...this.hat].map((side) => HATS_FROM + side)].sort((a, b) => a - b)
  }

  wipers(): (readonly [number, number])[] {
    return [...this.at].map(([axis, share]) => [AXES_FROM + axis, share] as const)
  }
}

import {
  AXES_FROM,
  type Capabilities,
  type ControllerInput,
  inputsOf,
} from '../../core/controllers/capabilities'
import { EV_ABS, EV_KEY, type InputEvent, reportBytes } from '../../core/controllers/event-reader'
import { touchCapabilities } from '../../core/screens/touch'
import type { ToStandins } from '../../links/hand-link'
import { Line, type LineEvents, trouble } from './line'

/** Two contacts of a knob as they follow each other. */
const ring = [0b00, 0b01, 0b11, 0b10]

type Movement = Extract<ToStandins, { say: 'move' | 'slide' | 'turn' }>

/** Fingers on a screen: a line without a cable that speaks as the line of a controller does. */
export class TouchLine extends Line {
  readonly where = 'fingers on a screen'
  private readonly hello: Capabilities
  private readonly inputs: ReadonlyMap<number, ControllerInput>
  private readonly turned = new Map<number, number>()
  private open_ = false

  constructor(name: string, events: LineEvents) {
    super(events)
    this.hello = touchCapabilities(name)
    this.inputs = new Map(inputsOf(this.hello).map((i) => [i.pin, i]))
  }

  protected connect(): void {
    this.open_ = true
    this.isOpen()
    // As over any other line, what is said first is heard in the next turn.
    setImmediate(() => {
      if (this.open_) this.take(new TextEncoder().encode(`${JSON.stringify(this.hello)}\n`))
    })
  }

  /** A hand on what hangs on some of its pins. */
  moved(m: Movement): void {
    switch (m.say) {
      case 'move':
        this.tell(m.contacts.flatMap(({ pin, closed }) => this.event(pin, Number(closed))))
        break
      case 'slide': {
        const { least = 0, most = 1 } = this.hello.axes.find((a) => a.code === m.pin - AXES_FROM) ?? {}
        this.tell(this.event(m.pin, Math.round(least + m.level * (most - least))))
        break
      }
      case 'turn':
        this.turn(m.pins, m.changes)
        break
    }
  }

  /** Contact change by contact change, each at a time of its own. */
  private turn([a = 0, b = 0]: readonly number[], changes: number): void {
    let at = this.turned.get(a) ?? 0
    for (let i = 0; i < Math.abs(changes); i++) {
      at = (at + Math.sign(changes) + 4) % 4
      const bits = ring[at] ?? 0
      this.tell([...this.event(a, bits & 1), ...this.event(b, bits >> 1)])
    }
    this.turned.set(a, at)
  }

  private event(pin: number, value: number): InputEvent[] {
    const input = this.inputs.get(pin)
    return input ? [{ type: input.is === 'axis' ? EV_ABS : EV_KEY, code: input.code, value }] : []
  }

  private tell(events: readonly InputEvent[]): void {
    if (this.open_ && events.length > 0) this.take(reportBytes(events, performance.now() * 1000))
  }

  protected write(): void {}
  protected hold(): void {}

  drop(): void {
    this.finish()
    this.isClosed(trouble('it is opened anew'))
  }

  protected finish(): void {
    this.open_ = false
    this.isUp = false
  }
}

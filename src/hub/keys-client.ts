import { AXIS_MOST, pressables, pressedAs, pressVariables } from '../core/keys/keys'
import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'
import { cutAt, type RawReaders } from '../links/raw-reader'
import type { Line, LineMaker } from './lines/line'
import { ListenedSource } from './listened-source'
import type { SourceEvents } from './source-client'

const catalogue: SimulatorCatalogue = { craft: '', variables: pressVariables, events: [] }
const EV_KEY = 1
const EV_ABS = 3

/** Keys and a controller that are none: variables that are pressed while a part is. All is let go when it ends, however it ends. */
export class KeysClient extends ListenedSource {
  readonly line: Line
  readonly catalogue = catalogue
  protected readonly refuses = { set: 'there is no such key', event: 'keys are pressed, and have no events' }
  /** What each stands at, as the system was told. */
  private readonly at = new Map<number, number>()
  private heard = ''

  constructor(
    connection: string,
    /** Whether somebody at the other end really presses, and says when it can. */
    private readonly isReal: boolean,
    make: LineMaker,
    events: SourceEvents,
  ) {
    super(connection, events)
    this.values.resize(pressables.length)
    this.line = make({
      opened: () => {
        if (!this.isReal) this.isThere()
        else this.problem = 'its helper is being started'
      },
      received: (bytes) => this.receive(bytes),
      closed: ({ problem, cure }) =>
        // Why it cannot press was said before the helper ended, and is the better reason.
        this.lost(this.cure === null || this.up ? problem : (this.problem ?? problem), this.cure ?? cure),
    })
  }

  readonly rawReaders = (): RawReaders => {
    const decoder = new TextDecoder()
    const words = (piece: Uint8Array) => {
      const raw = decoder.decode(piece).trim()
      const [type, code, value] = raw.split(' ').map(Number)
      const p = pressables.find((x) => x.code === code && (x.is === 'axis') === (type === EV_ABS))
      return {
        raw,
        words: p ? `${p.words}: ${p.is === 'axis' ? value : value === 1 ? 'pressed' : 'let go'}` : raw,
        sound: true,
      }
    }
    return { in: cutAt(10, words), out: cutAt(10, words) }
  }

  override close(why: string): void {
    this.letGo()
    super.close(why)
  }

  private receive(bytes: Uint8Array): void {
    this.heard += new TextDecoder().decode(bytes)
    const lines = this.heard.split('\n')
    this.heard = (lines.pop() ?? '').slice(-200)
    for (const line of lines)
      if (line === 'ready') this.isThere()
      else if (line.startsWith('no ')) {
        this.problem = `nothing can be pressed: ${line.slice(3)}`
        this.cure =
          'Let this user write /dev/uinput (a rule of the system, or the group input), or choose “only shown” meanwhile.'
      }
  }

  private isThere(): void {
    this.events.described()
    this.arrived()
    this.tell()
  }

  protected override lost(problem: string, cure: string | null = null): void {
    this.at.clear()
    super.lost(problem, cure)
  }

  private letGo(): void {
    for (const index of [...this.at.keys()]) this.press(index, 0)
  }

  private press(index: number, value: number): void {
    const p = pressables[index]
    if (!p || (this.at.get(index) ?? 0) === value) return
    if (value === 0) this.at.delete(index)
    else this.at.set(index, value)
    this.rate.add()
    this.line.send(`${p.is === 'axis' ? EV_ABS : EV_KEY} ${p.code} ${value}\n`)
  }

  /** Tells where everything stands, as far as somebody wants that. */
  private tell(): void {
    for (const [index, p] of pressables.entries()) {
      const at = this.at.get(index) ?? 0
      this.values.note(index, p.is === 'axis' ? at / AXIS_MOST : at)
    }
    this.tellChanges()
  }

  get odd(): readonly string[] {
    return this.isReal ? [] : ['Nothing is really pressed: it is only shown.']
  }

  override set(request: number, variable: number, value: number | string): void {
    const p = pressables[variable]
    const as = p ? pressedAs(p, value) : null
    if (as === null) {
      this.events.answer(
        request,
        p
          ? `${p.words} takes ${p.is === 'axis' ? 'a number from -1 to 1' : '0 or 1'}`
          : 'there is no such key',
      )
      return
    }
    this.press(variable, as)
    this.events.answer(request, null)
    this.tell()
  }

  check(): void {}
}

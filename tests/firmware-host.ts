import type { Nature } from '../src/core/aspects/nature'
import type { Chip as ChipSettings } from '../src/core/harness/chip'
import {
  type Configuration,
  encodeConfiguration,
  fingerprint,
  isDriven,
  pinsOf,
  type Slot,
} from '../src/core/harness/slot'
import { type FromBoard, hostEnd, PIECE_BYTES, type ToBoard } from '../src/links/board-link'
import { ReportReader } from '../src/links/reports'
import type { Soldered, SolderedChip, SolderedThing } from '../src/standins/boards/soldered/soldered'
import { solderedThing } from '../src/standins/boards/soldered/things'
import { type BoardName, type BoardUnderTest, newBoard } from './board-under-test'

/** Somebody at the computer's end of a chip's line, who keeps saying that it is there. */
export class Host<B extends BoardUnderTest = BoardUnderTest> {
  readonly heard: { readonly at: number; readonly m: FromBoard }[] = []
  private link = hostEnd()
  private known = new ReportReader()
  private silent = false
  private spoil: (bytes: Uint8Array) => Uint8Array = (b) => b

  constructor(readonly chip: B) {
    void chip.open({
      received: (bytes) => {
        for (const { message } of this.link.decode(bytes)) this.take(message)
      },
      closed: () => {},
    })
    chip.clock.every(250, () => {
      const { next, digest } = this.known
      if (!this.silent) this.say({ say: 'heartbeat', next: next ?? 0, digest })
    })
  }

  private take(m: FromBoard): void {
    this.heard.push({ at: this.chip.now, m })
    if (m.say === 'all inputs') this.known.takeAll(m.number, m.inputs)
    else if (m.say === 'inputs') this.known.take(m.number, m.inputs)
    else if (m.say === 'hello') this.known = new ReportReader()
  }

  say(m: ToBoard): number {
    const { bytes, sequence } = this.link.encode(m)
    this.chip.receive(this.spoil(bytes))
    return sequence
  }

  quiet(on: boolean): void {
    this.silent = on
  }

  /** Runs until there is such a message, for so long at most. */
  until<S extends FromBoard['say']>(
    say: S,
    ms = 600,
    fits: (m: Extract<FromBoard, { say: S }>) => boolean = () => true,
    from = this.heard.length,
  ): Extract<FromBoard, { say: S }> | null {
    const isIt = (m: FromBoard): m is Extract<FromBoard, { say: S }> => m.say === say
    for (const end = this.chip.now + ms; this.chip.now < end; this.chip.run(1))
      for (const { m } of this.heard.slice(from)) if (isIt(m) && fits(m)) return m
    return null
  }

  ask<S extends FromBoard['say']>(m: ToBoard, say: S, ms?: number): Extract<FromBoard, { say: S }> | null {
    const from = this.heard.length
    this.say(m)
    return this.until(say, ms, () => true, from)
  }

  step(m: ToBoard): string | null {
    const answer = this.ask(m, 'answer')
    return answer ? (answer.problem ?? '') : null
  }

  /** Loads a configuration; what came of its last step. */
  load(bytes: Uint8Array): string | null {
    const print = fingerprint(bytes)
    let said = this.step({ say: 'load begin', length: bytes.length, fingerprint: print })
    for (let offset = 0; offset < bytes.length && said === ''; offset += PIECE_BYTES)
      said = this.step({ say: 'load piece', offset, bytes: bytes.slice(offset, offset + PIECE_BYTES) })
    return said === '' ? this.step({ say: 'load commit', fingerprint: print }) : said
  }

  begin(): void {
    this.ask({ say: 'start' }, 'all inputs')
  }

  reports(slot: number): number[] {
    return this.heard.flatMap(({ m }) =>
      m.say === 'inputs' ? m.inputs.filter((i) => i.slot === slot).map((i) => i.value) : [],
    )
  }
}

/** What each display and motor shows that `loaded` has soldered on. */
const things = new WeakMap<Slot, SolderedThing>()
export const shows = (slot: Slot): number | string | undefined => things.get(slot)?.shows()
/** Makes what hangs there otherwise than its maker says. */
export const beLike = (slot: Slot, nature: Nature): void => things.get(slot)?.beLike?.(nature)

/** A chip that holds this and was asked to begin, with these chips soldered to its pins, and what its slots drive. */
export const loaded = (
  holds: Configuration,
  soldered: readonly (readonly [ChipSettings, Soldered])[] = [],
  name: BoardName = 'atmega328p',
): Host => {
  const chip = newBoard(name)
  for (const [settings, there] of soldered)
    chip.solder(settings.pins, there, settings.kind === 'tlc5940' ? settings.pins.slice(4) : [])
  for (const slot of holds.slots) {
    const thing = isDriven(slot) ? solderedThing(slot, (i) => soldered[i]?.[1] as SolderedChip) : null
    if (!thing || !isDriven(slot)) continue
    things.set(slot, thing)
    const [first = 0] = pinsOf(slot)
    if (first >= 256) continue
    if (slot.kind === 'colour' || (slot.kind === 'needle' && slot.drive !== 'four-wire'))
      chip.solderWave(first, thing)
    else chip.solder(pinsOf(slot), thing)
  }
  const host = new Host(chip)
  chip.run(300)
  const problem = host.load(encodeConfiguration(holds))
  if (problem !== '') throw new Error(problem ?? 'the load was not answered')
  host.begin()
  return host
}

/** A little of everything, on the pins of a board itself. */
export const everyday: Configuration = {
  chips: [],
  slots: [
    { kind: 'contacts', pins: [2, 3], debounceMs: 8 },
    { kind: 'encoder', pins: [4, 7] },
    { kind: 'analog', pin: 14, smoothing: 2 },
    { kind: 'lamp', pin: 8, sinks: false, rest: 0 },
    { kind: 'lamp', pin: 9, sinks: false, rest: 255 },
    { kind: 'lamp', pin: 12, sinks: true, rest: 'keep' },
  ],
}

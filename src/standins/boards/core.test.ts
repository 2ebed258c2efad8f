import { describe, expect, it } from 'vitest'
import { encodeConfiguration, fingerprint, type Slot } from '../../core/harness/slot'
import { type FromBoard, hostEnd, PIECE_BYTES, type ToBoard } from '../../links/board-link'
import { randomFrom } from '../craft/world'
import { Core } from './core'
import { Hands } from './hands'
import { Pins } from './pins'

const lamps = (first: number): Slot[] =>
  Array.from({ length: 20 }, (_, i) => ({
    ...{ kind: 'lamp' as const, pin: first + i, sinks: false, rest: 7 as const },
  }))
const old = encodeConfiguration({ chips: [], slots: lamps(20) })
const next = encodeConfiguration({ chips: [], slots: [...lamps(45), ...lamps(2)] })

/** The program alone, with what it keeps in the hands of a test, who may cut its power at any byte. */
class Bench {
  readonly heard: FromBoard[] = []
  private readonly link = hostEnd()
  readonly core: Core
  /** So many bytes more are written. */
  left = Number.POSITIVE_INFINITY
  cutAt: number | null = null

  constructor(kept: Uint8Array | null) {
    this.core = new Core(new Pins(new Hands(Math.random, [], [])), {
      ...{ identity: '00112233445566aa', model: 'ATmega2560 board', kept, noise: () => 0 },
      keeps: (at) => {
        if (this.left-- > 0) return
        this.cutAt = at
        throw new Error('power is gone')
      },
    })
  }

  begin(): this {
    this.hear(this.core.begin(0))
    return this
  }

  private hear(bytes: Uint8Array): void {
    for (const { message } of this.link.decode(bytes)) this.heard.push(message)
  }

  say(m: ToBoard): this {
    this.hear(this.core.receive(this.link.encode(m).bytes, 0))
    this.hear(this.core.step(0))
    return this
  }

  load(bytes: Uint8Array): this {
    const print = fingerprint(bytes)
    this.say({ say: 'load begin', length: bytes.length, fingerprint: print })
    for (let offset = 0; offset < bytes.length; offset += PIECE_BYTES)
      this.say({ say: 'load piece', offset, bytes: bytes.slice(offset, offset + PIECE_BYTES) })
    return this.say({ say: 'load commit', fingerprint: print })
  }

  get hello(): Extract<FromBoard, { say: 'hello' }> | undefined {
    return this.heard.filter((m) => m.say === 'hello').at(-1)
  }
}

describe('power that goes', () => {
  it('at any byte of a load leaves the old configuration or the new one, never a part, and who the board is', () => {
    const before = new Bench(null).begin().load(old).core.kept
    const random = randomFrom(5)
    const seen = new Map<string, number>()
    let writes = 0
    for (let at = 0; ; at++) {
      const bench = new Bench(before)
      bench.begin()
      bench.left = at
      try {
        bench.load(next)
      } catch {
        // A byte that was being written may be anything.
        const kept = bench.core.kept
        kept[bench.cutAt as number] = Math.floor(random() * 256)
        const hello = new Bench(kept).begin().hello
        expect(hello?.identity).toBe('00112233445566aa')
        expect([fingerprint(old), fingerprint(next)]).toContain(hello?.fingerprint)
        seen.set(hello?.fingerprint ?? '', (seen.get(hello?.fingerprint ?? '') ?? 0) + 1)
        continue
      }
      writes = at
      break
    }
    expect(writes).toBeGreaterThan(80)
    // The bytes that make it count come last.
    expect(seen.get(fingerprint(old))).toBeGreaterThan(writes - 8)
    expect(seen.get(fingerprint(next)) ?? 0).toBeGreaterThan(0)
  })

  it('as it starts for the first time makes it anybody, and from then on itself', () => {
    for (let at = 0; at < 12; at++) {
      const bench = new Bench(null)
      bench.left = at
      expect(() => bench.begin()).toThrow()
      const again = new Bench(bench.core.kept).begin()
      expect(again.hello?.identity).toBe('00112233445566aa')
    }
  })
})

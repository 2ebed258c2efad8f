import type { Millis } from '../units-of-measure'

/** A code is good for so long, and for so many wrong tries; whoever looks on has to be quick, and whoever guesses has no chance. */
export const CODE_MS: Millis = 5 * 60_000
const MOST_WRONG = 5
/** Wrong tries of everybody together, in a while. */
const MOST_TRIES = 20
const TRIES_MS: Millis = 60_000

/** A device that may show screens. Kept is what its mark is known by, not the mark itself. */
export interface PairedDevice {
  readonly id: string
  readonly name: string
  /** The digest of the mark that it carries. */
  readonly digest: string
  readonly pairedAt: number
  /** Whether fingers on it work what its screens show. */
  readonly touch: boolean
}

/** What the builder is shown of devices in the house. */
export interface DevicesState {
  /** Whether Clavik was started so that the house reaches it. */
  readonly open: boolean
  readonly addresses: readonly string[]
  readonly offered: { readonly code: string; readonly secondsLeft: number } | null
  readonly devices: readonly {
    readonly id: string
    readonly name: string
    readonly pairedAt: number
    readonly touch: boolean
    readonly shows: readonly string[]
  }[]
}

export interface Offered {
  readonly code: string
  readonly until: Millis
}

/** Letters and signs of a device's own name for itself, shortened to what a list can show. */
export const deviceName = (agent: string): string => {
  // An Android says that it is a Linux first.
  const system =
    /iPad|iPhone|Android|Windows|CrOS/.exec(agent)?.[0] ?? /Mac OS X|Linux/.exec(agent)?.[0] ?? 'Device'
  const browser = /(Firefox|Edg|Chrome|Safari)\/(\d+)/.exec(agent)
  const word = browser ? ` · ${browser[1] === 'Edg' ? 'Edge' : browser[1]} ${browser[2]}` : ''
  return `${system.replace('Mac OS X', 'Mac').replace('CrOS', 'Chromebook')}${word}`
}

/**
 * Who may be paired, and when: only while the builder offers a code, each code once, and no more wrong tries than a slip of the
 * finger explains.
 */
export class Pairing {
  private offered: (Offered & { wrong: number }) | null = null
  private tries: Millis[] = []

  /** `digit` gives a number from 0 to 9 that nobody can foresee. */
  constructor(private readonly digit: () => number) {}

  /** Offers a code from now on, in place of any other. */
  offer(now: Millis): Offered {
    const code = Array.from({ length: 6 }, () => String(this.digit())).join('')
    this.offered = { code, until: now + CODE_MS, wrong: 0 }
    return this.offered
  }

  withdraw(): void {
    this.offered = null
  }

  /** The code that is good now, or null. */
  now(now: Millis): Offered | null {
    if (this.offered && now >= this.offered.until) this.offered = null
    return this.offered
  }

  /** Why a code is not taken, in words, or null: then it is used up. */
  objection(said: string, now: Millis): string | null {
    this.tries = this.tries.filter((at) => now - at < TRIES_MS)
    const offered = this.now(now)
    if (!offered || !this.offered) return 'no code is offered just now: ask for one on Bench'
    if (this.tries.length >= MOST_TRIES) return 'there were too many tries: wait a minute'
    if (said.replace(/\D/g, '') === offered.code) {
      this.offered = null
      return null
    }
    this.tries.push(now)
    if (++this.offered.wrong >= MOST_WRONG) {
      this.offered = null
      return 'that was wrong once too often: ask for another code on Bench'
    }
    return 'that is another code than the one on Bench'
  }
}

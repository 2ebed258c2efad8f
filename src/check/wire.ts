/** A way to the other end that is checked: bytes both ways, and no more. */
export interface CheckWire {
  readonly send: (data: Uint8Array | string) => void
  readonly close: () => void
}

export interface WireEvents {
  readonly received: (bytes: Uint8Array) => void
  readonly closed: () => void
}

/** Opens the way anew; what is wrong with it is thrown, in words. */
export type OpenWire = (events: WireEvents) => Promise<CheckWire>

/** The time by which a check goes: that of the wall, or of a chip that is emulated. */
export interface Clock {
  /** Milliseconds. */
  readonly now: () => number
  readonly sleep: (ms: number) => Promise<void>
  /** Does something again and again; call the result to end it. */
  readonly every: (ms: number, work: () => void) => () => void
}

export const wallClock: Clock = {
  now: () => performance.now(),
  sleep: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
  every: (ms, work) => {
    const timer = setInterval(work, ms)
    return () => clearInterval(timer)
  },
}

export const pause = (ms: number, clock = wallClock): Promise<void> => clock.sleep(ms)

/** Looks every few milliseconds whether there is something, for so long. */
export const within = async <T>(
  ms: number,
  look: () => T | null | undefined | false,
  clock = wallClock,
): Promise<T | null> => {
  for (const end = clock.now() + ms; ; await clock.sleep(5)) {
    const found = look()
    if (found) return found
    if (clock.now() > end) return null
  }
}

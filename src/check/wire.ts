/** A way to the other end that is checked: bytes both ways, and no more. */
export interface Wire {
  readonly send: (data: Uint8Array | string) => void
  readonly close: () => void
}

export interface WireEvents {
  readonly received: (bytes: Uint8Array) => void
  readonly closed: () => void
}

/** Opens the way anew; what is wrong with it is thrown, in words. */
export type OpenWire = (events: WireEvents) => Promise<Wire>

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** Looks every few milliseconds whether there is something, for so long. */
export const within = async <T>(ms: number, look: () => T | null | undefined | false): Promise<T | null> => {
  for (const end = Date.now() + ms; ; await pause(5)) {
    const found = look()
    if (found) return found
    if (Date.now() > end) return null
  }
}

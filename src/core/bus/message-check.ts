import type { BusMessage } from './database'

/** How a message is made sure of: what is worked out over its other bytes. */
export const messageChecks = ['xor', 'sum', 'crc-8'] as const
export type MessageCheck = (typeof messageChecks)[number]

/** CRC-8/SAE-J1850: polynomial 0x1D, start 0xFF, end 0xFF. */
export const crc8 = (bytes: Iterable<number>): number => {
  let crc = 0xff
  for (const byte of bytes) {
    crc ^= byte
    for (let i = 0; i < 8; i++) crc = crc & 0x80 ? ((crc << 1) ^ 0x1d) & 0xff : (crc << 1) & 0xff
  }
  return crc ^ 0xff
}

/** The check over all bytes of a message but the one that holds it. */
export const checkOver = (data: Uint8Array, at: number, how: MessageCheck): number => {
  const others = [...data].filter((_, i) => i !== at)
  switch (how) {
    case 'xor':
      return others.reduce((x, b) => x ^ b, 0)
    case 'sum':
      return others.reduce((x, b) => x + b, 0) & 255
    case 'crc-8':
      return crc8(others)
  }
}

/** The signals of a message that look like its counter and its check, by their names: to be proposed, not to be believed. */
export const guessedGuards = (
  m: BusMessage,
): { readonly counter: string | null; readonly check: string | null } => ({
  counter:
    m.signals.find((s) => s.length >= 2 && s.length <= 8 && /count|alive|rolling|sequence/i.test(s.name))
      ?.name ?? null,
  check: m.signals.find((s) => s.length === 8 && /check|crc|chk/i.test(s.name))?.name ?? null,
})

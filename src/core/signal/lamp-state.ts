/** How a lamp shines: level 0 (out) to 255 (full), and how often it blinks, 0 Hz being steady. */
export interface LampState {
  readonly level: number
  readonly blinkHz: number
}

/** Out and fully lit, packed. */
export const OUT = 0
export const LIT = 255

/** Blink rates outside this range are brought into it: slower reads as broken, faster as steady. */
const BLINK_HZ = { least: 0.2, most: 10 } as const

/** Blink travels as a period in units of 20 ms in one byte. */
export const blinkPeriod = (blinkHz: number): number =>
  blinkHz <= 0 ? 0 : Math.round(50 / Math.min(BLINK_HZ.most, Math.max(BLINK_HZ.least, blinkHz)))

/**
 * A lamp's state as one number: `level + 256 × blink period (20 ms)`. Expressions compute with it, outputs are
 * compared by it, and it is what the board is sent.
 */
export const packLamp = (brightness: number, blinkHz: number): number => {
  const level = Math.round(Math.min(1, Math.max(0, brightness)) * 255)
  return level === 0 ? 0 : level + 256 * blinkPeriod(blinkHz)
}

export const unpackLamp = (packed: number): LampState => {
  const period = packed >>> 8
  return { level: packed & 255, blinkHz: period === 0 ? 0 : 50 / period }
}

/** The state in words, as the strip and the lists say it. */
export const lampWords = (packed: number): string => {
  const { level, blinkHz } = unpackLamp(packed)
  if (level === 0) return 'out'
  const strength = level === 255 ? '' : ` ${Math.round((level / 255) * 100)} %`
  return blinkHz === 0 ? `lit${strength}` : `blink ${Number(blinkHz.toFixed(1))} Hz${strength}`
}

import { z } from 'zod'

const code = z.int().min(0).max(0x2ff)
const word = z.int().min(0).max(0xffff)
const whole = z.int().min(-2_147_483_648).max(2_147_483_647)
const text = z.string().max(200)

/**
 * What a game controller says of itself when its line opens, as the system's event devices tell it: who it is, which keys
 * and axes it has (numbers of linux/input-event-codes.h), how far each axis goes, where everything stands.
 */
export const capabilities = z
  .object({
    controller: z.literal(1),
    name: text,
    vendor: word,
    product: word,
    /** What it calls this very one, where its maker gave it a number; and the port that it is plugged into. */
    serial: text,
    port: text,
    keys: z.array(code).max(400),
    down: z.array(code).max(400),
    axes: z
      .array(
        z.object({
          code: z.int().min(0).max(0x3f),
          value: whole,
          least: whole,
          most: whole,
        }),
      )
      .max(64),
  })
  .readonly()

export type Capabilities = z.infer<typeof capabilities>
export type Axis = Capabilities['axes'][number]

/** What can be worked on a controller, as a board has pins. */
export interface ControllerInput {
  /** As it is called on drawings. */
  readonly name: string
  /** Its number as a pin: the same for the same controller, wherever it is plugged in. */
  readonly pin: number
  readonly is: 'button' | 'axis' | 'hat side'
  readonly code: number
  /** Of a side of a hat: the sign of its axis there. */
  readonly sign?: 1 | -1
}

const FIRST_STICK_KEY = 0x120
const FIRST_PAD_KEY = 0x100
const FIRST_HAT = 0x10
const LAST_HAT = 0x17
/** Buttons from 0, axes from here on by their codes, then four sides of each hat. */
export const AXES_FROM = 128
export const HATS_FROM = 192
export const MOST_BUTTONS = 128

/** Names of axes as the trade has them, by their code. */
const axisNames: Readonly<Record<number, string>> = {
  0: 'X',
  1: 'Y',
  2: 'Z',
  3: 'RX',
  4: 'RY',
  5: 'RZ',
  6: 'throttle',
  7: 'rudder',
  8: 'wheel',
  9: 'gas',
  10: 'brake',
}

const isHat = (axis: number): boolean => axis >= FIRST_HAT && axis <= LAST_HAT

/** Keys in the order in which buttons are counted: those of sticks first, then those of pads, then what is left. */
const inOrder = (keys: readonly number[]): number[] => {
  const group = (key: number) => (key >= FIRST_STICK_KEY ? 0 : key >= FIRST_PAD_KEY ? 1 : 2)
  return [...new Set(keys)].sort((a, b) => group(a) - group(b) || a - b)
}

const sides = ['up', 'right', 'down', 'left'] as const

/** Everything that can be worked on a controller: its buttons, its axes, the sides of its hats. */
export const inputsOf = ({ keys, axes }: Pick<Capabilities, 'keys' | 'axes'>): ControllerInput[] => {
  const buttons = inOrder(keys)
    .slice(0, MOST_BUTTONS)
    .map((key, i): ControllerInput => ({ name: `B${i + 1}`, pin: i, is: 'button', code: key }))
  const codes = [...new Set(axes.map((a) => a.code))].sort((a, b) => a - b)
  const levers = codes
    .filter((axis) => !isHat(axis))
    .map(
      (axis): ControllerInput => ({
        name: axisNames[axis] ?? `axis ${axis + 1}`,
        pin: AXES_FROM + axis,
        is: 'axis',
        code: axis,
      }),
    )
  const hats = [...new Set(codes.filter(isHat).map((axis) => (axis - FIRST_HAT) >> 1))]
  const hatSides = hats.flatMap((hat) =>
    sides.map((side, i): ControllerInput => {
      const along = i % 2 === 0 ? 1 : 0
      return {
        name: `hat ${hat + 1} ${side}`,
        pin: HATS_FROM + hat * 4 + i,
        is: 'hat side',
        code: FIRST_HAT + hat * 2 + along,
        sign: i === 1 || i === 2 ? 1 : -1,
      }
    }),
  )
  return [...buttons, ...levers, ...hatSides]
}

/** What an axis gives as a share of its way, 0 to 1; some go a little beyond what they say of themselves. */
export const shareOf = ({ least, most }: Pick<Axis, 'least' | 'most'>, value: number): number =>
  most <= least ? 0 : Math.min(1, Math.max(0, (value - least) / (most - least)))

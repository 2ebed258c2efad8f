import type { VariableInfo } from '../rig/simulator-catalogue'

/** One thing that can be pressed or moved: its name, its words, and the type and code by which Linux knows it (input-event-codes.h). */
export interface Pressable {
  readonly name: string
  readonly words: string
  readonly group: string
  readonly is: 'key' | 'button' | 'axis'
  readonly code: number
}

const rows: readonly (readonly [first: number, names: string])[] = [
  [1, 'escape 1 2 3 4 5 6 7 8 9 0 minus equal backspace tab'],
  [16, 'q w e r t y u i o p bracket.left bracket.right enter control.left'],
  [30, 'a s d f g h j k l semicolon apostrophe grave shift.left backslash'],
  [44, 'z x c v b n m comma point slash shift.right pad.times alt.left space'],
  [59, 'f1 f2 f3 f4 f5 f6 f7 f8 f9 f10'],
  [71, 'pad.7 pad.8 pad.9 pad.minus pad.4 pad.5 pad.6 pad.plus pad.1 pad.2 pad.3 pad.0 pad.point'],
  [87, 'f11 f12'],
  [96, 'pad.enter control.right pad.slash'],
  [100, 'alt.right'],
  [102, 'home up page.up left right end down page.down insert delete'],
]

const keys: readonly Pressable[] = rows.flatMap(([first, names]) =>
  names.split(' ').map(
    (name, i): Pressable => ({
      name: `key.${name}`,
      words: `Key ${name.replaceAll('.', ' ')}`,
      group: 'Keys',
      is: 'key',
      code: first + i,
    }),
  ),
)

/** Buttons and axes of a controller as joysticks have them: BTN_TRIGGER on, then those of any number. */
const BUTTON_FIRST = 0x120
const BUTTON_MORE = 0x2c0
const BUTTONS = 32
const buttons: readonly Pressable[] = Array.from({ length: BUTTONS }, (_, i) => ({
  ...{
    name: `button.${i + 1}`,
    words: `Button ${i + 1} of the virtual controller`,
    group: 'Virtual controller',
  },
  ...{ is: 'button' as const, code: i < 16 ? BUTTON_FIRST + i : BUTTON_MORE + i - 16 },
}))

const axes: readonly Pressable[] = (['x', 'y', 'z', 'rx', 'ry', 'rz', 'throttle', 'rudder'] as const).map(
  (name, i) => ({
    ...{
      name: `axis.${name}`,
      words: `Axis ${name} of the virtual controller, -1 to 1`,
      group: 'Virtual controller',
    },
    ...{ is: 'axis' as const, code: i },
  }),
)

/** Everything that can be pressed or moved for programs without a link, in the order of its variables. */
export const pressables: readonly Pressable[] = [...keys, ...buttons, ...axes]

/** As variables that a part sets: 1 while it is pressed. */
export const pressVariables: readonly VariableInfo[] = pressables.map((p) => ({
  name: p.name,
  type: p.is === 'axis' ? 'number' : 'boolean',
  unit: null,
  writable: true,
  range: p.is === 'axis' ? [-1, 1] : [0, 1],
  description: p.words,
  group: p.group,
}))

/** How far an axis goes to either side, as it is told to the system. */
export const AXIS_MOST = 32_767

/** A value as the system is told it: 0 or 1 for what is pressed, whole numbers for an axis; null for what is none. */
export const pressedAs = (p: Pressable, value: unknown): number | null => {
  const number = typeof value === 'boolean' ? Number(value) : value
  if (typeof number !== 'number' || !Number.isFinite(number)) return null
  return p.is === 'axis' ? Math.round(Math.max(-1, Math.min(1, number)) * AXIS_MOST) : number !== 0 ? 1 : 0
}

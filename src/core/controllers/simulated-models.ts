import type { Axis, Capabilities } from './capabilities'

/** One thing on a simulated controller that a hand moves; buttons are counted from 0, as pins are. */
export type SimulatedControl = { readonly name: string } & (
  | { readonly is: 'button'; readonly button: number }
  /** One contact is closed in each position; `none` is a position in which none is. */
  | { readonly is: 'switch'; readonly buttons: readonly (number | null)[]; readonly words: readonly string[] }
  /** `detents` hold the lever where it comes near, as shares of its way; below the first of them a contact may be closed. */
  | {
      readonly is: 'lever'
      readonly axis: number
      readonly detents: readonly number[]
      readonly below?: { readonly detent: number; readonly button: number }
      readonly springs?: true
    }
  | { readonly is: 'hat' }
)

export interface SimulatedModel {
  readonly name: string
  readonly product: number
  readonly buttons: number
  readonly axes: readonly number[]
  readonly most: number
  readonly hat: boolean
  readonly controls: readonly SimulatedControl[]
}

const push = (button: number, name: string): SimulatedControl => ({ is: 'button', button, name })
const twoWay = (from: number, name: string): SimulatedControl => ({
  is: 'switch',
  name,
  buttons: [from, from + 1],
  words: ['down', 'up'],
})

const yoke: SimulatedModel = {
  name: 'Simulated yoke',
  product: 1,
  buttons: 8,
  axes: [0, 1],
  most: 65_535,
  hat: true,
  controls: [
    { is: 'lever', name: 'Roll', axis: 0, detents: [], springs: true },
    { is: 'lever', name: 'Pitch', axis: 1, detents: [], springs: true },
    { is: 'hat', name: 'Hat' },
    push(0, 'Left thumb'),
    push(1, 'Right thumb'),
    push(2, 'Left trigger'),
    push(3, 'Right trigger'),
    { is: 'switch', name: 'Left rocker', buttons: [4, null, 5], words: ['down', 'middle', 'up'] },
    { is: 'switch', name: 'Right rocker', buttons: [6, null, 7], words: ['down', 'middle', 'up'] },
  ],
}

const quadrant: SimulatedModel = {
  name: 'Simulated throttle quadrant',
  product: 2,
  buttons: 6,
  axes: [0, 1, 2, 5],
  most: 65_535,
  hat: false,
  controls: [
    { is: 'lever', name: 'Power left', axis: 0, detents: [0.22], below: { detent: 0.2, button: 0 } },
    { is: 'lever', name: 'Power right', axis: 1, detents: [0.22], below: { detent: 0.2, button: 1 } },
    { is: 'lever', name: 'Propeller left', axis: 2, detents: [0.08] },
    { is: 'lever', name: 'Propeller right', axis: 5, detents: [0.08] },
    twoWay(2, 'Pitch trim lock'),
    twoWay(4, 'Go-around guard'),
  ],
}

const switchBox: SimulatedModel = {
  name: 'Simulated switch box',
  product: 3,
  buttons: 16,
  axes: [],
  most: 0,
  hat: false,
  controls: [
    twoWay(0, 'Toggle 1'),
    twoWay(2, 'Toggle 2'),
    { is: 'switch', name: 'Toggle 3', buttons: [4, null, 5], words: ['down', 'middle', 'up'] },
    {
      is: 'switch',
      name: 'Selector',
      buttons: [6, 7, 8, 9, 10],
      words: ['1', '2', '3', '4', '5'],
    },
    push(11, 'Key 1'),
    push(12, 'Key 2'),
    push(13, 'Key 3'),
    push(14, 'Key 4'),
    push(15, 'Key 5'),
  ],
}

/** Controllers that there are without any being plugged in, by what they are called. */
export const simulatedModels = { yoke, 'throttle quadrant': quadrant, 'switch box': switchBox } as const
export type SimulatedModelName = keyof typeof simulatedModels
export const simulatedModelNames = Object.keys(simulatedModels) as [
  SimulatedModelName,
  ...SimulatedModelName[],
]

/** BTN_JOYSTICK: sticks count their keys from here. */
export const FIRST_KEY = 0x120
export const HAT_X = 0x10
export const HAT_Y = 0x11

/** No maker has this number. */
const VENDOR = 0xf055

/** What a simulated controller says of itself; `down` are closed buttons, `at` where its axes stand, as shares. */
export const simulatedCapabilities = (
  of: SimulatedModelName,
  serial: string,
  down: readonly number[] = [],
  at: ReadonlyMap<number, number> = new Map(),
): Capabilities => {
  const model = simulatedModels[of]
  const axes: Axis[] = model.axes.map((code) => ({
    code,
    value: Math.round((at.get(code) ?? 0.5) * model.most),
    least: 0,
    most: model.most,
  }))
  const hats: Axis[] = model.hat
    ? [HAT_X, HAT_Y].map((code) => ({ code, value: at.get(code) ?? 0, least: -1, most: 1 }))
    : []
  return {
    ...{ controller: 1, name: model.name, vendor: VENDOR, product: model.product, serial, port: '' },
    keys: Array.from({ length: model.buttons }, (_, i) => FIRST_KEY + i),
    down: down.map((b) => FIRST_KEY + b),
    axes: [...axes, ...hats],
  }
}

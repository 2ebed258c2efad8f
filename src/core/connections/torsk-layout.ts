import type { DatagramField, DatagramLayout } from '../datagrams/layout'
import { sessions } from './seat'

type Rest = Omit<DatagramField, 'name' | 'at' | 'as'>

const f = (
  at: number,
  as: DatagramField['as'],
  name: string,
  description: string,
  rest: Rest = {},
): DatagramField => ({
  name,
  at,
  as,
  description,
  ...rest,
})
const share = { unit: 'ratio', range: [0, 1] as [number, number] }
const tenths = { unit: '°C', scale: 0.1 }
const count = f(4, 'u32', 'datagrams', 'Datagrams of this kind so far')
const flag = (bit: number, name: string, description: string): DatagramField =>
  f(25, 'u8', name, description, { bits: { from: bit, width: 1 }, choices: ['no', 'yes'] })

const kind = (is: number) => ({ at: 0, as: 'u8' as const, is })

/** What the Torsk R4 tells: byte 0 says which packet it is, bytes 4 to 7 count it. */
export const torskLayout: DatagramLayout = {
  craft: 'Torsk R4',
  order: 'little',
  packets: [
    {
      ...{ name: 'Motion', bytes: 128, tell: kind(1), grows: 'datagrams' },
      fields: [
        count,
        f(8, 'f32', 'time', 'Time since the truck was started', { unit: 's' }),
        f(12, 'f32', 'speed', 'Speed over the ground', { unit: 'm/s', range: [-20, 90] }),
        f(16, 'f32', 'engine.speed', 'Speed of the engine', { unit: 'rpm', range: [0, 9500] }),
        f(20, 'f32', 'engine.limit', 'Where its limiter cuts in', { unit: 'rpm', range: [0, 12_000] }),
        f(24, 'i8', 'gear', 'Gear: -1 reverse, 0 neutral', { range: [-1, 6] }),
        flag(0, 'handbrake.on', 'Handbrake pulled'),
        flag(1, 'lights.on', 'Headlights'),
        flag(2, 'limiter.on', 'The limiter cuts in'),
        flag(3, 'wheelspin', 'A driven wheel spins'),
        f(26, 'u16', 'steering', 'Steering wheel, -1 left to 1 right', {
          ...{ scale: 1 / 32_767.5, add: -1, range: [-1, 1] },
        }),
        f(28, 'f32', 'throttle', 'Throttle pedal', share),
        f(32, 'f32', 'brake', 'Brake pedal', share),
        f(36, 'f32', 'clutch', 'Clutch pedal, 1 when it is down', share),
        f(40, 'f32', 'handbrake', 'Handbrake lever', share),
        f(44, 'f32', 'acceleration', 'Sideways, ahead, up', { count: 3, unit: 'm/s²' }),
        f(56, 'f32', 'wheel.speed', 'At the tread: front left, front right, rear left, rear right', {
          ...{ count: 4, unit: 'm/s' },
        }),
        f(72, 'f32', 'wheel.slip', 'Share by which a wheel is quicker than the ground', {
          count: 4,
          unit: 'ratio',
        }),
        f(88, 'f32', 'suspension', 'Travel of each damper', { count: 4, unit: 'm' }),
        f(104, 'f32', 'boost', 'Pressure of the turbocharger', { unit: 'bar', range: [-1, 3] }),
        f(108, 'f32', 'fuel.flow', 'Fuel to the engine', { unit: 'l/h', range: [0, 200] }),
        f(112, 'f32', 'heading', 'Where it points, from north', { unit: 'rad', range: [0, 6.2832] }),
        f(116, 'f32', 'gradient', 'How steep the road is', { unit: 'ratio' }),
        f(120, 'f32', 'altitude', 'Height above the sea', { unit: 'm' }),
        f(124, 'f32', 'stage.position', 'Way along the course', { unit: 'm' }),
      ],
    },
    {
      ...{ name: 'Session', bytes: 96, tell: kind(2), grows: 'session.datagrams' },
      fields: [
        { ...count, name: 'session.datagrams' },
        f(8, 'u8', 'session', 'What is driven', { choices: [...sessions] }),
        f(9, 'u8', 'run', 'Number of this run'),
        f(10, 'u8', 'runs', 'Runs there are; 0 where there is no number of them'),
        f(11, 'u8', 'split', 'Splits passed'),
        f(12, 'u32', 'stage.clock', 'Time of this run', { unit: 's', scale: 0.001 }),
        f(16, 'u32', 'stage.best', 'Best time so far; 0 before there is one', { unit: 's', scale: 0.001 }),
        f(20, 'i32', 'stage.difference', 'Against the best at the last split', { unit: 's', scale: 0.001 }),
        f(24, 'f32', 'stage.length', 'Length of the course', { unit: 'm' }),
        f(28, 'u16', 'penalties', 'Seconds added for cut corners', { unit: 's' }),
        f(32, 'text', 'course', 'What is driven up', { count: 32 }),
        f(64, 'text', 'craft', 'What is driven', { count: 24 }),
        f(88, 'u8', 'air.temperature', 'Of the air', { unit: '°C', add: -40 }),
        f(89, 'u8', 'surface', 'What the road is made of', { choices: ['asphalt', 'gravel', 'wet gravel'] }),
      ],
    },
    {
      ...{ name: 'Heat', bytes: 48, tell: kind(3), grows: 'heat.datagrams' },
      fields: [
        { ...count, name: 'heat.datagrams' },
        f(8, 'i16', 'water.temperature', 'Of the cooling water', { ...tenths, range: [-40, 150] }),
        f(10, 'i16', 'oil.temperature', 'Of the engine oil', { ...tenths, range: [-40, 180] }),
        f(12, 'u16', 'oil.pressure', 'Of the engine oil', { unit: 'kPa', range: [0, 1000] }),
        f(14, 'u16', 'battery', 'On-board supply', { unit: 'V', scale: 0.001, range: [0, 20] }),
        f(16, 'i16', 'tyre.temperature', 'Front left, front right, rear left, rear right', {
          ...tenths,
          count: 4,
        }),
        f(24, 'u16', 'tyre.pressure', 'Front left, front right, rear left, rear right', {
          ...{ unit: 'kPa', scale: 0.1, count: 4 },
        }),
        f(32, 'i16', 'brake.temperature', 'Of each disc', { ...tenths, count: 4 }),
        f(40, 'f32', 'fuel', 'In the tank', { unit: 'l', range: [0, 80] }),
      ],
    },
  ],
}

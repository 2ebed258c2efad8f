import type { BusDatabase, BusSignal } from '../bus/database'

const s = (name: string, start: number, length: number, more: Partial<BusSignal> = {}): BusSignal => ({
  ...{ name, start, length, order: 'little', as: 'unsigned', scale: 1, add: 0, range: null, unit: '' },
  ...more,
})
const guards = [s('RollingCount', 52, 4), s('Checksum', 56, 8)]
const flag = (bit: number, name: string, description: string): BusSignal =>
  s(name, bit, 1, {
    description,
    choices: [
      [0, 'off'],
      [1, 'on'],
    ],
  })

/** What the stand-in instrument cluster takes and tells. */
export const clusterDatabase: BusDatabase = {
  name: 'the cluster that comes with Clavik',
  messages: [
    {
      ...{
        name: 'Engine',
        id: 0x280,
        extended: false,
        bytes: 8,
        everyMs: 20,
        description: 'For the engine’s needle',
      },
      signals: [
        s('EngineSpeed', 16, 16, { scale: 0.25, unit: 'rpm', range: [0, 10_000] }),
        s('WaterTemp', 32, 8, { add: -40, unit: '°C', range: [-40, 215] }),
        ...guards,
      ],
    },
    {
      ...{
        name: 'Road',
        id: 0x290,
        extended: false,
        bytes: 8,
        everyMs: 50,
        description: 'For the speed’s needle',
      },
      signals: [
        s('RoadSpeed', 7, 16, { order: 'big', scale: 0.01, unit: 'km/h', range: [0, 400] }),
        s('Gear', 16, 4, { as: 'signed', range: [-1, 6] }),
        ...guards,
      ],
    },
    {
      ...{
        name: 'Lamps',
        id: 0x2a0,
        extended: false,
        bytes: 2,
        everyMs: 100,
        description: 'What shines in it',
      },
      signals: [
        flag(0, 'HighBeam', 'Headlights'),
        flag(1, 'Handbrake', 'Handbrake pulled'),
        flag(2, 'OilLamp', 'Oil pressure is low'),
        s('Light', 8, 8, { unit: '%', range: [0, 100], description: 'Light of its dials' }),
      ],
    },
    {
      ...{ name: 'Cluster', id: 0x5a0, extended: false, bytes: 8, everyMs: 100, sender: 'Cluster' },
      description: 'What the cluster tells of itself',
      signals: [
        s('ShownEngine', 0, 16, { scale: 0.25, unit: 'rpm', description: 'Where the engine’s needle is' }),
        s('ShownRoad', 16, 16, { scale: 0.01, unit: 'km/h', description: 'Where the speed’s needle is' }),
        flag(32, 'Awake', 'It hears the engine'),
        s('Refused', 40, 8, {
          description: 'Messages with a wrong count or check so far, from 0 again after 255',
        }),
        flag(48, 'StalkButton', 'The button at the end of its stalk'),
      ],
    },
  ],
}

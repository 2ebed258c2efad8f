import { fourScrews, type Mount, round } from '../mount'
import type { NeedleAspect, PartKind, Terminal } from '../part-kind'

/** Travel and speed of common four-wire gauge motors, 1/3 degree a step; their stop lies at 0 degrees. */
const motor = (id: string, prefix: string): NeedleAspect => ({
  kind: 'needle',
  id,
  drive: 'four-wire',
  terminals: [1, 2, 3, 4].map((n) => `${prefix}${n}`),
  travelDeg: 315,
  degPerS: 200,
})

const coils = (prefix: string, words: string): Terminal[] =>
  [1, 2, 3, 4].map((n) => ({ id: `${prefix}${n}`, name: `${words}coil ${n}`, role: 'drive' }))

/** The dial lies on the plate; behind it the motor hangs on its own small board. */
const behindDial = (dialMm: number, shaftMm: number, depthMm: number): Mount => ({
  cutouts: [round(shaftMm)],
  screws: fourScrews(dialMm * 0.5, dialMm * 0.5, 2.2),
  body: { widthMm: dialMm * 0.8, heightMm: dialMm * 0.8, depthMm },
  standoffMm: 0,
  reach: { widthMm: dialMm + 4, heightMm: dialMm + 4 },
})

const gauge = (dialMm: number): PartKind => ({
  id: `gauge-${dialMm}`,
  name: `Gauge, ${dialMm} mm, four-wire motor`,
  family: 'gauge',
  draws: { typicalMa: 30, mostMa: 40 },
  mount: behindDial(dialMm, 5, 14),
  front: { look: 'gauge', dialMm },
  frontMm: { width: dialMm + 4, height: dialMm + 4 },
  terminals: coils('coil-', ''),
  aspects: [motor('needle', 'coil-')],
})

/** A motor without a stop: a sensor on its shaft sees it where its zero is, once in each turn. */
const turningGauge = (dialMm: number): PartKind => ({
  id: `gauge-turns-${dialMm}`,
  name: `Gauge, ${dialMm} mm, motor of many turns with a zero sensor`,
  family: 'gauge',
  draws: { typicalMa: 40, mostMa: 50 },
  mount: behindDial(dialMm, 5, 20),
  front: { look: 'gauge', dialMm },
  frontMm: { width: dialMm + 4, height: dialMm + 4 },
  terminals: [
    ...coils('coil-', ''),
    { id: 'sensor', name: 'zero sensor', role: 'contact' },
    { id: 'ground', name: 'ground', role: 'ground' },
  ],
  aspects: [
    { ...motor('needle', 'coil-'), travelDeg: 3600, sensor: 'sensor' },
    {
      kind: 'positions',
      id: 'home',
      positions: [
        { id: 'away', closes: [] },
        { id: 'home', closes: ['sensor'] },
      ],
      momentary: false,
      debounceMs: 5,
      senses: 'needle',
    },
  ],
})

/** Two needles on one axis, each on a motor of its own. */
const twinGauge = (dialMm: number): PartKind => ({
  id: `gauge-twin-${dialMm}`,
  name: `Gauge, ${dialMm} mm, two needles`,
  family: 'gauge',
  draws: { typicalMa: 60, mostMa: 80 },
  mount: behindDial(dialMm, 7, 22),
  front: { look: 'gauge', dialMm },
  frontMm: { width: dialMm + 4, height: dialMm + 4 },
  terminals: [...coils('long-', 'long needle, '), ...coils('short-', 'short needle, ')],
  aspects: [motor('long', 'long-'), motor('short', 'short-')],
})

const servoGauge = (
  dialMm: number,
  { id, words, travelDeg }: { id: string; words: string; travelDeg: number },
): PartKind => ({
  id: `gauge-${id}-${dialMm}`,
  name: `Gauge, ${dialMm} mm, ${words}`,
  family: 'gauge',
  draws: { typicalMa: 120, mostMa: 700 },
  // What makers of small servos give.
  volts: { least: 4.8, most: 6 },
  mount: behindDial(dialMm, 8, 28),
  front: { look: 'gauge', dialMm },
  frontMm: { width: dialMm + 4, height: dialMm + 4 },
  terminals: [
    { id: 'ground', name: 'ground', role: 'ground' },
    { id: 'plus', name: 'supply', role: 'plus' },
    { id: 'pulse', name: 'pulse', role: 'drive' },
  ],
  aspects: [{ kind: 'needle', id: 'needle', drive: 'servo', terminals: ['pulse'], travelDeg, degPerS: 400 }],
})

/** An instrument that counts pulses, as revolution counters do: the board gives it a frequency. */
const pulseGauge = (dialMm: number): PartKind => ({
  id: `gauge-pulses-${dialMm}`,
  name: `Gauge, ${dialMm} mm, driven by pulses`,
  family: 'gauge',
  varies: 'how many pulses a second take it through its whole travel; 400 are meant here',
  draws: { typicalMa: 60, mostMa: 90 },
  volts: { least: 4.5, most: 15 },
  mount: behindDial(dialMm, 8, 40),
  front: { look: 'gauge', dialMm },
  frontMm: { width: dialMm + 4, height: dialMm + 4 },
  terminals: [
    { id: 'ground', name: 'ground', role: 'ground' },
    { id: 'plus', name: 'supply', role: 'plus' },
    { id: 'pulses', name: 'pulses', role: 'drive', needs: 'frequency' },
  ],
  aspects: [
    { kind: 'needle', id: 'needle', drive: 'frequency', terminals: ['pulses'], travelDeg: 270, degPerS: 400 },
  ],
})

/** A moving coil: the width of a board's pulses is a voltage to it, and its own weight evens them out. */
const voltageGauge = (dialMm: number): PartKind => ({
  id: `gauge-voltage-${dialMm}`,
  name: `Gauge, ${dialMm} mm, moving coil, 5 V`,
  family: 'gauge',
  varies: 'how far it turns at 5 V; 90 degrees are meant here, with the resistor that it needs inside',
  mount: behindDial(dialMm, 8, 32),
  front: { look: 'gauge', dialMm },
  frontMm: { width: dialMm + 4, height: dialMm + 4 },
  terminals: [
    { id: 'voltage', name: 'voltage', role: 'drive', needs: 'pwm' },
    { id: 'ground', name: 'ground', role: 'ground' },
  ],
  aspects: [
    { kind: 'needle', id: 'needle', drive: 'voltage', terminals: ['voltage'], travelDeg: 90, degPerS: 300 },
  ],
})

export const gauges: PartKind[] = [
  gauge(36),
  gauge(50),
  twinGauge(50),
  turningGauge(50),
  servoGauge(36, { id: 'servo', words: 'servo', travelDeg: 180 }),
  servoGauge(52, { id: 'servo-turns', words: 'servo of three turns', travelDeg: 1080 }),
  pulseGauge(52),
  voltageGauge(45),
]

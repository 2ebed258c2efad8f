import { readdirSync, readFileSync } from 'node:fs'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { encodeConfiguration, isDriven, type Slot } from '../src/core/harness/slot'
import { apply } from '../src/core/rig/edit'
import { boardsOf, emptyRig } from '../src/core/rig/rig'
import { readRigFile } from '../src/core/rig/rig-file'
import { hc165 } from '../src/standins/boards/soldered/hc165'
import { tlc5940 } from '../src/standins/boards/soldered/tlc5940'
import { randomFrom } from '../src/standins/craft/world'
import { App, pause } from '../tests/app'
import { Chip } from '../tests/chip'
import { Host } from '../tests/firmware-host'
import { bridged } from './connections'
import { timeMany } from './contact-to-lamp'
import { median, print, quantile, slownessNow } from './measure'

/** The board of the demo with the most on it: 40 contacts on 74HC165 and 62 lamps on TLC5940 under one ATmega328P. */
const fullest = () => {
  const read = readRigFile(readFileSync('demo/skerry-12.rig.json', 'utf8'))
  if (!('diff' in read)) throw new Error('the demo cannot be read')
  const rig = apply(emptyRig(), read.diff)
  const board = boardsOf(rig).reduce((a, b) =>
    wantedConfiguration(rig, b.id).slots.length > wantedConfiguration(rig, a.id).slots.length ? b : a,
  )
  return wantedConfiguration(rig, board.id)
}

/** What the chip itself takes, on its own time: the same on every machine. Limits are those of a builder's patience. */
const benchChip = (): { toReport: number[]; toLamp: number[] } => {
  const holds = fullest()
  const [contacts, lamps] = holds.chips
  if (contacts?.kind !== '74hc165' || lamps?.kind !== 'tlc5940') throw new Error('the demo has other chips')
  const chip = new Chip('atmega328p')
  const nothing = { isClosed: () => false, level: () => 0 }
  const lit = tlc5940(lamps, nothing)
  chip.solder(contacts.pins, hc165(contacts, nothing))
  chip.solder(lamps.pins, lit, lamps.pins.slice(4))
  let scans = 0
  chip.solder([contacts.pins[2] as number], { driven: (_, high) => void (high && scans++) })
  let latchedAt = 0
  chip.solder([lamps.pins[2] as number], {
    driven: (_, high) => {
      if (high) latchedAt = chip.now
    },
  })
  const host = new Host(chip)
  chip.run(300)
  // One contact on a pin of its own, without debouncing: what is left is the program and the line.
  const pin = 8
  const slots: Slot[] = [{ kind: 'contacts', pins: [pin], debounceMs: 0 }, ...holds.slots]
  const problem = host.load(encodeConfiguration({ chips: holds.chips, slots }))
  if (problem !== '') throw new Error(problem ?? 'no answer')
  host.begin()
  chip.run(100)

  const times: number[] = []
  const random = randomFrom(29)
  for (let i = 0; i < 200; i++) {
    chip.run(3 + (i % 7) * 4)
    // Anywhere within a turn.
    chip.runCycles(Math.floor(random() * 16_000))
    const from = host.heard.length
    const before = chip.now
    chip.contact(pin, i % 2 === 0)
    const report = () => host.heard.slice(from).find(({ m }) => m.say === 'inputs')
    while (!report() && chip.now < before + 50) chip.run(0.5)
    times.push((report()?.at ?? Number.NaN) - before)
  }
  print({ name: 'contact to report, chip time, p50', value: median(times), unit: 'ms' })
  // A heartbeat that is on the line just then takes 2.2 ms of it: those are beyond.
  print({
    name: 'contact to report, chip time, p90, against 2 ms',
    value: quantile(times, 0.9),
    unit: 'ms',
    ratio: quantile(times, 0.9) / 2,
    limit: 1,
  })
  print({ name: 'contact to report, chip time, the longest', value: Math.max(...times), unit: 'ms' })

  scans = 0
  chip.run(1000)
  print({
    name: 'turns a second with 40 contacts on 74HC165 and 62 lamps on TLC5940, 1,000 against them',
    value: scans,
    unit: '1/s',
    ratio: 1000 / scans,
    limit: 1,
  })
  print({ name: 'memory that the stack never reached', value: chip.spare, unit: 'bytes' })

  // All lamps in as few frames as the board takes; from the last byte on the line to the last lamp.
  const numbers = slots.flatMap((s, i) => (isDriven(s) ? [i] : []))
  const after: number[] = []
  for (let round = 1; round <= 8; round++) {
    const state = 40 + 20 * round
    for (let at = 0; at < numbers.length; at += 20)
      host.say({
        say: 'outputs',
        outputs: numbers.slice(at, at + 20).map((slot) => ({ slot, state })),
      })
    const bytes = numbers.length * 4 + Math.ceil(numbers.length / 20) * 8
    const before = chip.now
    const all = () => (lit.lights?.() ?? []).filter((l) => l === state).length >= numbers.length - 2
    while (!all() && chip.now < before + 200) chip.run(0.1)
    after.push(chip.now - before - bytes / 11.52)
  }
  print({
    name: `${numbers.length} lamps changed at once, from the last byte on the line to the last lamp, against 20 ms`,
    value: median(after),
    unit: 'ms',
    ratio: median(after) / 20,
    limit: 1,
  })

  const toLamp: number[] = []
  for (let i = 0; i < 100; i++) {
    chip.run(3 + (i % 7) * 4)
    const before = chip.now
    host.say({ say: 'outputs', outputs: [{ slot: numbers.at(-1) as number, state: 1 + i }] })
    while ((lit.lights?.() ?? []).every((l) => l !== 1 + i) && chip.now < before + 50) chip.run(0.5)
    toLamp.push(latchedAt - before)
  }
  return { toReport: times, toLamp }
}

/** From a contact on the chip over a pseudo-terminal through the hub to a lamp on the chip: what each of the three takes. */
const benchWhole = async ({ toReport, toLamp }: ReturnType<typeof benchChip>): Promise<void> => {
  const way = await bridged('serial')
  await timeMany(way, 300, 0)
  const hub = await timeMany(way, 1000, 1)
  await way.close()
  print({ name: 'of it the hub and the pseudo-terminal, p50', value: median(hub), unit: 'ms' })
  print({ name: 'of it the hub and the pseudo-terminal, p99', value: quantile(hub, 0.99), unit: 'ms' })
  const whole = hub.map(
    (ms, i) => ms + (toReport[i % toReport.length] as number) + (toLamp[(i * 7) % toLamp.length] as number),
  )
  print({
    name: 'contact to lamp, chip time and hub over a pseudo-terminal, p99, against 25 ms',
    value: quantile(whole, 0.99),
    unit: 'ms',
    ratio: quantile(whole, 0.99) / 25,
    limit: 1,
  })
}

const IDLE_S = 20
const MOST_OF_A_CORE = 0.05
const TICKS_A_S = 100

const ticksOf = (pid: string): number => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? []
  return Number(fields[11]) + Number(fields[12])
}

/** The process of all stand-ins, with the demo's craft flying and its boards idle. */
const benchStandins = async (): Promise<void> => {
  const app = await App.make()
  await app.start()
  const pid = readdirSync('/proc').find((p) => {
    if (!/^\d+$/.test(p)) return false
    try {
      const environment = readFileSync(`/proc/${p}/environ`, 'utf8')
      return environment.includes('CLAVIK_STANDINS=') && environment.includes(app.dataDir)
    } catch {
      return false
    }
  })
  await pause(15_000)
  const before = ticksOf(pid ?? '')
  await pause(IDLE_S * 1000)
  const share = (ticksOf(pid ?? '') - before) / TICKS_A_S / IDLE_S
  await app.remove()
  print({
    name: 'stand-ins of the demo, nobody at them, share of a core, against 5% of a quiet one',
    value: share * 100,
    unit: '%',
    ratio: share / MOST_OF_A_CORE / (await slownessNow()),
    limit: 1,
  })
}

/** The boards' program on the emulated chip, and what the simulated boards that run it cost. */
export const benchFirmware = async (): Promise<void> => {
  await benchWhole(benchChip())
  await benchStandins()
}

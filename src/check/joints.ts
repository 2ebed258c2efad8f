import { type Configuration, encodeConfiguration, type Slot } from '../core/harness/slot'
import type { Findings } from './findings'
import { ANSWER_MS, SILENCE_MS, type Talk } from './talk'

/** A wire, with a resistor of a kiloohm in it, from a pin that drives to a pin that watches, by the board's own numbers. */
export interface Joint {
  readonly out: number
  readonly watch: number
}

/** Reads `8:2`, pins of a joint. */
export const jointOf = (words: string): Joint | null => {
  const read = /^(\d{1,3}):(\d{1,3})$/.exec(words)
  return read && read[1] !== read[2] ? { out: Number(read[1]), watch: Number(read[2]) } : null
}

const LIT = 255
const STEPS = 200
/** A quarter of a click takes so long: quick for a hand, slow for a board. */
const STEP_MS = 6
/** Both contacts open, then one after the other closed, as a knob turns. */
const QUARTERS = [
  [LIT, LIT],
  [0, LIT],
  [0, 0],
  [LIT, 0],
] as const

/** Where a slot of contacts stands, as it was told last. */
const standing = (talk: Talk, slot: number): number | null => {
  for (const { m } of [...talk.heard].reverse())
    if (m.say === 'inputs' || m.say === 'all inputs') {
      const input = m.inputs.find((i) => i.slot === slot)
      if (input) return input.value
    }
  return null
}

/** Loads this, and begins with it. */
const begin = async (talk: Talk, configuration: Configuration): Promise<string | null> => {
  const said = await talk.load(encodeConfiguration(configuration))
  if (said !== '') return said ?? 'the load was not answered'
  return (await talk.ask({ say: 'start' }, 'all inputs', ANSWER_MS)) ? null : 'a start was not answered'
}

/** Whether a slot comes to stand there in time. A driven pin is high while its lamp is lit, and a contact is closed while it is low. */
const stands = async (talk: Talk, slot: number, closed: boolean, ms: number): Promise<boolean> => {
  for (const end = talk.clock.now() + ms; talk.clock.now() < end; await talk.pause(5))
    if (standing(talk, slot) === (closed ? 1 : 0)) return true
  return false
}

const lampOn = (pin: number, rest: 0 | 255): Slot => ({ kind: 'lamp', pin, sinks: false, rest })

const follows = async (talk: Talk, joints: readonly Joint[], findings: Findings): Promise<void> => {
  const count = joints.length
  const problem = await begin(talk, {
    chips: [],
    slots: [
      ...joints.map(({ out }, i) => lampOn(out, i % 2 === 0 ? LIT : 0)),
      ...joints.map(({ watch }): Slot => ({ kind: 'contacts', pins: [watch], debounceMs: 5 })),
    ],
  })
  if (problem !== null) {
    findings.add('wrong', 'a configuration for the joints is taken', problem)
    return
  }
  for (const [i, { out, watch }] of joints.entries()) {
    let wrong: string | null = null
    for (let round = 0; round < 6 && wrong === null; round++) {
      const lit = round % 2 === 0
      talk.say({ say: 'outputs', outputs: [{ slot: i, state: lit ? LIT : 0 }] })
      if (!(await stands(talk, count + i, !lit, 300)))
        wrong = `pin ${watch} did not ${lit ? 'open' : 'close'} when pin ${out} went ${lit ? 'high' : 'low'}`
    }
    findings.judge(`pin ${out} drives, and pin ${watch} watches`, wrong)
  }
  talk.say({ say: 'outputs', outputs: joints.map((_, slot) => ({ slot, state: slot % 2 === 0 ? 0 : LIT })) })
  await talk.pause(100)
  talk.silent = true
  let rested = true
  for (const i of joints.keys())
    rested = (await stands(talk, count + i, i % 2 === 1, SILENCE_MS + 1000)) && rested
  talk.silent = false
  findings.judge('its pins go to their rest when it hears nothing', rested ? null : 'a joint did not follow')
}

const turns = async (talk: Talk, [a, b]: readonly [Joint, Joint], findings: Findings): Promise<void> => {
  const problem = await begin(talk, {
    chips: [],
    slots: [lampOn(a.out, LIT), lampOn(b.out, LIT), { kind: 'encoder', pins: [a.watch, b.watch] }],
  })
  const what = `an encoder on pins ${a.watch} and ${b.watch} loses no step`
  if (problem !== null) {
    findings.add('wrong', what, problem)
    return
  }
  const to = async (quarter: number) => {
    const [first, second] = QUARTERS[quarter & 3] as readonly [number, number]
    const outputs = [first, second].map((state, slot) => ({ slot, state }))
    talk.say({ say: 'outputs', outputs })
    await talk.pause(STEP_MS)
  }
  await to(0)
  await talk.pause(100)
  const before = standing(talk, 2) ?? 0
  for (let i = 1; i <= STEPS; i++) await to(i)
  await talk.pause(100)
  const counted = ((standing(talk, 2) ?? 0) - before) & 0xffff
  const steps = Math.min(counted, 0x10000 - counted)
  findings.judge(what, steps === STEPS ? null : `${steps} of ${STEPS} were counted`)
}

/** Tries pins that are joined by wires; what the board held is loaded again afterwards. */
export const checkJoints = async (
  talk: Talk,
  joints: readonly Joint[],
  held: Uint8Array | null,
  findings: Findings,
): Promise<void> => {
  await follows(talk, joints, findings)
  const [a, b] = joints
  if (a && b) await turns(talk, [a, b], findings)
  else findings.add('not tried', 'an encoder', 'it takes two joints')
  const again = await talk.load(held ?? encodeConfiguration({ chips: [], slots: [] }))
  findings.judge('what it held is loaded again', again === '' ? null : (again ?? 'the load was not answered'))
}

import { type Configuration, type DrivenSlot, isDriven } from '../core/harness/slot'
import { StateDigest } from '../links/state-digest'
import type { Findings } from './findings'
import type { Talk } from './talk'

/** So long what is shown stays, for somebody who looks. */
const LOOK_MS = 1000

type Shown = Exclude<DrivenSlot, { kind: 'lamp' }>

interface Sample {
  readonly row: number
  readonly state: number | string
}

const kindWords: Readonly<Record<Shown['kind'], string>> = {
  ...{ digits: 'digits', text: 'texts', colour: 'strips', needle: 'needles' },
}

/** What each kind is told, and what is to be seen then. */
const samples: {
  readonly [K in Shown['kind']]: (slot: Extract<Shown, { kind: K }>) => readonly [Sample[], seen: string]
} = {
  // The first character is the brightness.
  digits: ({ digits }) => [
    [{ row: 0, state: `f${'12345678'.slice(0, digits)}` }],
    `its digits count from 1 to ${digits}`,
  ],
  text: ({ columns, rows }) => [
    Array.from({ length: rows }, (_, row) => ({
      row,
      state: `Row ${row + 1} of ${rows}`.padEnd(columns).slice(0, columns),
    })),
    'each row says which it is',
  ],
  // The first character is how it blinks; then red, green and blue of each lamp.
  colour: ({ lamps }) => [
    [
      {
        row: 0,
        state: `\0${Array.from({ length: lamps }, (_, i) => ['\x40\0\0', '\0\x40\0', '\0\0\x40'][i % 3]).join('')}`,
      },
    ],
    'red, green, blue, and again',
  ],
  needle: ({ travelDeg }) => [[{ row: 0, state: Math.round(travelDeg * 5) }], 'the middle of its travel'],
}

/** Tells every display, strip and needle that a board holds something to show, and compares the digests; the rest is for the eye. */
export const showAll = async (
  talk: Talk,
  { slots }: Configuration,
  frameBytes: number,
  findings: Findings,
): Promise<void> => {
  for (const kind of Object.keys(samples) as Shown['kind'][]) {
    const found = slots.flatMap((s, i) => (isDriven(s) && s.kind === kind ? [[i, s] as const] : []))
    if (found.length === 0) continue
    talk.say({ say: 'start' })
    await talk.pause(100)
    const digest = new StateDigest()
    const seen = new Set<string>()
    for (const [slot, settings] of found) {
      const [told, words] = (samples[kind] as (s: DrivenSlot) => readonly [Sample[], string])(settings)
      seen.add(words)
      for (const { row, state } of told) {
        if (typeof state === 'number') talk.say({ say: 'outputs', outputs: [{ slot, state }] })
        else if (state.length + 8 <= frameBytes) talk.say({ say: 'show', slot, row, text: state })
        else continue
        digest.put(slot, row, state)
        // No faster than the line of a board takes them.
        await talk.pause(30)
      }
    }
    const beat = await talk.heartbeat(1500, (b) => b.digest === digest.value)
    findings.judge(
      `what ${kindWords[kind]} show is confirmed`,
      beat ? null : 'the digest in its heartbeat is not that of what it was told',
      `look: ${[...seen].join('; ')}`,
    )
    await talk.pause(LOOK_MS)
  }
}

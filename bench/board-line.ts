import { Engine } from '../src/core/engine/engine'
import type { Effect } from '../src/core/engine/input'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { plainLead } from '../src/core/harness/leads'
import type { BindingSettings } from '../src/core/rig/binding'
import { addRow, apply, type Diff } from '../src/core/rig/edit'
import { emptyRig, type Rig } from '../src/core/rig/rig'
import type { LeadRow, PartRow } from '../src/core/rig/rows'
import { hostEnd } from '../src/links/board-link'
import { randomFrom } from '../src/standins/craft/world'
import { craft } from '../tests/rigs'
import { manyVariables } from './big-rig'
import { print } from './measure'

/** A serial line of 115,200 baud, 8N1. */
const BYTES_PER_MS = 11.52
const FRAME_MS = 1000 / 60
const MINUTES = 10
const LAMPS = 30
const NEEDLES = 6

const nothing = { onlyWhile: null, rest: 'out' as const }
const dial = {
  aspects: {
    needle: {
      kind: 'needle' as const,
      points: [
        { value: 0, deg: -120 },
        { value: 1, deg: 120 },
      ],
    },
  },
}

/** A board full of what changes all the time: lamps, needles, and a text display of four lines. */
const fullBoard = (): Rig => {
  const diff: Diff[number][] = [
    addRow('rig', { id: 'bench', name: 'Bench', format: 1 }),
    addRow('panel', {
      ...{ id: 'panel', name: 'Panel', position: 1, widthMm: 500, heightMm: 500 },
      ...{ cornerMm: 2, thicknessMm: 3, settings: { holes: [] } },
    }),
    addRow('board', {
      id: 'board',
      name: 'Board',
      model: 'atmega2560',
      identity: '00'.repeat(8),
      position: 1,
      supplyId: null,
      own: null,
    }),
  ]
  let number = 0
  let pin = 21
  const put = (
    id: string,
    kind: string,
    ends: readonly [string, string][],
    settings: BindingSettings,
    own: PartRow['settings'] = {},
  ) => {
    diff.push(
      addRow('part', { id, panelId: 'panel', name: id, kind, xMm: 1, yMm: 1, rotationDeg: 0, settings: own }),
    )
    for (const [terminal, name] of ends) {
      number++
      const lead: LeadRow = {
        ...plainLead,
        ...{
          id: `lead-${number}`,
          partId: id,
          terminal,
          number,
          colour: 'white',
          boardId: 'board',
          pin: name,
        },
      }
      diff.push(addRow('lead', lead))
    }
    diff.push(addRow('binding', { id: `${id}-1`, partId: id, position: 1, on: true, settings }))
  }
  const variable = () => `v.n${number % 200}`
  put(
    'page',
    'text-20x4',
    [
      ['data', 'D20'],
      ['clock', 'D21'],
    ],
    {
      ...nothing,
      kind: 'text',
      variable: null,
      lines: [0, 1, 2, 3].map((i) => ({ show: `join("LINE ", fixed(v.n${i + 190}, 4, 9))` })),
    },
  )
  for (let i = 0; i < NEEDLES; i++) {
    const ends = [1, 2, 3, 4].map((k): [string, string] => [`coil-${k}`, `D${++pin}`])
    put(
      `needle-${i}`,
      'gauge-36',
      ends,
      { ...nothing, kind: 'needle', variable: variable(), show: 'input' },
      dial,
    )
  }
  const free = [
    ...Array.from({ length: 18 }, (_, i) => `D${i + 2}`),
    ...Array.from({ length: 12 }, (_, i) => `A${i}`),
  ]
  for (let i = 0; i < LAMPS; i++)
    put(`lamp-${i}`, 'lamp-5-green', [['plus', free[i] as string]], {
      ...nothing,
      kind: 'lamp',
      variable: variable(),
      show: 'input',
    })
  return apply(emptyRig(), diff)
}

/** Everything on one board changes with every frame: how long a byte waits on the line, and what is told of each kind. */
export const benchBoardLine = (): void => {
  const rig = fullBoard()
  const engine = new Engine()
  const link = hostEnd()
  const random = randomFrom(8)
  const told = { lamp: 0, needle: 0, text: 0 }
  const loaded = wantedConfiguration(rig, 'board')
  const { slots } = loaded
  let backlog = 0
  let longest = 0
  let sent = 0
  let wake = Number.POSITIVE_INFINITY
  const carryOut = (effects: readonly Effect[]) => {
    for (const e of effects) {
      if (e.is === 'wake') wake = e.at
      if (e.is !== 'output') continue
      const states = e.outputs.flatMap((o) =>
        typeof o.state === 'number' ? [{ slot: o.slot, state: o.state }] : [],
      )
      let bytes = states.length > 0 ? link.encode({ say: 'outputs', outputs: states }).bytes.length : 0
      for (const o of e.outputs) {
        const kind = slots[o.slot]?.kind
        if (kind === 'lamp' || kind === 'needle' || kind === 'text') told[kind]++
        if (typeof o.state === 'string')
          bytes += link.encode({ say: 'show', slot: o.slot, row: o.row, text: o.state }).bytes.length
      }
      backlog += bytes
      sent += bytes
      longest = Math.max(longest, backlog / BYTES_PER_MS)
    }
  }
  let now = 0
  const step = (input: Parameters<Engine['step']>[0]) => carryOut(engine.step(input, now))
  step({ is: 'sources', sources: [craft(manyVariables(200))] })
  step({ is: 'rig', rig, diff: null })
  step({ is: 'board', boardId: 'board', up: true, loaded, boot: 1, bytesPerS: 0 })
  step({ is: 'source', source: 'craft', up: true })
  step({ is: 'arm', armed: true })
  const indexes = Array.from({ length: 200 }, (_, i) => i)
  let frameAt = 0
  for (; now < MINUTES * 60_000; now++) {
    backlog = Math.max(0, backlog - BYTES_PER_MS)
    if (now >= frameAt) {
      frameAt += FRAME_MS
      step({ is: 'frame', source: 'craft', indexes, values: indexes.map(random) })
    }
    if (now >= wake) {
      wake = Number.POSITIVE_INFINITY
      step({ is: 'time' })
    }
  }
  print({
    name: `board link at 115,200 baud, ${LAMPS} lamps, ${NEEDLES} needles and 4 lines of text changing at 60 Hz: longest wait on the line, against one frame`,
    value: longest,
    unit: 'ms',
    ratio: longest / FRAME_MS,
    limit: 1,
  })
  const seconds = MINUTES * 60
  print({
    name: 'the same: share of the line used',
    value: sent / (BYTES_PER_MS * seconds * 1000),
    unit: 'ratio',
  })
  for (const [kind, count] of Object.entries(told))
    print({ name: `the same: states of ${kind}s told`, value: count / seconds, unit: '1/s' })
}

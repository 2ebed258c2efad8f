import { readFileSync } from 'node:fs'
import loadHighs from 'highs'
import { boardModels } from '../src/core/catalogue/boards'
import { assign } from '../src/core/harness/assignment/assign'
import { boardSites } from '../src/core/harness/assignment/board-sites'
import {
  ability,
  type Instance,
  type Need,
  type NeedBlock,
  objections,
  price,
  type Site,
  siteCost,
} from '../src/core/harness/assignment/instance'
import { proposeWithExpanders } from '../src/core/harness/assignment/propose-expander'
import { harnessFindings } from '../src/core/harness/findings/findings'
import { addRow, apply, changeRow } from '../src/core/rig/edit'
import { emptyRig, type Rig, rowsOf } from '../src/core/rig/rig'
import { readRigFile } from '../src/core/rig/rig-file'
import { randomFrom } from '../src/standins/craft/world'
import { inTurn, print, quietMs } from './measure'

interface Kind {
  readonly seed: number
  readonly boards: number
  readonly leads: number
  /** Boards that nothing hangs on yet. */
  readonly unused: readonly number[]
}

const LARGE: readonly Kind[] = [
  { seed: 1, boards: 12, leads: 600, unused: [] },
  { seed: 2, boards: 12, leads: 600, unused: [] },
]
/** Whether a board is worth opening is what an exact solver finds hard; so these are small. */
const OPENING: readonly Kind[] = [
  { seed: 12, boards: 4, leads: 108, unused: [1, 3] },
  { seed: 16, boards: 5, leads: 150, unused: [0, 1] },
]

/** Parts as a cockpit has them: how many wires of which ability, and how often. */
const parts: readonly (readonly [asks: readonly number[], often: number])[] = [
  [[ability.contact], 8],
  [[ability.lamp], 8],
  [[ability.contact, ability.contact], 5],
  [[ability.contact, ability.contact, ability.contact], 3],
  [[ability.contact, ability.contact, ability.contact, ability.contact, ability.contact], 2],
  [[ability.contact, ability.lamp], 3],
  [[ability.coil, ability.coil, ability.coil, ability.coil], 2],
  [[ability.drive, ability.drive, ability.drive], 1],
  [[ability.wiper], 2],
  [[ability.contact, ability.contact, ability.contact, ability.contact, ability.contact, ability.contact], 1],
]

/**
 * A rig that has grown: most parts are wired, some of them badly; the rest is new. Every panel reaches its own board and
 * the one beside it. Some parts hang on ribbons. What would hang on boards that are not used yet is all new.
 */
const grownRig = ({ seed, boards, leads, unused }: Kind): Instance => {
  const random = randomFrom(seed)
  const model = boardModels.find((m) => m.id === 'atmega2560') as (typeof boardModels)[number]
  const sites: Site[] = []
  for (let host = 0; host < boards; host++)
    sites.push(...boardSites(model, host, host * model.headers.length))
  const lottery = parts.flatMap(([asks, often]) => Array.from({ length: often }, () => asks))
  const needs: Need[] = []
  const blocks: NeedBlock[] = []
  const free = sites.map((_, i) => i)
  const takeFree = (able: (s: Site) => boolean): number => {
    const at = free.findIndex((i) => able(sites[i] as Site))
    return at < 0 ? -1 : (free.splice(at, 1)[0] as number)
  }
  const perBoard = leads / boards
  for (let host = 0; host < boards; host++) {
    for (let left = perBoard; left > 0; ) {
      const fitting = lottery.filter((asks) => asks.length <= left)
      const asks = fitting[Math.floor(random() * fitting.length)] as readonly number[]
      left -= asks.length
      const wired = random() < 0.6 && !unused.includes(host)
      const scattered = random() < 0.1
      const hostCost = Array.from({ length: boards }, (_, h) =>
        h === host ? 0 : h === (host + 1) % boards ? 6 : Number.POSITIVE_INFINITY,
      )
      const own = asks.map((abilities) => {
        const present = wired
          ? takeFree(
              (s) =>
                s.host === host && (s.abilities & abilities) === abilities && (!scattered || random() < 0.2),
            )
          : -1
        needs.push({ block: blocks.length, abilities, line: 0, present, locked: false, ofFour: -1 })
        return needs.length - 1
      })
      const ribbon = asks.length > 2 && !wired && random() < 0.3
      blocks.push({ needs: own, ribbons: ribbon ? [[0, asks.length - 1]] : [], hostCost })
    }
  }
  const inUse = Array.from({ length: boards }, (_, h) => !unused.includes(h))
  return { inUse, sites, wholeHeaders: new Set(), needs, blocks }
}

/**
 * The same as an integer program. A block is laid in runs of neighbouring sites; each run, wherever it may lie, is a
 * column. Every wire is in one run, every site in at most one, every block on one board, and that is open; a run more is a
 * gap more.
 */
const asProgram = (instance: Instance): string => {
  const { sites, needs, blocks, inUse } = instance
  const at = new Map(sites.map((s, i) => [`${s.header} ${s.at}`, i]))
  const objective: string[] = []
  const wires = new Map<string, string[]>()
  const taken = new Map<number, string[]>()
  const names: string[] = []
  const add = (map: Map<string | number, string[]>, key: string | number, name: string) => {
    const list = map.get(key)
    if (list) list.push(name)
    else map.set(key, [name])
  }
  for (const [h, isOpen] of inUse.entries()) {
    if (isOpen) continue
    objective.push(`${price.open} y_${h}`)
    names.push(`y_${h}`)
  }
  for (const [b, block] of blocks.entries()) {
    const hosts = inUse.flatMap((_, h) => (Number.isFinite(block.hostCost[h]) ? [h] : []))
    for (const h of hosts) {
      objective.push(`${block.hostCost[h]} z_${b}_${h}`)
      names.push(`z_${b}_${h}`)
    }
    for (let first = 0; first < block.needs.length; first++) {
      for (let last = first; last < block.needs.length; last++) {
        if (block.ribbons.some(([a, z]) => (first > a && first <= z) || (last >= a && last < z))) continue
        const gap = first > 0 ? price.gap : 0
        for (const [s, site] of sites.entries()) {
          if (!hosts.includes(site.host)) continue
          for (const way of first === last ? [1] : [1, -1]) {
            let cost = gap
            const run: number[] = []
            for (let i = first; i <= last; i++) {
              const here = at.get(`${site.header} ${site.at + (i - first) * way}`)
              const need = needs[block.needs[i] as number] as Need
              if (here === undefined) cost = Number.POSITIVE_INFINITY
              else {
                cost += siteCost(sites[here] as Site, need.abilities)
                if (need.present >= 0 && need.present !== here) cost += price.move
                run.push(here)
              }
            }
            if (!Number.isFinite(cost)) continue
            const name = `r_${b}_${first}_${last}_${s}_${way > 0 ? 'u' : 'd'}`
            names.push(name)
            objective.push(`${cost} ${name}`)
            for (let i = first; i <= last; i++) add(wires as never, `${b} ${i} ${site.host}`, name)
            for (const here of run) add(taken as never, here, name)
          }
        }
      }
    }
  }
  const rows: string[] = []
  for (const [b, block] of blocks.entries()) {
    const hosts = inUse.flatMap((_, h) => (Number.isFinite(block.hostCost[h]) ? [h] : []))
    rows.push(`${hosts.map((h) => `z_${b}_${h}`).join(' + ')} = 1`)
    for (const h of hosts) if (!inUse[h]) rows.push(`z_${b}_${h} - y_${h} <= 0`)
    for (const h of hosts)
      for (const [i] of block.needs.entries())
        rows.push(`${(wires.get(`${b} ${i} ${h}`) ?? []).join(' + ')} - z_${b}_${h} = 0`)
  }
  for (const list of taken.values()) if (list.length > 1) rows.push(`${list.join(' + ')} <= 1`)
  return `Minimize\n obj: ${objective.join('\n + ')}\nSubject To\n${rows
    .map((r, i) => ` c${i}: ${r.startsWith(' -') ? `0 z_0_0${r}` : r}`)
    .join('\n')}\nBinary\n ${names.join('\n ')}\nEnd\n`
}

/** Findings of the demo rig after one wire has moved. */
const benchFindings = (): void => {
  const read = readRigFile(readFileSync('demo/skerry-12.rig.json', 'utf8'))
  if ('problem' in read) throw new Error(read.problem)
  let rig = apply(emptyRig(), read.diff)
  const lead = rowsOf(rig, 'lead').find((l) => l.pin === 'D30')
  let turn = 0
  const afterAnEdit = (): void => {
    const now = lead && rig.lead[lead.id]
    if (!now) throw new Error('the demo rig has no wire on D30')
    const change = changeRow('lead', now, { ...now, pin: turn++ % 2 ? 'D30' : 'D53' })
    rig = apply(rig, change ? [change] : [])
    harnessFindings(rig)
  }
  const { ours, ratio } = inTurn(afterAnEdit, () => quietMs(10), 50)
  print({
    name: `findings after an edit, ${rowsOf(rig, 'lead').length} wires, against 10 ms of work`,
    value: ours,
    unit: 'ms',
    ...{ ratio, limit: 1 },
  })
}

/** These rigs by our search and by the exact solver: costs in all, times. */
const compare = async (kinds: readonly Kind[]) => {
  let [ours, exact, exactMs] = [0, 0, 0]
  const times: number[] = []
  /** Against 200 ms of work in the same minute. */
  const shares: number[] = []
  for (const kind of kinds) {
    const instance = grownRig(kind)
    const solution = assign(instance)
    const { ours: took, ratio } = inTurn(
      () => void assign(instance),
      () => quietMs(20),
      7,
    )
    times.push(took)
    shares.push(ratio / 10)
    if (objections(instance, solution.assignment).length > 0) throw new Error('the assignment is not legal')
    const highs = await loadHighs()
    const program = asProgram(instance)
    const began = performance.now()
    const solved = highs.solve(program, { output_flag: false, mip_rel_gap: 0, mip_abs_gap: 0.5 })
    exactMs += performance.now() - began
    ours += solution.cost
    exact += Math.round(solved.ObjectiveValue)
    process.stderr.write(
      `seed ${kind.seed}: ${solution.cost} against ${Math.round(solved.ObjectiveValue)} (${solved.Status})\n`,
    )
  }
  return { ours, exact, exactMs, times, shares }
}

/** A cockpit that is only drawn: parts of all sorts on boards that are too small without chips beside them. */
const drawnRig = (count: number, boards: number): Rig => {
  const text = readFileSync('demo/skerry-12.rig.json', 'utf8')
  const demo = readRigFile(text)
  if ('problem' in demo) throw new Error(demo.problem)
  const rig = apply(emptyRig(), demo.diff)
  const [board] = rowsOf(rig, 'board')
  const [part] = rowsOf(rig, 'part')
  if (!board || !part) throw new Error('the demo has no board or no part')
  const bare = { ...emptyRig(), rig: rig.rig, panel: rig.panel }
  return apply(bare, [
    ...Array.from({ length: boards }, (_, i) =>
      addRow('board', {
        ...board,
        id: `b${i}`,
        name: `Board ${i}`,
        model: 'atmega328p',
        position: i + 1,
        supplyId: null,
        identity: null,
      }),
    ),
    ...Array.from({ length: count }, (_, i) =>
      addRow('part', {
        ...part,
        id: `p${i}`,
        name: `Part ${i}`,
        kind: drawn[i % drawn.length] ?? '',
        settings: {},
      }),
    ),
  ])
}

const drawn = [
  ...['button-10-red', 'lamp-5-green', 'toggle-2', 'encoder', 'lamp-8-green'],
  ...['button-10-grey', 'toggle-3', 'digits-4-max7219', 'gauge-36', 'pot'],
]

/** All wires and the chips that they take, as the sheet asks for it. */
const benchDrawn = (): void => {
  const rig = drawnRig(240, 12)
  let made = 0
  const { ours, ratio } = inTurn(
    () => void proposeWithExpanders(rig, { partIds: null }, () => `new ${++made}`),
    () => {
      for (let i = 0; i < 30; i++) quietMs(100)
    },
    3,
  )
  print({
    ...{
      name: 'assignment: 240 drawn parts on 12 small boards, with chips, against 3 s of work',
      value: ours,
      unit: 'ms',
    },
    ...{ ratio, limit: 1 },
  })
}

export const benchAssignment = async (): Promise<void> => {
  benchFindings()
  benchDrawn()
  const large = await compare(LARGE)
  const oursMs = large.times.reduce((sum, t) => sum + t, 0)
  print({
    ...{ name: 'assignment: cost of 600 wires on 12 boards', value: large.ours, unit: '' },
    ...{ ratio: large.ours / large.exact, limit: 1 },
  })
  print({
    ...{ name: 'assignment: time against the exact solver', value: oursMs / LARGE.length, unit: 'ms' },
    ...{ ratio: oursMs / large.exactMs, limit: 0.05 },
  })
  print({
    ...{ name: 'assignment: time against 200 ms of work', value: Math.max(...large.times), unit: 'ms' },
    ...{ ratio: Math.max(...large.shares), limit: 1 },
  })
  const opening = await compare(OPENING)
  print({
    ...{ name: 'assignment: cost with boards to open', value: opening.ours, unit: '' },
    ...{ ratio: opening.ours / opening.exact, limit: 1 },
  })
}

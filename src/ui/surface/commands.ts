import type { Point } from '@/core/geometry/contour'
import {
  aligned,
  copied,
  distributed,
  type Edge,
  gridPlaces,
  type Move,
  marked,
  mirrored,
  moved,
  removed,
  reordered,
  roundPlaces,
  turned,
} from '@/core/layout/arrange'
import {
  groupOf,
  hangingOn,
  isLocked,
  type Surface,
  type Thing,
  thingsOn,
  touchedPart,
} from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import { edit } from '../live/edits'
import { notify } from '../live/store'
import { fitView, pick, pickedThings, surfaceNow, useSurface, zoom } from './view-store'

/** Something to do to what is picked: from a key, a button or the palette. */
export interface SurfaceCommand {
  readonly words: string
  readonly key: string | null
  readonly run: () => void
  /** Does it again for as long as the key is held. */
  readonly repeats?: boolean
  /** Where it makes sense; on panels and screens where it does not say. */
  readonly of?: Surface['of']
  /** How many things it takes at least. */
  readonly takes: number
}

type Picked = { rig: Rig; on: Surface; things: Thing[] }

export const nameOf = (things: readonly Thing[]): string => {
  const [only] = things
  if (things.length !== 1 || !only) return `${things.length} things`
  if (only.table !== 'legend') return `“${only.row.name}”`
  const { settings } = only.row
  if (settings.kind === 'text') return `the legend “${settings.text}”`
  if (settings.kind === 'frame') return settings.title ? `the frame “${settings.title}”` : 'a frame'
  if (settings.kind === 'drawing') return `the lines “${settings.name}”`
  return settings.kind === 'ring' ? 'the legend round a knob' : 'a line'
}

const onPicked =
  (least: number, work: (p: Picked) => void): (() => void) =>
  () => {
    const picked = pickedThings()
    if (!picked || picked.things.length < least) {
      notify(least > 1 ? `Pick at least ${least} things first.` : 'Pick something first.', 'plain')
      return
    }
    if (picked.things.length > 0 && picked.things.every(isLocked)) {
      notify(`${nameOf(picked.things)} is locked; unlock it first (Ctrl Shift L).`, 'plain')
      return
    }
    work(picked)
  }

const arrange = (words: string, move: (things: readonly Thing[]) => Map<string, Move>, least: number) =>
  onPicked(least, ({ rig, on, things }) => edit(`${words} ${nameOf(things)}`, moved(rig, on, move(things))))

const align = (edge: Edge, words: string): SurfaceCommand => ({
  words: `Align ${words}`,
  key: null,
  takes: 2,
  run: arrange(`Aligned ${words}:`, (things) => aligned(things, edge), 2),
})

const nudge = (key: string, dx: number, dy: number): SurfaceCommand[] =>
  (
    [
      ['', 1],
      ['Shift+', 10],
      ['Alt+', 0.1],
    ] as const
  ).map(([held, by]) => ({
    words: `Move ${dx < 0 ? 'left' : dx > 0 ? 'right' : dy < 0 ? 'up' : 'down'} by ${by} mm, or ${by} dots`,
    key: `${held}${key}`,
    repeats: true,
    takes: 1,
    run: arrange('Moved', (things) => new Map(things.map((t) => [t.key, { dx: dx * by, dy: dy * by }])), 1),
  }))

/** Copies what is picked to the given places and picks the copies. */
const copyTo = (words: string, places: (p: Picked) => readonly ((middle: Point) => Point)[]) =>
  onPicked(1, (p) => {
    const { changes, keys } = copied(p.rig, p.on, p.things, places(p), () => crypto.randomUUID())
    edit(`${words} ${nameOf(p.things)}`, changes)
    pick(new Set(keys))
  })

export const arrayInGrid = (columns: number, rows: number, across: number, down: number) =>
  copyTo(`Made ${columns} × ${rows} of`, () => gridPlaces(columns, rows, across, down))()

export const arrayRound = (count: number, overDeg: number, middle: Point) =>
  copyTo(`Made ${count} in a circle of`, () => roundPlaces(middle, count, overDeg))()

/** Takes away what is picked; asks first when wires or bindings go with it. */
const remove = onPicked(1, ({ rig, on, things }) => {
  const free = things.filter((t) => !isLocked(t))
  const { leads, bindings } = hangingOn(
    rig,
    free.flatMap((t) =>
      t.table === 'part' ? [t.row.id] : t.table === 'element' ? (touchedPart(rig, t.row)?.id ?? []) : [],
    ),
  )
  const act = () => {
    edit(`Removed ${nameOf(free)}`, removed(rig, on, free))
    pick(new Set())
  }
  if (leads + bindings === 0) act()
  else
    useSurface.setState({
      asking: {
        words: `Remove ${nameOf(free)}, with ${leads} ${leads === 1 ? 'lead' : 'leads'} and ${bindings} ${bindings === 1 ? 'binding' : 'bindings'}? It can be undone.`,
        act,
      },
    })
})

const mark =
  (words: string, marks: () => Parameters<typeof marked>[1], least = 1) =>
  () => {
    const picked = pickedThings()
    if (!picked || picked.things.length < least) return
    edit(`${words} ${nameOf(picked.things)}`, marked(picked.things, marks()))
  }

/** The next or previous thing on the surface is picked, for those who work with keys alone. */
const goTo = (by: number) => () => {
  const picked = pickedThings()
  if (!picked) return
  const all = thingsOn(picked.rig, picked.on)
  const at = all.findIndex((t) => t.key === picked.things.at(-1)?.key)
  const next = at < 0 ? all.at(by > 0 ? 0 : -1) : all[(at + by + all.length) % all.length]
  if (next) pick(new Set([next.key]))
}

export const surfaceCommands: readonly SurfaceCommand[] = [
  ...nudge('ArrowLeft', -1, 0),
  ...nudge('ArrowRight', 1, 0),
  ...nudge('ArrowUp', 0, -1),
  ...nudge('ArrowDown', 0, 1),
  align('left', 'left edges'),
  align('centre', 'on one upright line'),
  align('right', 'right edges'),
  align('top', 'upper edges'),
  align('middle', 'on one level line'),
  align('bottom', 'lower edges'),
  {
    words: 'Even out the gaps across',
    key: null,
    takes: 3,
    run: arrange('Evened out the gaps across', (things) => distributed(things, 'x'), 3),
  },
  {
    words: 'Even out the gaps down',
    key: null,
    takes: 3,
    run: arrange('Evened out the gaps down', (things) => distributed(things, 'y'), 3),
  },
  {
    words: 'Duplicate',
    key: 'Ctrl+d',
    takes: 1,
    run: copyTo('Duplicated', ({ things }) => {
      const width = Math.max(...things.map((t) => t.box.maxX)) - Math.min(...things.map((t) => t.box.minX))
      const by = Math.ceil(width + 4)
      return [(p) => ({ x: p.x + by, y: p.y })]
    }),
  },
  {
    words: 'Turn by 90°',
    key: 'r',
    takes: 1,
    run: onPicked(1, ({ things }) => edit(`Turned ${nameOf(things)} by 90°`, turned(things, 90))),
  },
  {
    words: 'Mirror left to right',
    key: null,
    takes: 1,
    run: onPicked(1, (p) =>
      edit(`Mirrored ${nameOf(p.things)} left to right`, mirrored(p.rig, p.on, p.things, 'x')),
    ),
  },
  {
    words: 'Mirror top to bottom',
    key: null,
    takes: 1,
    run: onPicked(1, (p) =>
      edit(`Mirrored ${nameOf(p.things)} top to bottom`, mirrored(p.rig, p.on, p.things, 'y')),
    ),
  },
  {
    words: 'Group',
    key: 'Ctrl+g',
    takes: 2,
    run: mark('Grouped', () => ({ group: crypto.randomUUID() }), 2),
  },
  {
    words: 'Ungroup',
    key: 'Ctrl+Shift+g',
    takes: 1,
    run: mark('Ungrouped', () => ({ group: undefined })),
  },
  {
    words: 'Lock, or unlock',
    key: 'Ctrl+Shift+l',
    takes: 1,
    run: () => {
      const locked = pickedThings()?.things.every(isLocked) ?? false
      mark(locked ? 'Unlocked' : 'Locked', () => ({ locked: locked ? undefined : true }))()
    },
  },
  {
    words: 'Bring to the front',
    key: 'Ctrl+]',
    of: 'page',
    takes: 1,
    run: onPicked(1, ({ rig, things }) =>
      edit(`Brought ${nameOf(things)} to the front`, reordered(rig, things, 'front')),
    ),
  },
  {
    words: 'Send to the back',
    key: 'Ctrl+[',
    of: 'page',
    takes: 1,
    run: onPicked(1, ({ rig, things }) =>
      edit(`Sent ${nameOf(things)} to the back`, reordered(rig, things, 'back')),
    ),
  },
  { words: 'Remove', key: 'Delete', takes: 1, run: remove },
  {
    words: 'Pick everything',
    key: 'Ctrl+a',
    takes: 0,
    run: () => {
      const picked = pickedThings()
      if (picked) pick(new Set(thingsOn(picked.rig, picked.on).map((t) => t.key)))
    },
  },
  { words: 'Pick the next thing', key: ']', takes: 0, run: goTo(1) },
  { words: 'Pick the thing before', key: '[', takes: 0, run: goTo(-1) },
  {
    words: 'Pick nothing',
    key: 'Escape',
    takes: 0,
    run: () => {
      useSurface.setState({ tool: { is: 'pick' } })
      pick(new Set())
    },
  },
  { words: 'Zoom in', key: '+', takes: 0, run: () => zoom(1.25) },
  { words: 'Zoom out', key: '-', takes: 0, run: () => zoom(0.8) },
  {
    words: 'Show the whole of it',
    key: '0',
    takes: 0,
    run: () => {
      const on = surfaceNow()
      if (on) fitView(on)
    },
  },
  {
    words: 'Show, or hide, what is behind the panel',
    of: 'panel',
    key: 'Shift+b',
    takes: 0,
    run: () => useSurface.setState((s) => ({ behind: !s.behind })),
  },
]

export const commandCalled = (words: string): SurfaceCommand => {
  const found = surfaceCommands.find((c) => c.words === words)
  if (!found) throw new Error(`no command is called ${words}`)
  return found
}

export const isGrouped = (things: readonly Thing[]): boolean => things.some((t) => groupOf(t) !== undefined)

import { isIndicator } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { panelsOf, rowsOf } from '@/core/rig/rig'
import { harnessCommands } from '../harness/commands'
import { exercise } from '../inspector/exercise-form'
import { follow, loadAll } from '../live/connection'
import { stepHistory } from '../live/edits'
import { parts, useStore } from '../live/store'
import { newPanel } from '../panel/new-panel'
import { recordingCommands } from '../recordings/replay-acts'
import { surfaceCommands } from '../surface/commands'
import { arm } from './status-line'
import { flipTheme } from './theme'
import { views } from './views'

/** Something that can be done, from the palette or by its key. */
export interface ActionEntry {
  readonly words: string
  /** As `KeyboardEvent.key` with `Ctrl+` and `Shift+` in front, or null for none. */
  readonly key: string | null
  readonly run: () => void
  /** The view it belongs to; everywhere where it says none. */
  readonly view?: string
  /** Under which heading it stands in the list of keys. */
  readonly group?: 'Go' | 'Try' | 'Edit' | 'Drawing'
  /** Done again for as long as the key is held. */
  readonly repeats?: boolean
}

/** Whether an action belongs to what is being looked at. */
export const isHere = (a: ActionEntry, path: string): boolean =>
  a.view === undefined || path.startsWith(a.view)

const indicatorIds = (onlyLamps: boolean): string[] =>
  rowsOf(useStore.getState().rig, 'part')
    .filter((p) => partKind(p.kind)?.aspects.some((a) => (onlyLamps ? a.kind === 'lamp' : isIndicator(a))))
    .map((p) => p.id)

/** The views in which something is drawn on, and what that is. */
const drawnOn = [
  { of: 'panel', view: '/panel' },
  { of: 'page', view: '/screens' },
] as const

const onSelected = (work: (partId: string) => void) => () => {
  const { selected } = useStore.getState()
  if (selected !== null) work(selected)
}

/** Everything that can be done anywhere. */
export const actions = (go: (path: string) => void): ActionEntry[] => [
  ...views.map((v) => ({
    group: 'Go' as const,
    words: `Go to ${v.word}`,
    key: v.key.toLowerCase(),
    run: () => go(v.path),
  })),
  {
    group: 'Try',
    words: 'Arm, or hold, everything',
    key: 'a',
    run: () => arm(!(useStore.getState().status?.armed ?? false)),
  },
  { group: 'Edit', words: 'Undo', key: 'Ctrl+z', run: () => void stepHistory('undo') },
  { group: 'Edit', words: 'Redo', key: 'Ctrl+Shift+z', run: () => void stepHistory('redo') },
  {
    group: 'Try',
    words: 'Exercise the selected indicator',
    key: 't',
    run: onSelected((id) => {
      const on = !(parts.get(id)?.exercised ?? false)
      if (indicatorIds(false).includes(id)) exercise([id], on ? { as: 'all' } : null)
    }),
  },
  {
    group: 'Try',
    words: 'Exercise all lamps',
    key: 'Shift+t',
    run: () => exercise(indicatorIds(true), { as: 'all' }),
  },
  {
    words: 'Exercise every indicator: all lamps, all segments',
    key: null,
    run: () => exercise(indicatorIds(false), { as: 'all' }),
  },
  { words: 'Sweep every indicator', key: null, run: () => exercise(indicatorIds(false), { as: 'sweep' }) },
  { words: 'End every exercise', key: null, run: () => exercise(indicatorIds(false), null) },
  {
    group: 'Try',
    words: 'Go to whatever is operated on the panel, or stop that',
    key: 'f',
    run: () => follow(!useStore.getState().follows),
  },
  {
    group: 'Edit',
    words: 'Layers',
    key: 'l',
    run: () => useStore.setState((s) => ({ layersOpen: !s.layersOpen })),
  },
  {
    group: 'Edit',
    words: 'Craft sets: what holds for which craft',
    key: null,
    run: () => useStore.setState((s) => ({ craftSetsOpen: !s.craftSetsOpen })),
  },
  {
    group: 'Edit',
    words: 'Lighting: what is dimmed together, and by what',
    key: null,
    run: () => useStore.setState((s) => ({ lightingOpen: !s.lightingOpen })),
  },
  {
    group: 'Go',
    words: 'Connections: simulators, boards, what is plugged in',
    key: 'c',
    run: () => useStore.setState((s) => ({ connectionsAt: s.connectionsAt === null ? '' : null })),
  },
  {
    group: 'Go',
    words: 'Devices: tablets and small computers that show screens',
    key: null,
    run: () => useStore.setState({ devicesOpen: true }),
  },
  {
    words: 'Rigs: begin, open, save, copy',
    key: null,
    run: () => useStore.setState({ rigsOpen: true }),
  },
  {
    group: 'Edit',
    words: 'Choose the variable or event of the selected part',
    key: 'v',
    run: onSelected((partId) => useStore.setState({ opening: { partId, station: 'simulator' } })),
  },
  {
    words: 'New panel',
    key: null,
    run: () => {
      newPanel(panelsOf(useStore.getState().rig))
      go('/panel')
    },
  },
  {
    words: 'Load every board that differs from the drawing',
    key: null,
    run: loadAll,
  },
  ...recordingCommands.map((c) => ({ ...c, group: 'Try' as const })),
  ...harnessCommands.map(({ words, run }) => ({
    words,
    key: null,
    run: () => {
      go('/harness')
      run()
    },
  })),
  { words: 'Day or night', key: 'n', run: flipTheme },
  ...surfaceCommands.flatMap(({ words, key, run, of, repeats = false }) =>
    drawnOn
      .filter((d) => of === undefined || of === d.of)
      .map(({ view }) => ({ words, key, run, repeats, view, group: 'Drawing' as const })),
  ),
]

export const keyWords = (key: string): string =>
  key
    .split('+')
    .map((k) => (k.length === 1 ? k.toUpperCase() : k))
    .join(' ')

/** The key of an event, written as in an action. */
export const keyOf = (e: KeyboardEvent): string => {
  const parts = []
  if (e.ctrlKey || e.metaKey) parts.push('Ctrl')
  if (e.altKey) parts.push('Alt')
  // Signs are reached with Shift on some keyboards and without on others; letters and named keys tell.
  if (e.shiftKey && (e.key.length > 1 || /[a-z]/i.test(e.key))) parts.push('Shift')
  parts.push(e.key.length === 1 ? e.key.toLowerCase() : e.key)
  return parts.join('+')
}

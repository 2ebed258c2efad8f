import { lampAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { rowsOf } from '@/core/rig/rig'
import { exercise } from '../inspector/inspector'
import { loadAll } from '../live/connection'
import { stepHistory } from '../live/edits'
import { parts, useStore } from '../live/store'
import { arm } from './status-line'
import { flipTheme } from './theme'
import { views } from './views'

/** Something that can be done, from the palette or by its key. */
export interface ActionEntry {
  readonly words: string
  /** As `KeyboardEvent.key` with `Ctrl+` and `Shift+` in front, or null for none. */
  readonly key: string | null
  readonly run: () => void
}

const lampIds = (): string[] =>
  rowsOf(useStore.getState().rig, 'part')
    .filter((p) => {
      const kind = partKind(p.kind)
      return kind !== undefined && lampAspect(kind) !== undefined
    })
    .map((p) => p.id)

const onSelected = (work: (partId: string) => void) => () => {
  const { selected } = useStore.getState()
  if (selected !== null) work(selected)
}

/** Everything that can be done anywhere. */
export const actions = (go: (path: string) => void): ActionEntry[] => [
  ...views.map((v) => ({ words: `Go to ${v.word}`, key: v.key.toLowerCase(), run: () => go(v.path) })),
  {
    words: 'Arm, or hold, everything',
    key: 'a',
    run: () => arm(!(useStore.getState().status?.armed ?? false)),
  },
  { words: 'Undo', key: 'Ctrl+z', run: () => void stepHistory('undo') },
  { words: 'Redo', key: 'Ctrl+Shift+z', run: () => void stepHistory('redo') },
  {
    words: 'Exercise the selected indicator',
    key: 't',
    run: onSelected((id) => {
      if (lampIds().includes(id)) exercise([id], !(parts.get(id)?.exercised ?? false))
    }),
  },
  { words: 'Exercise all lamps', key: 'Shift+t', run: () => exercise(lampIds(), true) },
  { words: 'End every exercise', key: null, run: () => exercise(lampIds(), false) },
  {
    words: 'Choose the variable or event of the selected part',
    key: 'v',
    run: onSelected((partId) => useStore.setState({ opening: { partId, station: 'simulator' } })),
  },
  {
    words: 'Load every board that differs from the drawing',
    key: null,
    run: loadAll,
  },
  { words: 'Day or night', key: 'n', run: flipTheme },
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
  if (e.shiftKey && e.key.length === 1 && /[a-z]/i.test(e.key)) parts.push('Shift')
  parts.push(e.key.length === 1 ? e.key.toLowerCase() : e.key)
  return parts.join('+')
}

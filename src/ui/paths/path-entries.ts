import { targetOf } from '@/core/rig/binding'
import { bindingsOf, boardsOf, leadsOf, panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { BindingRow, PanelRow, PartRow } from '@/core/rig/rows'

/** One line of the table: a binding of a part, or a part that has none yet. */
export interface PathEntry {
  readonly key: string
  readonly panel: PanelRow
  readonly part: PartRow
  readonly binding: BindingRow | null
  /** Everything that can be searched for, in lower case. */
  readonly text: string
}

/** Every path of a rig, panel by panel and part by part. */
export const pathEntries = (rig: Rig): PathEntry[] => {
  const boardNames = new Map(boardsOf(rig).map((b) => [b.id, b.name]))
  return panelsOf(rig).flatMap((panel) =>
    partsOf(rig, panel.id).flatMap((part) => {
      const pins = leadsOf(rig, part.id).flatMap((l) =>
        l.pin ? [`${boardNames.get(l.boardId ?? '')} ${l.pin}`] : [],
      )
      const entry = (binding: BindingRow | null): PathEntry => ({
        key: binding?.id ?? `none ${part.id}`,
        panel,
        part,
        binding,
        text: [part.name, panel.name, ...pins, binding ? wordsOf(binding) : 'nothing bound']
          .join(' ')
          .toLowerCase(),
      })
      const bindings = bindingsOf(rig, part.id)
      return bindings.length > 0 ? bindings.map(entry) : [entry(null)]
    }),
  )
}

const wordsOf = ({ settings, on }: BindingRow): string => {
  const target = targetOf(settings)
  const name = target === null ? 'nothing bound' : 'variable' in target ? target.variable : target.event
  const shaping = settings.kind === 'lamp' ? settings.show : settings.value
  return [name, shaping, settings.onlyWhile, on ? '' : 'off'].join(' ')
}

/** The entries in which every word of a search stands somewhere. */
export const searchPaths = (all: readonly PathEntry[], words: readonly string[]): PathEntry[] =>
  all.filter((e) => words.every((w) => e.text.includes(w)))

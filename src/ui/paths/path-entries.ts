import { indicatorKind } from '@/core/aspects/aspects'
import { partKind } from '@/core/catalogue/parts'
import { aspectFor, type BindingSettings } from '@/core/rig/binding'
import { boundWords } from '@/core/rig/bound-words'
import { bindingsOf, boardsOf, leadsOf, panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { BindingRow, PanelRow, PartRow } from '@/core/rig/rows'

/** One line of the table: a binding of a part, or an aspect that has none yet. */
export interface PathEntry {
  readonly key: string
  readonly panel: PanelRow
  readonly part: PartRow
  readonly aspectId: string
  /** The aspect's name where its part has several. */
  readonly aspect: string | null
  readonly binding: BindingRow | null
  /** Everything that can be searched for, in lower case. */
  readonly text: string
}

/** Every path of a rig, panel by panel and part by part. */
export const pathEntries = (rig: Rig): PathEntry[] => {
  const boardNames = new Map(boardsOf(rig).map((b) => [b.id, b.name]))
  return panelsOf(rig).flatMap((panel) =>
    partsOf(rig, panel.id).flatMap((part) => {
      const kind = partKind(part.kind)
      const aspects = kind?.aspects ?? []
      const pins = leadsOf(rig, part.id).flatMap((l) =>
        l.pin ? [`${boardNames.get(l.boardId ?? '')} ${l.pin}`] : [],
      )
      const entry = (binding: BindingRow | null, aspectId: string): PathEntry => {
        const aspect = aspects.length > 1 ? aspectId : null
        const words = binding ? wordsOf(rig, binding) : 'nothing bound'
        return {
          key: binding?.id ?? `none ${part.id} ${aspectId}`,
          panel,
          part,
          aspectId,
          aspect,
          binding,
          text: [part.name, aspect, panel.name, ...pins, words].join(' ').toLowerCase(),
        }
      }
      const bindings = bindingsOf(rig, part.id)
      const aspectOf = (s: BindingSettings) => aspectFor(aspects, s)?.id ?? ''
      const bound = new Set(bindings.map((b) => aspectOf(b.settings)))
      // Screws and connectors have no paths; a part of unknown kind is shown all the same.
      const bare = kind === undefined && bindings.length === 0 ? [entry(null, '')] : []
      return [
        ...bindings.map((b) => entry(b, aspectOf(b.settings))),
        ...aspects.filter((a) => !bound.has(a.id)).map((a) => entry(null, a.id)),
        ...bare,
      ]
    }),
  )
}

/** What a binding's shaping says, in one text. */
const shapingText = (s: BindingSettings): string | null =>
  s.kind === 'control' ? s.value : indicatorKind(s.kind).takes(s).join(' ')

const wordsOf = (rig: Rig, { settings, on }: BindingRow): string => {
  const name = boundWords(rig, settings)
  const layer = settings.layer === undefined ? '' : (rig.layer[settings.layer]?.name ?? '')
  const set = rig.craftSet[settings.craftSet ?? '']?.name ?? ''
  return [name, shapingText(settings), settings.onlyWhile, layer, set, on ? '' : 'off'].join(' ')
}

/** The entries in which every word of a search stands somewhere. */
export const searchPaths = (all: readonly PathEntry[], words: readonly string[]): PathEntry[] =>
  all.filter((e) => words.every((w) => e.text.includes(w)))

import { partKind } from '@/core/catalogue/parts'
import { aspectFor, type BindingSettings } from '@/core/rig/binding'
import { changeRow } from '@/core/rig/edit'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'

/** Gives a binding other settings, as an edit with its sentence. */
export const change = (binding: BindingRow, sentence: string, settings: BindingSettings): void =>
  edit(sentence, [changeRow('binding', binding, { ...binding, settings })])

/** The aspect of a part that a binding belongs to. */
export const aspectOfBinding = (part: PartRow, settings: BindingSettings) =>
  aspectFor(partKind(part.kind)?.aspects ?? [], settings)

/** What every editor of a binding is given. */
export interface BindingEditorProps {
  readonly part: PartRow
  readonly binding: BindingRow
  readonly close: () => void
}

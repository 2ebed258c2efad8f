import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete'
import { controlKind } from '@/core/aspects/aspects'
import { isControl } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { layerSetsOf, type Rig, rowsOf } from '@/core/rig/rig'
import type { CatalogueIndex } from '@/core/rig/simulator-catalogue'
import { functionForms } from '@/core/signal/expression/function-forms'
import { writtenName } from '@/core/signal/expression/names'
import { formatValue } from '@/core/signal/format'
import { values } from '../live/store'

const quoted = (call: string, name: string): string => `${call}(${JSON.stringify(name)})`

/** Everything that can be named in an expression: variables with their values, functions, controls, layers, curves. */
export const completionsFor = (rig: Rig, index: CatalogueIndex, hasInput: boolean): Completion[] => {
  const variables = index.catalogue.variables.map(
    (v): Completion => ({
      label: writtenName(v.name),
      type: 'variable',
      detail: `${formatValue(values.get(v.name) ?? null, v)} · ${v.description || 'not described'}`,
    }),
  )
  const functions = Object.entries(functionForms)
    .filter(([name]) => !['part', 'layer', 'curve'].includes(name))
    .map(
      ([name, { form, gives }]): Completion => ({
        label: name,
        apply: `${name}(`,
        type: 'function',
        detail: `${form} · ${gives}`,
      }),
    )
  const controls = rowsOf(rig, 'part')
    .filter((p) => partKind(p.kind)?.aspects.some((a) => isControl(a) && controlKind(a.kind).isReadable))
    .map((p): Completion => ({ label: quoted('part', p.name), type: 'property', detail: 'control' }))
  const layers = layerSetsOf(rig).map(
    (s): Completion => ({ label: quoted('layer', s.name), type: 'property', detail: 'layer set' }),
  )
  const curves = rowsOf(rig, 'curve').map(
    (c): Completion => ({
      label: quoted('curve', c.name).replace(/\)$/, ', '),
      type: 'property',
      detail: 'curve',
    }),
  )
  const words = [...(hasInput ? ['input'] : []), 'on', 'off'].map(
    (label): Completion => ({ label, type: 'keyword', boost: 2 }),
  )
  return [...words, ...layers, ...controls, ...curves, ...functions, ...variables]
}

/** Completes the name before the cursor; nothing inside a quoted text. */
export const completeFrom =
  (options: () => Completion[]) =>
  (context: CompletionContext): CompletionResult | null => {
    const word = context.matchBefore(/[\w.]*/)
    if (!word || (word.from === word.to && !context.explicit)) return null
    const before = context.state.sliceDoc(0, word.from)
    if ((before.match(/"/g)?.length ?? 0) % 2 === 1) return null
    if (/^\d/.test(word.text)) return null
    return { from: word.from, options: options(), validFor: /^[\w.]*$/ }
  }

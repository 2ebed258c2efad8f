'use client'
import { ArrowUp, X } from 'lucide-react'
import { followRenaming } from '@/core/rig/binding-change'
import { addRow, type Change, changeRow, removeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { layerSetsOf, layersOf, type Rig, rowsOf } from '@/core/rig/rig'
import type { LayerRow, LayerSetRow } from '@/core/rig/rows'
import { ExpressionField } from '../editors/expression-field'
import { freeBinding } from '../editors/free-binding'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { Sheet } from '../primitives/sheet'
import { BindAlong } from './bind-along'
import { BySelector } from './by-selector'

/** Alternative jobs of the same controls: sets of layers, which is active, what changes it. */
export const LayersSheet = () => {
  const open = useStore((s) => s.layersOpen)
  const rig = useStore((s) => s.rig)
  const sets = layerSetsOf(rig)
  return (
    <Sheet
      title="Layers"
      titleShown
      className="w-[720px] max-h-[78vh] overflow-y-auto p-4"
      open={open}
      setOpen={(layersOpen) => useStore.setState({ layersOpen })}
    >
      <div className="mb-2 flex items-start gap-4 text-[12px]">
        <p className="text-ink2">
          A layer set gives the same controls several jobs, one layer at a time. A binding is put into a layer
          at “only while” on its path; what a control does can change the layer.
        </p>
        <button type="button" className="btn shrink-0" onClick={() => addSet(rig)}>
          New layer set
        </button>
      </div>
      {sets.map((set) => (
        <SetForm key={set.id} set={set} rig={rig} />
      ))}
    </Sheet>
  )
}

const addSet = (rig: Rig): void => {
  const name = numbered('Layers', new Set(layerSetsOf(rig).map((s) => s.name)))
  const id = crypto.randomUUID()
  const set: LayerSetRow = {
    id,
    name,
    position: Math.max(0, ...layerSetsOf(rig).map((s) => s.position)) + 1,
    settings: { chosenBy: null, timeoutMs: null },
  }
  const layer = (name: string, position: number): LayerRow => ({
    id: crypto.randomUUID(),
    layerSet: id,
    name,
    position,
  })
  edit(`Added the layer set “${set.name}”`, [
    addRow('layerSet', set),
    addRow('layer', layer('One', 1)),
    addRow('layer', layer('Two', 2)),
  ])
  // It stands at the end: it is brought into view, and its name can be typed at once.
  requestAnimationFrame(() => {
    const field = document.querySelector<HTMLInputElement>(`[data-layer-set="${id}"] input`)
    field?.scrollIntoView({ block: 'center' })
    field?.focus()
    field?.select()
  })
}

/** Who still speaks of a layer or a set: as the layer they belong to, or anywhere in what they do. */
const users = (rig: Rig, id: string): number =>
  rowsOf(rig, 'binding').filter((b) => JSON.stringify(b.settings).includes(JSON.stringify(id))).length

const SetForm = ({ set, rig }: { set: LayerSetRow; rig: Rig }) => {
  const live = useStore((s) => s.layers[set.id])
  const layers = layersOf(rig, set.id)
  const others = layerSetsOf(rig).filter((s) => s.id !== set.id)
  const rename = (name: string) =>
    edit(`Renamed the layer set “${set.name}” to “${name}”`, [
      changeRow('layerSet', set, { ...set, name }),
      ...followRenaming(rig, 'layer', set.name, name),
    ])
  const put = (settings: LayerSetRow['settings'], what: string) =>
    edit(`Changed ${what} of “${set.name}”`, [changeRow('layerSet', set, { ...set, settings })])
  const used = [set.id, ...layers.map((l) => l.id)].reduce((n, id) => n + users(rig, id), 0)
  const remove = () =>
    edit(`Removed the layer set “${set.name}”`, [
      ...layers.map((l) => removeRow('layer', l)),
      removeRow('layerSet', set),
    ])
  return (
    <section
      aria-label={`Layer set ${set.name}`}
      data-layer-set={set.id}
      className="mb-4 border-t border-line pt-2"
    >
      <div className="flex items-center gap-2">
        <TextField
          label="Name of the layer set"
          width={180}
          value={set.name}
          objection={(t) =>
            t.trim() === ''
              ? 'A name is needed.'
              : others.some((s) => s.name === t.trim())
                ? 'There is one of that name.'
                : null
          }
          take={(t) => rename(t.trim())}
        />
        <span className="min-w-0 flex-1 truncate text-[12px] text-ink2">
          {live?.problem ? <span className="text-fault">{live.problem}</span> : null}
        </span>
        <button
          type="button"
          className="btn"
          disabled={used > 0}
          title={used > 0 ? `${used} bindings still speak of it` : 'Remove this layer set'}
          onClick={remove}
        >
          Remove
        </button>
      </div>
      <ol className="my-1.5">
        {layers.map((layer, i) => (
          <LayerLine
            key={layer.id}
            layer={layer}
            before={layers[i - 1]}
            siblings={layers}
            active={live?.active === layer.id}
            used={users(rig, layer.id)}
          />
        ))}
      </ol>
      <div className="flex flex-wrap items-center gap-3 text-[12px]">
        <button
          type="button"
          className="btn"
          onClick={() => {
            const position = (layers.at(-1)?.position ?? 0) + 1
            const row: LayerRow = {
              id: crypto.randomUUID(),
              layerSet: set.id,
              name: `Layer ${position}`,
              position,
            }
            edit(`Added a layer to “${set.name}”`, [addRow('layer', row)])
          }}
        >
          Another layer
        </button>
        <NumberField
          label="back to the first after"
          unit="s"
          least={0}
          most={600}
          value={(set.settings.timeoutMs ?? 0) / 1000}
          take={(s) =>
            put({ ...set.settings, timeoutMs: s < 0.5 ? null : Math.round(s * 1000) }, 'the time-out')
          }
        />
        <span className="text-ink2">0 means never</span>
      </div>
      <div className="mt-1.5 grid grid-cols-[96px_1fr] items-start gap-2 text-[12px]">
        <span className="pt-1 text-ink2">chosen by</span>
        <ExpressionField
          binding={freeBinding(set.id)}
          use="choice"
          label={`What chooses the layer of ${set.name}`}
          value={set.settings.chosenBy ?? ''}
          emptyMeans="what controls do"
          focus={false}
          take={(chosenBy) => put({ ...set.settings, chosenBy }, 'the choice')}
        />
        <span />
        <BySelector
          rig={rig}
          set={set}
          take={(chosenBy) => put({ ...set.settings, chosenBy }, 'the choice')}
        />
      </div>
      <BindAlong set={set} />
    </section>
  )
}

const LayerLine = ({
  layer,
  before,
  siblings,
  active,
  used,
}: {
  layer: LayerRow
  before: LayerRow | undefined
  siblings: readonly LayerRow[]
  active: boolean
  used: number
}) => {
  const exchange = (): (Change | null)[] =>
    before
      ? [
          changeRow('layer', layer, { ...layer, position: before.position }),
          changeRow('layer', before, { ...before, position: layer.position }),
        ]
      : []
  return (
    <li className="flex h-8 items-center gap-2 border-t border-hair text-[12px]">
      <Mark shape={active ? 'ok' : 'none'} words={active ? 'active' : 'not active'} />
      <TextField
        label="Name of the layer"
        width={150}
        value={layer.name}
        objection={(t) =>
          t.trim() === ''
            ? 'A name is needed.'
            : siblings.some((l) => l.id !== layer.id && l.name === t.trim())
              ? 'There is one of that name.'
              : null
        }
        take={(t) =>
          edit(`Renamed the layer “${layer.name}” to “${t.trim()}”`, [
            changeRow('layer', layer, { ...layer, name: t.trim() }),
          ])
        }
      />
      <span className="text-ink2">{active ? 'active now' : ''}</span>
      <span className="ml-auto text-ink2">{used === 1 ? '1 binding' : `${used} bindings`}</span>
      <button
        type="button"
        className="p-1 text-ink3 hover:text-ink disabled:opacity-30"
        disabled={!before}
        aria-label={`Move ${layer.name} up`}
        onClick={() => edit(`Moved the layer “${layer.name}” up`, exchange())}
      >
        <ArrowUp size={13} />
      </button>
      <button
        type="button"
        className="p-1 text-ink3 hover:text-ink disabled:opacity-30"
        disabled={used > 0 || siblings.length < 2}
        title={used > 0 ? `${used} bindings still belong to it` : undefined}
        aria-label={`Remove ${layer.name}`}
        onClick={() => edit(`Removed the layer “${layer.name}”`, [removeRow('layer', layer)])}
      >
        <X size={13} />
      </button>
    </li>
  )
}

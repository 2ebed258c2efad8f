'use client'
import type { BindingSettings } from '@/core/rig/binding'
import { layerSetsOf, layersOf } from '@/core/rig/rig'
import { useStore } from '../live/store'
import { type BindingEditorProps, change } from './change-binding'
import { ExpressionField } from './expression-field'

const inLayer = (settings: BindingSettings, layer: string): BindingSettings => {
  const { layer: _, ...rest } = settings
  return layer === '' ? (rest as BindingSettings) : ({ ...rest, layer } as BindingSettings)
}

/** When a binding may act: in one layer or all, and while a condition holds. */
export const ConditionEditor = ({ part, binding, close }: BindingEditorProps) => {
  const rig = useStore((s) => s.rig)
  const layers = layerSetsOf(rig).flatMap((set) => layersOf(rig, set.id).map((layer) => ({ set, layer })))
  const sentence = `Changed when “${part.name}” may act`
  return (
    <div className="flex w-[520px] flex-col gap-2 p-3">
      <span className="cap">Only while · {part.name}</span>
      {layers.length > 0 && (
        <label className="flex items-center gap-2 text-[12px]">
          <span className="text-ink2">In the layer</span>
          <select
            value={binding.settings.layer ?? ''}
            onChange={(e) => change(binding, sentence, inLayer(binding.settings, e.target.value))}
          >
            <option value="">all of them</option>
            {layers.map(({ set, layer }) => (
              <option key={layer.id} value={layer.id}>
                {set.name} · {layer.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <ExpressionField
        binding={binding}
        use="condition"
        label="Only while"
        value={binding.settings.onlyWhile ?? ''}
        emptyMeans="always"
        take={(text) => {
          change(binding, sentence, { ...binding.settings, onlyWhile: text })
          close()
        }}
      />
      <p className="text-[11px] leading-[15px] text-ink2">
        A yes or no from variables (elec.bus.main.volts &gt; 20), other controls (part("Trim right") == "up")
        and layers. Empty means always.
      </p>
    </div>
  )
}

'use client'
import { resized } from '@/core/layout/resized'
import { legendsOf } from '@/core/layout/things'
import { changeRow, removeRow } from '@/core/rig/edit'
import { partsOf } from '@/core/rig/rig'
import { materials, type PanelRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { fitView } from '../surface/view-store'
import { cornerHoles } from './new-panel'

type Settings = PanelRow['settings']

const mostMm = 2000

/** The plate itself: its size, what it is made of, its own holes, and the lines things snap to. */
export const PlateForm = ({ panel }: { panel: PanelRow }) => {
  const change = (words: string, to: Partial<PanelRow>) =>
    edit(`${words} of “${panel.name}”`, [changeRow('panel', panel, { ...panel, ...to })])
  const set = (words: string, to: Partial<Settings>) => {
    const settings = { ...panel.settings, ...to }
    const kept = Object.fromEntries(Object.entries(settings).filter(([, v]) => v !== undefined)) as Settings
    change(words, { settings: kept })
  }
  const { holes, guides = [], material = 'acrylic', outline, windows = [] } = panel.settings
  const size = (key: 'widthMm' | 'heightMm' | 'cornerMm' | 'thicknessMm', label: string, least: number) => (
    <NumberField
      label={label}
      unit="mm"
      value={panel[key]}
      least={least}
      most={mostMm}
      take={(mm) => {
        const to = resized(panel, { [key]: mm })
        change(`Changed the ${label.toLowerCase()}`, to)
        const next = { ...panel, ...to }
        if (key === 'widthMm' || key === 'heightMm') fitView({ width: next.widthMm, height: next.heightMm })
      }}
    />
  )
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
    <div tabIndex={0} className="flex h-full flex-col gap-2 overflow-y-auto p-2.5 form-lines">
      <div className="flex items-center justify-between gap-2 text-[12px]">
        <span className="text-ink2">Name</span>
        <TextField
          label="Name of the panel"
          value={panel.name}
          width={130}
          objection={(t) => (t.trim() === '' ? 'A panel needs a name.' : null)}
          take={(name) =>
            edit(`Renamed “${panel.name}” to “${name.trim()}”`, [
              changeRow('panel', panel, { ...panel, name: name.trim() }),
            ])
          }
        />
      </div>
      {outline === undefined ? (
        <>
          {size('widthMm', 'Width', 10)}
          {size('heightMm', 'Height', 10)}
          {size('cornerMm', 'Corner radius', 0)}
        </>
      ) : (
        <div className="flex items-center justify-between text-[12px]">
          <span className="text-ink2">Imported edge</span>
          <button
            type="button"
            className="btn"
            onClick={() => set('Took away the imported edge', { outline: undefined })}
          >
            Use size and corners
          </button>
        </div>
      )}
      {size('thicknessMm', 'Thickness', 0.5)}
      <label className="flex items-center text-[12px]">
        <span className="text-ink2">Material</span>
        <select
          className="h-6 py-0"
          value={material}
          onChange={(e) => set('Changed the material', { material: e.target.value as Settings['material'] })}
        >
          {materials.map((m) => (
            <option key={m}>{m}</option>
          ))}
        </select>
      </label>
      <div className="cap mt-2 flex items-center justify-between">
        Mounting holes
        <button
          type="button"
          className="btn normal-case"
          title="Four holes, as far in from each corner"
          onClick={() =>
            set('Put holes in the corners', { holes: cornerHoles(panel.widthMm, panel.heightMm) })
          }
        >
          Four corners
        </button>
      </div>
      {holes.map((h, i) => (
        <div key={`${h.xMm} ${h.yMm}`} className="flex items-center gap-1">
          {(['xMm', 'yMm', 'diameterMm'] as const).map((key) => (
            <NumberField
              key={key}
              label={key === 'diameterMm' ? '⌀' : ''}
              name={`${key === 'diameterMm' ? 'Diameter' : key[0]} of hole ${i + 1}`}
              unit=""
              narrow
              value={h[key]}
              least={key === 'diameterMm' ? 0.5 : -mostMm}
              most={mostMm}
              take={(mm) =>
                set('Changed a hole', { holes: holes.map((o, k) => (k === i ? { ...o, [key]: mm } : o)) })
              }
            />
          ))}
          <RemoveLine
            label={`Remove hole ${i + 1}`}
            take={() => set('Removed a hole', { holes: holes.filter((_, k) => k !== i) })}
          />
        </div>
      ))}
      {windows.length > 0 && (
        <div className="flex items-center justify-between text-[12px]">
          <span className="text-ink2">{windows.length} imported openings</span>
          <button
            type="button"
            className="btn"
            onClick={() => set('Took away the imported openings', { windows: undefined })}
          >
            Remove
          </button>
        </div>
      )}
      <div className="cap mt-2 flex items-center gap-1.5">
        <span className="flex-1">Guides</span>
        {(['x', 'y'] as const).map((axis) => (
          <button
            key={axis}
            type="button"
            className="btn normal-case"
            title={`A guide ${axis === 'x' ? 'upright' : 'level'}, through the middle at first`}
            onClick={() => {
              const atMm = (axis === 'x' ? panel.widthMm : panel.heightMm) / 2
              set('Put a guide', { guides: [...guides, { axis, atMm }] })
            }}
          >
            + {axis}
          </button>
        ))}
      </div>
      {guides.length === 0 && (
        <p className="text-[11px] leading-4 text-ink2">
          Click on a ruler to put a guide there, or add one here.
        </p>
      )}
      {guides.map((g, i) => (
        <div key={`${g.axis} ${g.atMm}`} className="flex items-center gap-1">
          <NumberField
            label={g.axis}
            name={`Guide ${i + 1}`}
            unit="mm"
            value={g.atMm}
            least={-mostMm}
            most={mostMm}
            take={(atMm) =>
              set('Moved a guide', { guides: guides.map((o, k) => (k === i ? { ...o, atMm } : o)) })
            }
          />
          <RemoveLine
            label={`Remove guide ${i + 1}`}
            take={() => set('Removed a guide', { guides: guides.filter((_, k) => k !== i) })}
          />
        </div>
      ))}
      <div className="mt-3 border-t border-hair pt-2">
        <button type="button" className="btn" onClick={() => removePanel(panel)}>
          Remove this panel
        </button>
      </div>
    </div>
  )
}

/** Only an empty panel goes at once; the parts of any other have to go first. */
const removePanel = (panel: PanelRow): void => {
  const { rig } = useStore.getState()
  const count = partsOf(rig, panel.id).length
  if (count > 0) {
    notify(
      `“${panel.name}” still carries ${count} ${count === 1 ? 'part' : 'parts'}; remove them first (Ctrl A, Delete).`,
    )
    return
  }
  edit(`Removed “${panel.name}”`, [
    ...legendsOf(rig, panel.id).map((l) => removeRow('legend', l)),
    removeRow('panel', panel),
  ])
  useStore.setState({ panelId: null })
}

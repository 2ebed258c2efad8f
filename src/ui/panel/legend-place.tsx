'use client'
import { keyOf, type Surface } from '@/core/layout/things'
import { changeRow } from '@/core/rig/edit'
import type { LegendFont } from '@/core/rig/legend-fonts'
import { partsOf, type Rig } from '@/core/rig/rig'
import type { LegendRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { nameOf } from '../surface/commands'
import { Coordinates, MOST_AWAY } from '../surface/coordinates'

const fontWords: Record<LegendFont, string> = {
  plain: 'B612',
  bold: 'B612 bold',
  mono: 'IBM Plex Mono',
  single: 'single line, for engravers',
}

/** A legend: its words or lines, and where they lie. */
export const LegendPlace = ({ rig, on, legend }: { rig: Rig; on: Surface; legend: LegendRow }) => {
  const { settings } = legend
  const name = nameOf([
    { table: 'legend', key: '', row: legend, box: { minX: 0, minY: 0, maxX: 0, maxY: 0 } },
  ])
  const set = (to: Partial<LegendRow['settings']>) =>
    edit(`Changed ${name}`, [
      changeRow('legend', legend, { ...legend, settings: { ...settings, ...to } as LegendRow['settings'] }),
    ])
  const size = (label: string, key: string, value: number, least = 0.5, unit = 'mm', most = MOST_AWAY) => (
    <NumberField
      label={label}
      unit={unit}
      value={value}
      least={least}
      most={most}
      take={(n) => set({ [key]: n })}
    />
  )
  return (
    <>
      <b className="text-[13px]">{name[0]?.toUpperCase() + name.slice(1)}</b>
      {settings.kind === 'text' && (
        <>
          <TextField label="Text" value={settings.text} width={228} take={(text) => set({ text })} />
          {size('size', 'sizeMm', settings.sizeMm)}
          {size('turned', 'rotationDeg', settings.rotationDeg ?? 0, -360, '°', 360)}
          <label className="flex items-center text-[12px]">
            <span className="text-ink2">held at its</span>
            <select
              className="h-6 py-0"
              value={settings.anchor}
              onChange={(e) => set({ anchor: e.target.value as 'start' })}
            >
              <option value="start">beginning</option>
              <option value="middle">middle</option>
              <option value="end">end</option>
            </select>
          </label>
        </>
      )}
      {settings.kind === 'frame' && (
        <>
          <TextField label="Title" value={settings.title} width={228} take={(title) => set({ title })} />
          {size('width', 'widthMm', settings.widthMm)}
          {size('height', 'heightMm', settings.heightMm)}
          {size('title size', 'sizeMm', settings.sizeMm)}
        </>
      )}
      {settings.kind === 'line' && (
        <>
          {size('to the right', 'dxMm', settings.dxMm, -MOST_AWAY)}
          {size('down', 'dyMm', settings.dyMm, -MOST_AWAY)}
          {size('width', 'widthMm', settings.widthMm ?? 0.35, 0.05)}
        </>
      )}
      {settings.kind === 'drawing' && (
        <>
          <TextField label="Name" value={settings.name} width={228} take={(name) => set({ name })} />
          {size('line width', 'widthMm', settings.widthMm ?? 0.2, 0.05)}
        </>
      )}
      {settings.kind === 'tick' && size('length', 'lengthMm', settings.lengthMm)}
      {settings.kind === 'ring' && (
        <>
          {size('radius', 'radiusMm', settings.radiusMm)}
          {size('size', 'sizeMm', settings.sizeMm)}
          <label className="flex items-center text-[12px]">
            <span className="text-ink2">ticks to the words</span>
            <input
              type="checkbox"
              checked={settings.ticks}
              onChange={(e) => set({ ticks: e.target.checked })}
            />
          </label>
        </>
      )}
      {'sizeMm' in settings && (
        <label className="flex items-center text-[12px]">
          <span className="text-ink2">font</span>
          <select
            className="h-6 py-0"
            value={settings.font ?? 'plain'}
            onChange={(e) => set({ font: e.target.value as LegendFont })}
          >
            {Object.entries(fontWords).map(([font, word]) => (
              <option key={font} value={font}>
                {word}
              </option>
            ))}
          </select>
        </label>
      )}
      {settings.kind !== 'ring' && (
        <Coordinates
          rig={rig}
          on={on}
          thing={{ key: keyOf('legend', legend.id), x: legend.xMm, y: legend.yMm }}
          name={name}
        />
      )}
      {settings.kind !== 'ring' && (
        <label className="flex items-center gap-1.5 text-[12px]">
          <span className="text-ink2">goes with</span>
          <select
            className="h-6 min-w-0 flex-1 py-0 text-[12px]"
            value={legend.partId ?? ''}
            onChange={(e) =>
              edit(`Tied ${name} to a part`, [
                changeRow('legend', legend, { ...legend, partId: e.target.value || null }),
              ])
            }
          >
            <option value="">the panel</option>
            {partsOf(rig, on.id).map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
      )}
    </>
  )
}

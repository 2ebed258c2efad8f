'use client'
import { kindOf, ownKindLike } from '@/core/catalogue/own-kind'
import { type PartKind, positionsAspect } from '@/core/catalogue/part-kind'
import { positionAngles } from '@/core/layout/legend-marks'
import { keyOf, type Surface } from '@/core/layout/things'
import { followRenaming } from '@/core/rig/binding-change'
import { addRow, changeRow } from '@/core/rig/edit'
import { type Rig, screensOf } from '@/core/rig/rig'
import type { LegendRow, PartRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { Coordinates } from '../surface/coordinates'
import { pick, useSurface } from '../surface/view-store'
import { ExchangeChoice } from './exchange-choice'

/** What it takes: a lamp at its rated current, anything else at most. */
const currentWords = ({ electrical, draws }: PartKind): string => {
  if (electrical) return `, ${electrical.milliamps} mA at ${electrical.forwardVolts} V`
  return draws ? `, ${draws.typicalMa} to ${draws.mostMa} mA` : ''
}

/** A part: its name, where it lies, what it is, and what is lettered at it. */
export const PartPlace = ({ rig, on, part }: { rig: Rig; on: Surface; part: PartRow }) => {
  const kind = kindOf(part)
  const aspect = kind && positionsAspect(kind)
  const change = (words: string, to: Partial<PartRow>) =>
    edit(`${words} of “${part.name}”`, [changeRow('part', part, { ...part, ...to })])
  const rename = (name: string) =>
    edit(`Renamed “${part.name}” to “${name}”`, [
      changeRow('part', part, { ...part, name }),
      ...followRenaming(rig, 'part', part.name, name),
    ])
  const addLegend = (settings: LegendRow['settings'], dy: number) => {
    const id = crypto.randomUUID()
    edit(`Put a legend at “${part.name}”`, [
      addRow('legend', {
        id,
        panelId: on.id,
        partId: part.id,
        xMm: part.xMm,
        yMm: part.yMm + dy,
        settings,
      }),
    ])
    pick(new Set([keyOf('legend', id)]))
  }
  const below = (kind?.frontMm.height ?? 10) / 2 + 4.5
  const turns = positionAngles(part).length > 0
  return (
    <>
      <TextField
        label="Name of the part"
        value={part.name}
        width={228}
        objection={(t) => (t.trim() === '' ? 'A part needs a name.' : null)}
        take={(t) => rename(t.trim())}
      />
      <Coordinates
        rig={rig}
        on={on}
        thing={{ key: keyOf('part', part.id), x: part.xMm, y: part.yMm }}
        name={`“${part.name}”`}
      />
      <NumberField
        label="turned"
        unit="°"
        value={part.rotationDeg}
        least={-360}
        most={360}
        take={(rotationDeg) => change('Changed the angle', { rotationDeg })}
      />
      <ExchangeChoice rig={rig} part={part} />
      {kind && (
        <p className="mono text-[11px] leading-4 text-ink2">
          {kind.frontMm.width} × {kind.frontMm.height} mm, {kind.mount.standoffMm + kind.mount.body.depthMm}{' '}
          mm deep{currentWords(kind)}
        </p>
      )}
      {kind?.front.look === 'screen' && (
        <label className="flex items-center gap-1.5 text-[12px]">
          <span className="text-ink2">shows</span>
          <select
            aria-label="Screen it shows"
            className="min-w-0 flex-1"
            value={part.settings.screen ?? ''}
            onChange={(e) => {
              const { screen: _, ...others } = part.settings
              const screen = e.target.value
              change('Changed what is shown', { settings: screen === '' ? others : { ...others, screen } })
            }}
          >
            <option value="">nothing</option>
            {screensOf(rig).map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {kind?.module && part.settings.own === undefined && (
        <p className="text-[11px] leading-4 text-ink2">
          For a {kind.module}.{kind.varies ? ` Measure yours: ${kind.varies}.` : ''}
        </p>
      )}
      {aspect && !aspect.momentary && aspect.positions.length <= 12 && (
        <details>
          <summary className="cursor-pointer text-[12px] text-ink2">Names of its positions</summary>
          <div className="grid grid-cols-2 gap-1 pt-1">
            {aspect.positions.map((p) => (
              <TextField
                key={p.id}
                label={`Position ${p.id} is called`}
                value={part.settings.labels?.[p.id] ?? ''}
                placeholder={p.id}
                width={106}
                take={(text) => {
                  const labels = { ...part.settings.labels, [p.id]: text.trim() }
                  const kept = Object.fromEntries(Object.entries(labels).filter(([, v]) => v !== ''))
                  change('Named a position', { settings: { ...part.settings, labels: kept } })
                }}
              />
            ))}
          </div>
        </details>
      )}
      <div className="flex flex-wrap gap-1.5 pt-1">
        <button
          type="button"
          className="btn"
          onClick={() =>
            addLegend(
              { kind: 'text', text: part.name.toUpperCase().slice(0, 40), sizeMm: 2.8, anchor: 'middle' },
              below,
            )
          }
        >
          Legend below
        </button>
        <button
          type="button"
          className="btn"
          title="Its own measures: front, hole, screws, body"
          onClick={() => {
            const { own } = part.settings
            if (own) useSurface.setState({ making: { own, changes: true } })
            else if (kind) useSurface.setState({ making: { own: ownKindLike(kind), changes: false } })
          }}
        >
          {part.settings.own ? 'Change its make' : 'Make one like it'}
        </button>
        {turns && (
          <button
            type="button"
            className="btn"
            title="The names of its positions, where the switch really stops"
            onClick={() =>
              addLegend(
                { kind: 'ring', radiusMm: (kind?.frontMm.width ?? 20) / 2 + 4, sizeMm: 2.8, ticks: true },
                0,
              )
            }
          >
            Legend round it
          </button>
        )}
      </div>
    </>
  )
}

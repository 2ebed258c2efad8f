'use client'
import { useMemo, useState } from 'react'
import { kindOf, ownKindLike } from '@/core/catalogue/own-kind'
import { positionsAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { type Move, moved } from '@/core/layout/arrange'
import { point } from '@/core/layout/contour'
import { positionAngles } from '@/core/layout/legend-marks'
import type { LegendFont } from '@/core/layout/lettering'
import { keyOf, middleOf, type Thing, thingsOf, unionOf } from '@/core/layout/things'
import { followRenaming } from '@/core/rig/binding-change'
import { addRow, changeRow, sameValue } from '@/core/rig/edit'
import { exchanged, exchangesFor, ownMakes } from '@/core/rig/exchange'
import { partsOf, type Rig } from '@/core/rig/rig'
import type { LegendRow, PanelRow, PartRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { useChosenPanel } from '../live/chosen-panel'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { arrayInGrid, arrayRound, commandCalled, isGrouped, nameOf } from './commands'
import { pick, usePanelView } from './view-store'

const MOST_MM = 5000

/** Where what is picked lies, in figures that can be typed. */
export const Placement = () => {
  const rig = useStore((s) => s.rig)
  const panel = useChosenPanel()
  const picked = usePanelView((s) => s.picked)
  const things = useMemo(
    () => (panel ? thingsOf(rig, panel).filter((t) => picked.has(t.key)) : []),
    [rig, panel, picked],
  )
  const [only] = things
  if (!panel || !only)
    return (
      <p className="pt-1 pb-3 text-ink2">
        Nothing is picked. Click on a part or a legend, or draw a frame round several.
      </p>
    )
  return (
    <section
      aria-label="Placement"
      className="mb-3 flex flex-col gap-1.5 border-b border-line pb-3 form-lines"
    >
      {things.length === 1 ? (
        only.table === 'part' ? (
          <PartPlace key={only.key} rig={rig} panel={panel} part={only.row} />
        ) : (
          <LegendPlace key={only.key} rig={rig} panel={panel} legend={only.row} />
        )
      ) : (
        <ManyPlace rig={rig} panel={panel} things={things} />
      )}
      <ArrayForm panel={panel} things={things} />
      <div className="flex flex-wrap gap-1.5 pt-1">
        {things.length > 1 && <CommandButton words="Group" />}
        {isGrouped(things) && <CommandButton words="Ungroup" />}
        <CommandButton words="Lock, or unlock" />
        <CommandButton words="Remove" />
      </div>
    </section>
  )
}

const CommandButton = ({ words }: { words: string }) => {
  const command = commandCalled(words)
  return (
    <button type="button" className="btn" onClick={command.run}>
      {words} {command.key && <span className="key">{command.key.replaceAll('+', ' ')}</span>}
    </button>
  )
}

const move = (rig: Rig, panel: PanelRow, words: string, key: string, by: Move): void =>
  edit(words, moved(rig, panel, new Map([[key, by]])))

const Coordinates = ({
  rig,
  panel,
  thing,
  name,
}: {
  rig: Rig
  panel: PanelRow
  thing: { key: string; xMm: number; yMm: number }
  name: string
}) => (
  <div className="flex gap-2">
    <NumberField
      label="x"
      name="x of it"
      unit="mm"
      value={thing.xMm}
      least={-MOST_MM}
      most={MOST_MM}
      take={(x) => move(rig, panel, `Moved ${name} to x = ${x} mm`, thing.key, { dx: x - thing.xMm, dy: 0 })}
    />
    <NumberField
      label="y"
      name="y of it"
      unit="mm"
      value={thing.yMm}
      least={-MOST_MM}
      most={MOST_MM}
      take={(y) => move(rig, panel, `Moved ${name} to y = ${y} mm`, thing.key, { dx: 0, dy: y - thing.yMm })}
    />
  </div>
)

const PartPlace = ({ rig, panel, part }: { rig: Rig; panel: PanelRow; part: PartRow }) => {
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
        panelId: panel.id,
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
        panel={panel}
        thing={{ key: keyOf('part', part.id), xMm: part.xMm, yMm: part.yMm }}
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
          mm deep
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
            if (own) usePanelView.setState({ making: { own, changes: true } })
            else if (kind) usePanelView.setState({ making: { own: ownKindLike(kind), changes: false } })
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

/** Another part of the family in the same place; what does not fit it is said, and undo brings it back. */
const ExchangeChoice = ({ rig, part }: { rig: Rig; part: PartRow }) => {
  const now = kindOf(part)
  const own = ownMakes(rig).filter(
    (o) => partKind(o.like)?.family === now?.family && !sameValue(o, part.settings.own),
  )
  const exchange = (choice: string) => {
    const make = own[Number(choice.slice('own '.length))]
    const to = partKind(choice.startsWith('own ') ? (make?.like ?? '') : choice)
    if (!to) return
    const { changes, lost } = exchanged(rig, part, to, choice.startsWith('own ') ? make : undefined)
    const name = choice.startsWith('own ') ? make?.name : to.name
    edit(`Exchanged “${part.name}” for ${name}`, changes)
    notify(
      lost.length === 0
        ? `“${part.name}” is now ${name}; everything it had fits.`
        : `“${part.name}” is now ${name}. Not kept: ${lost.join('; ')}. Undo brings it back.`,
      'plain',
    )
  }
  return (
    <label className="flex items-center gap-1.5 text-[12px]">
      <span className="text-ink2">is</span>
      <select
        aria-label="Exchange for"
        className="h-6 min-w-0 flex-1 py-0 text-[12px]"
        value="now"
        onChange={(e) => exchange(e.target.value)}
      >
        <option value="now">{now?.name ?? part.kind}</option>
        {own.map((o, i) => (
          <option key={o.name} value={`own ${i}`}>
            {o.name}
          </option>
        ))}
        {exchangesFor(part).map((k) => (
          <option key={k.id} value={k.id}>
            {k.name}
          </option>
        ))}
      </select>
    </label>
  )
}

const fontWords: Record<LegendFont, string> = {
  plain: 'B612',
  bold: 'B612 bold',
  mono: 'IBM Plex Mono',
}

const LegendPlace = ({ rig, panel, legend }: { rig: Rig; panel: PanelRow; legend: LegendRow }) => {
  const { settings } = legend
  const name = nameOf([
    { table: 'legend', key: '', row: legend, box: { minX: 0, minY: 0, maxX: 0, maxY: 0 } },
  ])
  const set = (to: Partial<LegendRow['settings']>) =>
    edit(`Changed ${name}`, [
      changeRow('legend', legend, { ...legend, settings: { ...settings, ...to } as LegendRow['settings'] }),
    ])
  const size = (label: string, key: string, value: number, least = 0.5, unit = 'mm', most = MOST_MM) => (
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
          {size('to the right', 'dxMm', settings.dxMm, -MOST_MM)}
          {size('down', 'dyMm', settings.dyMm, -MOST_MM)}
          {size('width', 'widthMm', settings.widthMm ?? 0.35, 0.05)}
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
          panel={panel}
          thing={{ key: keyOf('legend', legend.id), xMm: legend.xMm, yMm: legend.yMm }}
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
            {partsOf(rig, panel.id).map((p) => (
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

const twoDecimals = (mm: number): string => String(Math.round(mm * 100) / 100).replace('-', '−')

const ManyPlace = ({ rig, panel, things }: { rig: Rig; panel: PanelRow; things: readonly Thing[] }) => {
  const all = unionOf(things.map((t) => t.box))
  const by = (dx: number, dy: number) =>
    edit(`Moved ${nameOf(things)}`, moved(rig, panel, new Map(things.map((t) => [t.key, { dx, dy }]))))
  const [a, b] = things
  return (
    <>
      <b className="text-[13px]">{things.length} things</b>
      <div className="flex gap-2">
        <NumberField
          label="left"
          unit="mm"
          value={Number(twoPlaces(all.minX))}
          least={-MOST_MM}
          most={MOST_MM}
          take={(x) => by(x - all.minX, 0)}
        />
        <NumberField
          label="top"
          unit="mm"
          value={Number(twoPlaces(all.minY))}
          least={-MOST_MM}
          most={MOST_MM}
          take={(y) => by(0, y - all.minY)}
        />
      </div>
      <p className="mono text-[11px] leading-4 text-ink2">
        {twoDecimals(all.maxX - all.minX)} × {twoDecimals(all.maxY - all.minY)} mm over all
      </p>
      {things.length === 2 && a && b && <Measure a={a} b={b} />}
    </>
  )
}

const twoPlaces = (mm: number): string => mm.toFixed(2)

/** From one thing to another: middle to middle, and the gap between their edges. */
const Measure = ({ a, b }: { a: Thing; b: Thing }) => {
  const [p, q] = [middleOf(a), middleOf(b)]
  const gapX = Math.max(a.box.minX, b.box.minX) - Math.min(a.box.maxX, b.box.maxX)
  const gapY = Math.max(a.box.minY, b.box.minY) - Math.min(a.box.maxY, b.box.maxY)
  return (
    <dl aria-label="Measure" className="mono grid grid-cols-[1fr_auto] gap-x-2 text-[11px] leading-4">
      <dt className="text-ink2">middle to middle</dt>
      <dd className="m-0 text-right">{twoDecimals(Math.hypot(p.x - q.x, p.y - q.y))} mm</dd>
      <dt className="text-ink2">across, down</dt>
      <dd className="m-0 text-right">
        {twoDecimals(Math.abs(p.x - q.x))}, {twoDecimals(Math.abs(p.y - q.y))} mm
      </dd>
      <dt className="text-ink2">gap across, down</dt>
      <dd className="m-0 text-right">
        {twoDecimals(Math.max(0, gapX))}, {twoDecimals(Math.max(0, gapY))} mm
      </dd>
    </dl>
  )
}

/** The same again in rows and columns, or round a middle. */
const ArrayForm = ({ panel, things }: { panel: PanelRow; things: readonly Thing[] }) => {
  const all = unionOf(things.map((t) => t.box))
  const [columns, setColumns] = useState(3)
  const [rows, setRows] = useState(1)
  const [xMm, setX] = useState(Math.ceil(all.maxX - all.minX) + 4)
  const [yMm, setY] = useState(Math.ceil(all.maxY - all.minY) + 4)
  const [count, setCount] = useState(6)
  const [deg, setDeg] = useState(360)
  const [cx, setCx] = useState(panel.widthMm / 2)
  const [cy, setCy] = useState(panel.heightMm / 2)
  const field = (
    label: string,
    unit: string,
    value: number,
    take: (n: number) => void,
    least = -MOST_MM,
    most = MOST_MM,
  ) => <NumberField label={label} unit={unit} value={value} least={least} most={most} take={take} />
  return (
    <details>
      <summary className="cursor-pointer text-[12px] text-ink2">Several of it</summary>
      <div className="flex flex-col gap-1 pt-1.5">
        {field('columns', '', columns, (n) => setColumns(Math.round(n)), 1, 50)}
        {field('rows', '', rows, (n) => setRows(Math.round(n)), 1, 50)}
        {field('every', 'mm across', xMm, setX)}
        {field('every', 'mm down', yMm, setY)}
        <button
          type="button"
          className="btn self-start"
          disabled={rows * columns < 2}
          onClick={() => arrayInGrid(columns, rows, xMm, yMm)}
        >
          Make {columns} × {rows}
        </button>
        <div className="mt-1 border-t border-hair" />
        {field('how many', '', count, (n) => setCount(Math.round(n)), 2, 100)}
        {field('over', '°', deg, setDeg, -360, 360)}
        {field('round x', 'mm', cx, setCx)}
        {field('round y', 'mm', cy, setCy)}
        <button
          type="button"
          className="btn self-start"
          onClick={() => arrayRound(count, deg, point(cx, cy))}
        >
          Make {count} in a circle
        </button>
      </div>
    </details>
  )
}

'use client'
import { useState } from 'react'
import { partKind } from '@/core/catalogue/parts'
import { type Paper, papers } from '@/core/layout/papers'
import type { ReadPlate } from '@/core/layout/read-plate'
import { changeRow } from '@/core/rig/edit'
import { partsOf } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { NumberField } from '../editors/number-field'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { Mark } from '../primitives/mark'
import { fitView } from './view-store'

const formats = ['svg', 'dxf', 'pdf'] as const
const formatHints: Record<(typeof formats)[number], string> = {
  svg: 'Layers cut, engrave, drill and reference; hairlines; letters as curves',
  dxf: 'The same layers; circles, arcs and splines stay what they are',
  pdf: '1:1 on paper, over several sheets where it is larger, with a bar to measure',
}

/** What is taken away to the cutter, the mill and the printer, and what comes in from elsewhere. */
export const FilesForm = ({ panel }: { panel: PanelRow }) => {
  const rig = useStore((s) => s.rig)
  const waiting = useStore((s) => s.pending.some((p) => p.revision === null))
  const [kerf, setKerf] = useState(0)
  const [paper, setPaper] = useState<Paper>('A4')
  const gauges = partsOf(rig, panel.id).filter((p) => partKind(p.kind)?.front.look === 'gauge')
  const query = (as: string) => `as=${as}&kerf=${kerf}&paper=${paper}`
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
    <div tabIndex={0} className="flex h-full flex-col gap-2 overflow-y-auto p-2.5 text-[12px]">
      <h3 className="cap">Take away</h3>
      <div className="flex gap-1.5">
        {formats.map((as) => (
          <a
            key={as}
            className="btn"
            title={formatHints[as]}
            aria-disabled={waiting}
            href={`/api/panels/${panel.id}/file?${query(as)}`}
            download
          >
            {as.toUpperCase()}
          </a>
        ))}
      </div>
      {waiting && <p className="text-warn">Your last edits are not kept yet; wait a moment.</p>}
      <div className="flex flex-col gap-1.5 form-lines">
        <NumberField label="Kerf, SVG and DXF" unit="mm" value={kerf} least={0} most={5} take={setKerf} />
        <label className="flex items-center">
          <span className="text-ink2">Paper, PDF</span>
          <select className="h-6 py-0" value={paper} onChange={(e) => setPaper(e.target.value as Paper)}>
            {Object.entries(papers).map(([name, [w, h]]) => (
              <option key={name} value={name}>
                {name}, {formatNumber(w)} × {formatNumber(h)} mm
              </option>
            ))}
          </select>
        </label>
      </div>
      <p className="text-[11px] leading-4 text-ink2">
        Outlines grow and holes shrink by half the kerf. Drilled holes keep their size.
      </p>
      {gauges.length > 0 && (
        <>
          <h3 className="cap mt-2 border-t border-hair pt-2">Dial faces</h3>
          {gauges.map((g) => (
            <div key={g.id} className="flex items-center gap-1.5">
              <span className="min-w-0 flex-1 truncate" title={g.name}>
                {g.name}
              </span>
              {formats.map((as) => (
                <a
                  key={as}
                  className="text-accent underline"
                  href={`/api/parts/${g.id}/dial?${query(as)}`}
                  aria-label={`Dial of ${g.name} as ${as.toUpperCase()}`}
                  download
                >
                  {as.toUpperCase()}
                </a>
              ))}
            </div>
          ))}
        </>
      )}
      <Import panel={panel} />
    </div>
  )
}

const units = [
  [1, 'millimetres'],
  [10, 'centimetres'],
  [25.4, 'inches'],
  [25.4 / 96, 'pixels, 96 an inch'],
  [25.4 / 72, 'points, 72 an inch'],
] as const

interface Answer {
  readonly plate?: ReadPlate
  readonly unitNeeded?: boolean
  readonly reasons?: readonly string[]
}

/** An outline with its holes from an SVG or DXF file: read, looked at, and only then taken. */
const Import = ({ panel }: { panel: PanelRow }) => {
  const [file, setFile] = useState<{ name: string; text: string } | null>(null)
  const [answer, setAnswer] = useState<Answer | null>(null)
  const read = async (f: { name: string; text: string }, unit?: number) => {
    const where = `/api/plates?name=${encodeURIComponent(f.name)}${unit === undefined ? '' : `&unit=${unit}`}`
    try {
      const response = await fetch(where, { method: 'POST', body: f.text })
      setAnswer((await response.json()) as Answer)
    } catch {
      setAnswer({ reasons: ['The file could not be sent; the web process is away.'] })
    }
  }
  const choose = async (chosen: File) => {
    setAnswer(null)
    const f = { name: chosen.name, text: await chosen.text() }
    setFile(f)
    await read(f)
  }
  const take = (plate: ReadPlate) => {
    const { outline: _old, windows: _windows, ...settings } = panel.settings
    const after: PanelRow = {
      ...panel,
      widthMm: plate.widthMm,
      heightMm: plate.heightMm,
      cornerMm: plate.cornerMm,
      settings: {
        ...settings,
        holes: [...plate.holes],
        ...(plate.outline === undefined ? {} : { outline: plate.outline }),
        ...(plate.windows.length > 0 ? { windows: [...plate.windows] } : {}),
      },
    }
    edit(`Took the plate of “${panel.name}” from ${file?.name ?? 'a file'}`, [
      changeRow('panel', panel, after),
    ])
    setAnswer(null)
    setFile(null)
    fitView(after)
  }
  return (
    <>
      <h3 className="cap mt-2 border-t border-hair pt-2">Bring in</h3>
      <FileButton
        words="Plate from SVG or DXF …"
        label="Plate from SVG or DXF"
        accept=".svg,.dxf"
        take={(f) => void choose(f)}
      />
      {answer?.reasons && (
        <p role="alert" className="flex gap-1.5 leading-4 text-fault">
          <Mark shape="fault" words="refused" />
          <span>
            {file?.name}: {answer.reasons.join(' ')} The panel is as it was.
          </span>
        </p>
      )}
      {answer?.unitNeeded && file && (
        <label className="flex flex-col gap-1">
          {file.name} does not say what its numbers measure. They are
          <select
            aria-label="Unit of the file"
            defaultValue=""
            onChange={(e) => void read(file, Number(e.target.value))}
          >
            <option value="" disabled>
              choose …
            </option>
            {units.map(([mm, word]) => (
              <option key={word} value={mm}>
                {word}
              </option>
            ))}
          </select>
        </label>
      )}
      {answer?.plate && <Preview plate={answer.plate} take={take} />}
    </>
  )
}

const Preview = ({ plate, take }: { plate: ReadPlate; take: (plate: ReadPlate) => void }) => (
  <section aria-label="What was read" className="flex flex-col gap-1.5">
    <p>
      {formatNumber(plate.widthMm)} × {formatNumber(plate.heightMm)} mm,{' '}
      {plate.outline === undefined ? 'a plain rectangle' : 'an edge of its own'}, {plate.holes.length} round{' '}
      {plate.holes.length === 1 ? 'hole' : 'holes'}, {plate.windows.length} other openings.
    </p>
    <svg
      viewBox={`-1 -1 ${plate.widthMm + 2} ${plate.heightMm + 2}`}
      className="max-h-[120px] w-full"
      aria-hidden="true"
    >
      {plate.outline === undefined ? (
        <rect width={plate.widthMm} height={plate.heightMm} rx={plate.cornerMm} fill="var(--plate)" />
      ) : (
        <path d={plate.outline} fill="var(--plate)" />
      )}
      {plate.windows.map((d) => (
        <path key={d} d={d} fill="var(--sheet)" />
      ))}
      {plate.holes.map((h) => (
        <circle key={`${h.xMm} ${h.yMm}`} cx={h.xMm} cy={h.yMm} r={h.diameterMm / 2} fill="var(--sheet)" />
      ))}
    </svg>
    {plate.ignored.length > 0 && <p className="leading-4 text-ink2">Left out: {plate.ignored.join('; ')}.</p>}
    <button type="button" className="btn self-start" data-strong="true" onClick={() => take(plate)}>
      Take it for this panel
    </button>
  </section>
)

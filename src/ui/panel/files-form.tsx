'use client'
import { useState } from 'react'
import { partKind } from '@/core/catalogue/parts'
import { type Paper, papers } from '@/core/layout/papers'
import { partsOf } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { NumberField } from '../editors/number-field'
import { useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { Mark } from '../primitives/mark'
import { useBringIn } from './bring-in'
import { BringInSheet } from './bring-in-sheet'

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
          <a
            className="btn self-start"
            title="In their colours at 1:1, with a bar to measure; how they look is chosen in Calibrate"
            href={`/api/panels/${panel.id}/faces?as=pdf&paper=${paper}`}
            download
          >
            All on paper, PDF
          </a>
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

/** A plate from an SVG or DXF file: read, looked at, and only then taken. */
const Import = ({ panel }: { panel: PanelRow }) => {
  const { open, close, bringing, refused } = useBringIn()
  return (
    <>
      <h3 className="cap mt-2 border-t border-hair pt-2">Bring in</h3>
      <FileButton
        words="Plate from SVG or DXF …"
        label="Plate from SVG or DXF"
        accept=".svg,.dxf"
        take={(f) => void open(f)}
      />
      {refused && (
        <p role="alert" className="flex gap-1.5 leading-4 text-fault">
          <Mark shape="fault" words="refused" />
          <span>
            {refused.name}: {refused.reasons.join(' ')} The panel is as it was.
          </span>
        </p>
      )}
      <BringInSheet panel={panel} bringing={bringing} close={close} />
    </>
  )
}

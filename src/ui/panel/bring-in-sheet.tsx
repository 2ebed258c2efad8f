'use client'
import { useState } from 'react'
import type { Unseen } from '@/core/drawings/drawing'
import { type LeftOut, reasons } from '@/core/drawings/left-out'
import { type Picture, type PictureRole, type Role, roles } from '@/core/drawings/plate-from'
import type { LayerRead, PlateReading, UnitChoice } from '@/core/drawings/read-file'
import { taken } from '@/core/drawings/taken'
import type { PanelRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { NumberField } from '../editors/number-field'
import { edit } from '../live/edits'
import { Mark } from '../primitives/mark'
import { Sheet } from '../primitives/sheet'
import { fitView } from '../surface/view-store'
import type { BringingIn } from './bring-in'

const roleWords: Record<Role, string> = { cut: 'cut', engrave: 'engrave', leave: 'leave out' }
const unseenWords: Record<Unseen, string> = {
  off: 'off in the file',
  frozen: 'frozen in the file',
  'not plotted': 'not plotted',
  hidden: 'hidden in the file',
}
const unitWords: Record<UnitChoice['id'], string> = {
  mm: 'millimetres',
  cm: 'centimetres',
  in: 'inches',
  px: 'pixels, 96 an inch',
  pt: 'points, 72 an inch',
}
const count = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`
const layerName = (name: string): string => (name === '' ? 'without a layer' : name)

/** A drawing from elsewhere, looked at and sorted before it becomes the plate of a panel. */
export const BringInSheet = ({
  panel,
  bringing,
  close,
}: {
  panel: PanelRow
  bringing: BringingIn | null
  close: () => void
}) => (
  <Sheet
    title={bringing ? `Bring in ${bringing.name}` : 'Bring in'}
    titleShown
    className="flex max-h-[calc(100vh-96px)] w-[min(1180px,calc(100vw-48px))] flex-col p-4"
    open={bringing !== null}
    setOpen={(open) => !open && close()}
  >
    {bringing && <Looking panel={panel} bringing={bringing} close={close} />}
  </Sheet>
)

const Looking = ({
  panel,
  bringing,
  close,
}: {
  panel: PanelRow
  bringing: BringingIn
  close: () => void
}) => {
  const { reading, choices, busy } = bringing
  const { plate } = reading
  const [texts, setTexts] = useState(true)
  const needsUnit = reading.saidMm === null && choices.unitMm === undefined
  const take = () => {
    if (!plate) return
    const changes = taken(panel, plate, { texts, engraved: true }, () => crypto.randomUUID())
    edit(`Took the plate of “${panel.name}” from ${bringing.name}`, changes)
    close()
    fitView({ width: plate.widthMm, height: plate.heightMm })
  }
  return (
    <div className="flex min-h-0 gap-4" aria-busy={busy}>
      <div className="flex min-w-0 flex-1 flex-col gap-2">
        <PictureOf picture={reading.picture} shown={plate !== null} />
        <PictureKey picture={reading.picture} />
      </div>
      <div
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
        tabIndex={0}
        className="flex w-[400px] shrink-0 flex-col gap-3 overflow-y-auto pr-1 text-[12px] leading-4"
      >
        <Size reading={reading} needsUnit={needsUnit} />
        <Measures bringing={bringing} needsUnit={needsUnit} />
        <Layers bringing={bringing} />
        {plate && plate.letters.length > 0 && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={texts} onChange={(e) => setTexts(e.target.checked)} />
            Take its {count(plate.letters.length, 'text')} as legends
          </label>
        )}
        <Findings reading={reading} />
        <Left left={reading.left} />
        <div className="sticky bottom-0 mt-auto flex gap-2 border-t border-hair bg-[var(--raised)] pt-2">
          <button
            type="button"
            className="btn"
            data-strong="true"
            disabled={!plate || needsUnit || busy}
            onClick={take}
          >
            Take it for “{panel.name}”
          </button>
          <button type="button" className="btn" onClick={close}>
            Leave it
          </button>
        </div>
      </div>
    </div>
  )
}

const Size = ({ reading, needsUnit }: { reading: PlateReading; needsUnit: boolean }) => {
  const { plate, problem } = reading
  if (!plate)
    return (
      <p role="alert" className="flex gap-1.5 text-fault">
        <Mark shape="fault" words="no plate" />
        <span>{problem} The panel is as it was.</span>
      </p>
    )
  const size = `${formatNumber(plate.widthMm)} × ${formatNumber(plate.heightMm)}`
  return (
    <p className="text-[13px] leading-5">
      <b>{needsUnit ? `${size} of its own numbers` : `${size} mm`}</b>,{' '}
      {plate.outline === undefined ? 'a plain rectangle' : 'an edge of its own'},{' '}
      {count(plate.holes.length, 'round hole')}, {count(plate.windows.length, 'other opening')}
      {plate.engraved.length > 0 && ', lines to engrave'}.
    </p>
  )
}

/** Unit, scale, and which of its closed lines is the edge. */
const Measures = ({ bringing, needsUnit }: { bringing: BringingIn; needsUnit: boolean }) => {
  const { reading, choices, choose } = bringing
  const [scale, setScale] = useState(1)
  const [unit, setUnit] = useState(reading.saidMm)
  const measure = (mm: number | null, by: number) => choose({ unitMm: mm === null ? undefined : mm * by })
  const frames = choices.frames ?? 0
  const { plate, unitMm } = reading
  const sizeIn = (mm: number): string =>
    plate
      ? `: ${formatNumber((plate.widthMm / unitMm) * mm * scale)} × ${formatNumber((plate.heightMm / unitMm) * mm * scale)} mm`
      : ''
  return (
    <section aria-label="Measures" className="flex flex-col gap-1.5">
      {needsUnit && (
        <p className="flex gap-1.5 text-warn">
          <Mark shape="warn" words="asked" />
          <span>The file does not say what its numbers measure. Choose it by the size of the plate.</span>
        </p>
      )}
      <label className="flex items-center gap-2">
        <span className="w-[92px] shrink-0 text-ink2">its numbers are</span>
        <select
          aria-label="Unit of the file"
          className="h-6 min-w-0 flex-1 py-0"
          value={unit ?? ''}
          onChange={(e) => {
            const mm = e.target.value === '' ? null : Number(e.target.value)
            setUnit(mm)
            measure(mm, scale)
          }}
        >
          {unit === null && (
            <option value="" disabled>
              choose …
            </option>
          )}
          {reading.saidMm !== null && !reading.units.some((u) => u.mm === reading.saidMm) && (
            <option value={reading.saidMm}>as the file says{sizeIn(reading.saidMm)}</option>
          )}
          {reading.units.map((u) => (
            <option key={u.id} value={u.mm}>
              {unitWords[u.id]}
              {u.mm === reading.saidMm ? ', as the file says' : ''}
              {sizeIn(u.mm)}
            </option>
          ))}
        </select>
      </label>
      <div className="form-lines">
        <NumberField
          label="drawn at a scale of 1 to"
          unit=""
          value={scale}
          least={0.001}
          most={1000}
          take={(n) => {
            setScale(n)
            measure(unit ?? reading.saidMm, n)
          }}
        />
      </div>
      <div className="flex items-center gap-2">
        <span className="flex-1 text-ink2">
          {frames === 0
            ? 'The largest closed line is its edge.'
            : `${count(frames, 'closed line')} round the edge left out as ${frames === 1 ? 'a frame' : 'frames'}.`}
        </span>
        {frames > 0 && (
          <button type="button" className="btn" onClick={() => choose({ frames: frames - 1 })}>
            The larger one
          </button>
        )}
        <button
          type="button"
          className="btn"
          disabled={!plate || frames >= 20}
          title="Where a frame is drawn round the plate, the edge is the next smaller closed line"
          onClick={() => choose({ frames: frames + 1 })}
        >
          The next smaller
        </button>
      </div>
    </section>
  )
}

const Layers = ({ bringing: { reading, setRole } }: { bringing: BringingIn }) => (
  <section aria-label="Layers">
    <h3 className="cap mb-1">Layers</h3>
    <ul className="border-t border-hair">
      {reading.layers
        .filter((l) => l.lines + l.texts > 0)
        .map((l) => (
          <li key={l.name} className="flex items-center gap-2 border-b border-hair py-1">
            <span className="min-w-0 flex-1">
              <span className="block truncate" title={l.name}>
                {layerName(l.name)}
              </span>
              <span className="block text-[11px] text-ink2">{holds(l)}</span>
            </span>
            <fieldset className="flex shrink-0" aria-label={`Layer ${layerName(l.name)}`}>
              {roles.map((role) => (
                <button
                  key={role}
                  type="button"
                  className={`btn -ml-px h-6 rounded-none px-2 py-0 first:rounded-l last:rounded-r ${l.role === role ? 'border-accent bg-accent-bg text-accent' : ''}`}
                  aria-pressed={l.role === role}
                  onClick={() => setRole(l.name, role)}
                >
                  {roleWords[role]}
                </button>
              ))}
            </fieldset>
          </li>
        ))}
    </ul>
  </section>
)

const holds = (l: LayerRead): string =>
  [
    ...(l.lines > 0 ? [count(l.lines, 'line')] : []),
    ...(l.texts > 0 ? [count(l.texts, 'text')] : []),
    ...(l.unseen === null ? [] : [unseenWords[l.unseen]]),
  ].join(', ')

const Findings = ({ reading: { findings } }: { reading: PlateReading }) =>
  findings.length === 0 ? null : (
    <section aria-label="What will be found">
      <h3 className="cap mb-1">To be mended</h3>
      <ul className="flex flex-col gap-1">
        {findings.slice(0, 20).map((f) => (
          <li key={f.id} className="flex gap-1.5">
            <Mark shape="warn" words="to be mended" />
            {f.words}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-[11px] text-ink2">
        {findings.length > 20 && `And ${findings.length - 20} more. `}Panel lists{' '}
        {findings.length === 1 ? 'it' : 'them'} under Fit with a cure, once the plate is taken.
      </p>
    </section>
  )

const Left = ({ left }: { left: readonly LeftOut[] }) => (
  <section aria-label="Left out">
    <h3 className="cap mb-1">Left out</h3>
    {left.length === 0 ? (
      <p>Nothing: all that is in the file was read.</p>
    ) : (
      <table className="w-full border-t border-hair">
        <tbody>
          {left.map((l) => (
            <tr key={`${l.layer} ${l.what} ${l.why}`} className="border-b border-hair align-top">
              <td className="py-1 pr-2 text-right tabular-nums">{l.count}</td>
              <td className="py-1 pr-2 whitespace-nowrap">{l.what}</td>
              <td className="py-1 pr-2">{reasons[l.why]}</td>
              <td className="max-w-[96px] truncate py-1 text-ink2" title={l.layer}>
                {l.layer}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    )}
  </section>
)

const looks: Record<PictureRole, React.SVGProps<SVGPathElement>> = {
  left: { fill: 'none', stroke: '#e08a3c', strokeWidth: 1.5, strokeDasharray: '4 3' },
  edge: { fill: 'var(--plate)', stroke: 'var(--ink)', strokeWidth: 1.5 },
  opening: { fill: 'var(--sheet)', stroke: 'var(--ink)' },
  hole: { fill: 'var(--sheet)', stroke: 'var(--ink)' },
  engraved: { fill: 'none', stroke: 'var(--legend)' },
}
const order: readonly PictureRole[] = ['edge', 'opening', 'hole', 'engraved', 'left']
const keyWords: Record<PictureRole, string> = {
  edge: 'edge',
  opening: 'opening',
  hole: 'round hole',
  engraved: 'engraved',
  left: 'left out',
}

const PictureOf = ({ picture, shown }: { picture: Picture; shown: boolean }) => {
  const { minX, minY, maxX, maxY } = picture.box
  // On the plate as it will be; without one there is only the sheet.
  const ink = shown ? 'var(--legend)' : 'var(--ink)'
  const margin = 0.03 * Math.max(maxX - minX, maxY - minY, 1e-6)
  const box = [minX - margin, minY - margin, maxX - minX + 2 * margin, maxY - minY + 2 * margin]
  return (
    <svg
      role="img"
      aria-label={shown ? 'What was read' : 'What was read; there is no plate in it'}
      viewBox={box.join(' ')}
      className="h-[min(560px,calc(100vh-240px))] w-full rounded border border-hair bg-[var(--sheet)]"
    >
      {order.map((is) => (
        <path
          key={is}
          d={picture.lines
            .filter((l) => l.is === is)
            .map((l) => l.d)
            .join('')}
          vectorEffect="non-scaling-stroke"
          {...looks[is]}
          {...(is === 'engraved' ? { stroke: ink } : {})}
        />
      ))}
      {picture.letters.map((l, i) => (
        <text
          key={i}
          transform={`translate(${l.at.x} ${l.at.y}) rotate(${l.deg})`}
          fontSize={l.capHeightMm / 0.76}
          fontFamily="B612"
          textAnchor={l.anchor}
          fill={ink}
        >
          {l.text}
        </text>
      ))}
    </svg>
  )
}

/** What each look in the picture stands for, with how many there are. */
const PictureKey = ({ picture }: { picture: Picture }) => (
  <ul className="flex flex-wrap gap-x-4 gap-y-1 text-[11px] text-ink2">
    {order.map((is) => {
      const n = picture.lines.filter((l) => l.is === is).length
      return n === 0 ? null : (
        <li key={is} className="flex items-center gap-1.5">
          <svg viewBox="0 0 18 12" className="h-3 w-[18px]" aria-hidden="true">
            {is === 'engraved' && <rect width="18" height="12" fill="var(--plate)" />}
            <path d={is === 'engraved' || is === 'left' ? 'M1 6h16' : 'M1 1h16v10H1z'} {...looks[is]} />
          </svg>
          {keyWords[is]}
          {is === 'edge' ? '' : ` ${n}`}
        </li>
      )
    })}
  </ul>
)

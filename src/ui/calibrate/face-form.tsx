import { useMemo, useState } from 'react'
import {
  bandColours,
  captionSides,
  type FaceBand,
  type FaceCaption,
  type NeedleFace,
  numberDivisors,
} from '@/core/aspects/face'
import type { NeedleSettings } from '@/core/aspects/needle'
import type { NeedleAspect } from '@/core/catalogue/part-kind'
import { isSharedScale } from '@/core/layout/dial'
import { faceOf } from '@/core/layout/dial-drawing'
import { bandInks } from '@/core/layout/dial-inks'
import { type Paper, papers } from '@/core/layout/papers'
import type { PartRow } from '@/core/rig/rows'
import { put } from '../editors/change-aspect'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { TextField } from '../editors/text-field'
import { useStore } from '../live/store'
import { SameFor } from './same-for'

const FAR = 1e9
const WORDS_MM = 3
const byItself = 'auto'

/** How the face of a needle's scale looks, and the face as it is taken to the printer or the engraver. */
export const FaceForm = ({
  part,
  aspect,
  dial,
}: {
  part: PartRow
  aspect: NeedleAspect
  dial: NeedleSettings
}) => {
  const { face = {} } = dial
  const problems = useMemo(() => faceOf(part)?.face.problems ?? [], [part])
  const take = (more: Partial<NeedleFace>) => {
    const next = Object.entries({ ...face, ...more }).filter(
      ([, v]) => v !== undefined && !(Array.isArray(v) && v.length === 0),
    )
    const { face: _, ...rest } = dial
    put(part, aspect, next.length === 0 ? rest : { ...rest, face: Object.fromEntries(next) })
  }
  if (isSharedScale(part, aspect.id))
    return (
      <p className="text-[12px] text-ink2">
        It shares its scale with the first needle: its face is drawn there.
      </p>
    )
  return (
    <section aria-label="Dial face" className="text-[12px]">
      {problems.length > 0 && (
        <ul role="alert" className="mb-2 text-[13px] leading-[18px] text-warn">
          {problems.map((p) => (
            <li key={p}>◇ {p}</li>
          ))}
        </ul>
      )}
      <div className="flex max-w-[330px] flex-col gap-3">
        <Marks face={face} take={take} />
        <Bands
          bands={face.bands ?? []}
          from={dial.points[0]?.value ?? 0}
          to={dial.points.at(-1)?.value ?? 0}
          put={(bands) => take({ bands })}
        />
        <Captions captions={face.captions ?? []} put={(captions) => take({ captions })} />
      </div>
      <Take part={part} />
      {dial.face && (
        <SameFor part={part} aspect={aspect} give={(theirs) => ({ ...theirs, face: dial.face })} />
      )}
    </section>
  )
}

interface FaceProps {
  readonly face: NeedleFace
  readonly take: (more: Partial<NeedleFace>) => void
}

const Marks = ({ face, take }: FaceProps) => (
  <div className="flex flex-col gap-1.5 form-lines">
    <NumberField
      label="A number every"
      unit=""
      least={1e-6}
      most={FAR}
      value={face.step}
      take={(step) => take({ step })}
      none={{ shown: byItself, clear: () => take({ step: undefined }) }}
    />
    <NumberField
      label="Parts between"
      unit=""
      least={1}
      most={20}
      value={face.divisions}
      take={(n) => take({ divisions: Math.round(n) })}
      none={{ shown: byItself, clear: () => take({ divisions: undefined }) }}
    />
    <NumberField
      label="Numbers high"
      unit="mm"
      least={1.2}
      most={15}
      value={face.sizeMm}
      take={(sizeMm) => take({ sizeMm })}
      none={{ shown: byItself, clear: () => take({ sizeMm: undefined }) }}
    />
    <label className="flex items-center">
      <span className="text-ink2">They show</span>
      <select
        className="h-6 py-0"
        value={face.noNumbers ? 'none' : (face.divideBy ?? 1)}
        onChange={(e) => {
          const divideBy = numberDivisors.find((d) => String(d) === e.target.value)
          take({
            divideBy: divideBy === 1 ? undefined : divideBy,
            noNumbers: e.target.value === 'none' ? true : undefined,
          })
        }}
      >
        {numberDivisors.map((d) => (
          <option key={d} value={d}>
            {d === 1 ? 'the value' : d < 1 ? `value × ${1 / d}` : `value ÷ ${d}`}
          </option>
        ))}
        <option value="none">nothing</option>
      </select>
    </label>
    <label className="flex items-center">
      <span className="text-ink2">Ground</span>
      <select
        className="h-6 py-0"
        value={face.ground ?? 'dark'}
        onChange={(e) => take({ ground: e.target.value === 'light' ? 'light' : undefined })}
      >
        <option value="dark">dark, light marks</option>
        <option value="light">light, dark marks</option>
      </select>
    </label>
  </div>
)

const Bands = ({
  bands,
  from,
  to,
  put,
}: {
  bands: readonly FaceBand[]
  from: number
  to: number
  put: (bands: FaceBand[]) => void
}) => {
  const change = (i: number, more: Partial<FaceBand>) =>
    put(bands.map((b, k) => (k === i ? { ...b, ...more } : b)))
  const last = bands.at(-1)?.to ?? from
  return (
    <div>
      {bands.map((b, i) => (
        <div key={i} className="mb-1 flex items-center gap-1.5" data-face-band={b.colour}>
          <span
            aria-hidden="true"
            className="h-3 w-3 shrink-0 border border-line"
            style={{ background: bandInks[b.colour] }}
          />
          <select
            aria-label={`Colour of arc ${i + 1}`}
            className="h-6 py-0"
            value={b.colour}
            onChange={(e) => change(i, { colour: bandColours.find((c) => c === e.target.value) ?? b.colour })}
          >
            {bandColours.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </select>
          <NumberField
            narrow
            label=""
            name={`Arc ${i + 1} from`}
            unit=""
            least={-FAR}
            most={b.to}
            value={b.from}
            take={(v) => change(i, { from: v })}
          />
          <NumberField
            narrow
            label="–"
            name={`Arc ${i + 1} to`}
            unit=""
            least={b.from}
            most={FAR}
            value={b.to}
            take={(v) => change(i, { to: v })}
          />
          <RemoveLine take={() => put(bands.filter((_, k) => k !== i))} />
        </div>
      ))}
      <button
        type="button"
        className="btn"
        title="Along the values that it is for; one that ends where it begins is a line across"
        disabled={bands.length >= 12}
        onClick={() => {
          const begin = last < to ? last : from
          const colour = bandColours[Math.min(bands.length, 2)] ?? 'white'
          put([...bands, { from: begin, to: Number((begin + (to - begin) / 2).toPrecision(3)), colour }])
        }}
      >
        Another arc
      </button>
    </div>
  )
}

const Captions = ({
  captions,
  put,
}: {
  captions: readonly FaceCaption[]
  put: (captions: FaceCaption[]) => void
}) => {
  const change = (i: number, more: Partial<FaceCaption>) =>
    put(captions.map((c, k) => (k === i ? { ...c, ...more } : c)))
  return (
    <div>
      {captions.map((c, i) => (
        <div key={i} className="mb-1 flex items-center gap-1.5">
          <TextField
            label={`Words ${i + 1}`}
            value={c.text}
            objection={(t) => (t.trim() === '' || t.trim().length > 32 ? '1 to 32 letters will do.' : null)}
            take={(text) => change(i, { text: text.trim() })}
          />
          <select
            aria-label={`Where words ${i + 1} stand`}
            className="h-6 py-0"
            value={c.side}
            onChange={(e) => change(i, { side: captionSides.find((s) => s === e.target.value) ?? c.side })}
          >
            {captionSides.map((s) => (
              <option key={s}>{s}</option>
            ))}
          </select>
          <NumberField
            narrow
            label=""
            name={`Words ${i + 1} high`}
            unit="mm"
            least={1.2}
            most={15}
            value={c.sizeMm}
            take={(sizeMm) => change(i, { sizeMm })}
          />
          <RemoveLine take={() => put(captions.filter((_, k) => k !== i))} />
        </div>
      ))}
      <button
        type="button"
        className="btn"
        disabled={captions.length >= 6}
        onClick={() => {
          const side = captionSides.find((s) => captions.every((c) => c.side !== s)) ?? 'below'
          put([...captions, { text: captions.length === 0 ? 'UNIT' : 'WORDS', sizeMm: WORDS_MM, side }])
        }}
      >
        More words
      </button>
    </div>
  )
}

/** The face as files: in its colours for a printer, as lines for an engraver. */
const Take = ({ part }: { part: PartRow }) => {
  const [paper, setPaper] = useState<Paper>('A4')
  const waiting = useStore((s) => s.pending.some((p) => p.revision === null))
  const link = (to: string, words: string, label: string) => (
    <a className="btn" href={to} aria-label={label} aria-disabled={waiting} download>
      {words}
    </a>
  )
  return (
    <p className="mt-3 flex flex-wrap items-center gap-1.5">
      <span className="w-full text-ink2">Print at 1:1, in its colours</span>
      <select
        aria-label="Paper"
        className="h-6 py-0"
        value={paper}
        onChange={(e) => setPaper(e.target.value as Paper)}
      >
        {Object.keys(papers).map((p) => (
          <option key={p}>{p}</option>
        ))}
      </select>
      {link(`/api/parts/${part.id}/face?as=pdf&paper=${paper}`, 'PDF', 'This face printed, as PDF')}
      {link(
        `/api/panels/${part.panelId}/faces?as=pdf&paper=${paper}`,
        'All of this panel',
        'All of this panel, their faces printed, as PDF',
      )}
      {link(`/api/parts/${part.id}/face?as=svg`, 'SVG', 'This face printed, as SVG')}
      <span className="mt-1 w-full text-ink2">Cut and engrave</span>
      {(['svg', 'dxf'] as const).map((as) => (
        <span key={as}>
          {link(
            `/api/parts/${part.id}/dial?as=${as}`,
            as.toUpperCase(),
            `This face to be cut, as ${as.toUpperCase()}`,
          )}
        </span>
      ))}
      {waiting && <span className="text-warn">Your last edits are not kept yet; wait a moment.</span>}
    </p>
  )
}

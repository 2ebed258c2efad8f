import {
  bandColours,
  captionSides,
  type FaceBand,
  type FaceCaption,
  type NeedleFace,
  numberDivisors,
} from '@/core/aspects/face'
import { bandInks } from '@/core/layout/dial-inks'
import type { NeedlePoint } from '@/core/signal/needle'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { TextField } from '../editors/text-field'

const FAR = 1e9
const WORDS_MM = 3
const byItself = 'auto'

/** How the face of a scale looks: of a real needle, or of one that is drawn on a screen. */
export const FaceFields = ({
  face,
  points,
  take,
}: {
  face: NeedleFace
  points: readonly NeedlePoint[]
  take: (face: NeedleFace) => void
}) => {
  const put = (more: Partial<NeedleFace>) =>
    take(
      Object.fromEntries(
        Object.entries({ ...face, ...more }).filter(
          ([, v]) => v !== undefined && !(Array.isArray(v) && v.length === 0),
        ),
      ),
    )
  return (
    <div className="flex max-w-[330px] flex-col gap-3">
      <Marks face={face} take={put} />
      <Bands
        bands={face.bands ?? []}
        from={points[0]?.value ?? 0}
        to={points.at(-1)?.value ?? 0}
        put={(bands) => put({ bands })}
      />
      <Captions captions={face.captions ?? []} put={(captions) => put({ captions })} />
    </div>
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

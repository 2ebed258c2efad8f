import { useMemo, useState } from 'react'
import type { NeedleFace } from '@/core/aspects/face'
import type { NeedleSettings } from '@/core/aspects/needle'
import type { NeedleAspect } from '@/core/catalogue/part-kind'
import { isSharedScale } from '@/core/layout/dial'
import { faceOf } from '@/core/layout/dial-drawing'
import { type Paper, papers } from '@/core/layout/papers'
import type { PartRow } from '@/core/rig/rows'
import { put } from '../editors/change-aspect'
import { useStore } from '../live/store'
import { FaceFields } from './face-fields'
import { SameFor } from './same-for'

/** A needle with another face; with an empty one it is as it comes by itself. */
const withFace = ({ face: _, ...rest }: NeedleSettings, face: NeedleFace): NeedleSettings =>
  Object.keys(face).length === 0 ? rest : { ...rest, face }

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
      <FaceFields face={face} points={dial.points} take={(next) => put(part, aspect, withFace(dial, next))} />
      <Take part={part} />
      {dial.face && (
        <SameFor part={part} aspect={aspect} give={(theirs) => ({ ...theirs, face: dial.face })} />
      )}
    </section>
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

'use client'
import { useState } from 'react'
import { kindOf, type OwnKind, ownKind, ownKindLike } from '@/core/catalogue/own-kind'
import { partKind, partKinds } from '@/core/catalogue/parts'
import { changeRow, sameValue } from '@/core/rig/edit'
import { writePartFile } from '@/core/rig/own-file'
import { rowsOf } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { PartDrawing } from '../drawing/part-drawing'
import { NumberField } from '../editors/number-field'
import { RemoveLine } from '../editors/remove-line'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Sheet } from '../primitives/sheet'
import { useSurface } from '../surface/view-store'
import { Behind } from './behind-drawing'

/** Makes a part of one's own, or changes one, with its drawing beside the figures. */
export const OwnPartSheet = () => {
  const making = useSurface((s) => s.making)
  const close = () => useSurface.setState({ making: null })
  return (
    <Sheet
      title="A part of your own"
      titleShown
      className="max-h-[86vh] w-[640px] overflow-y-auto p-4"
      open={making !== null}
      setOpen={(open) => !open && close()}
    >
      {making && <Form begun={making.own} changes={making.changes} close={close} />}
    </Sheet>
  )
}

/** Parts of the rig that are of this make. */
const ofMake = (own: OwnKind): PartRow[] =>
  rowsOf(useStore.getState().rig, 'part').filter((p) => sameValue(p.settings.own, own))

const Form = ({ begun, changes, close }: { begun: OwnKind; changes: boolean; close: () => void }) => {
  const [own, setOwn] = useState(begun)
  const checked = ownKind.safeParse(own)
  const problem = checked.success ? null : checked.error.issues[0]
  const set = (to: Partial<OwnKind>) => setOwn({ ...own, ...to })
  const done = () => {
    if (!checked.success) return
    if (changes) {
      const parts = ofMake(begun)
      edit(
        `Changed the make of ${parts.length === 1 ? `“${parts[0]?.name}”` : `${parts.length} parts`} to “${own.name}”`,
        parts.map((p) => changeRow('part', p, { ...p, settings: { ...p.settings, own: checked.data } })),
      )
    } else useSurface.setState({ tool: { is: 'part', kind: own.like, own: checked.data } })
    close()
  }
  const number = (
    label: string,
    key: 'widthMm' | 'heightMm' | 'bodyWidthMm' | 'bodyHeightMm' | 'depthMm' | 'standoffMm',
  ) => (
    <NumberField
      label={label}
      unit="mm"
      value={own[key]}
      least={0}
      most={500}
      take={(n) => set({ [key]: n })}
    />
  )
  return (
    <div className="grid grid-cols-[1fr_250px] gap-4">
      <div className="flex flex-col gap-1.5 text-[12px] form-lines">
        <label className="flex items-center gap-2">
          <span className="text-ink2">Name</span>
          <input className="w-[230px]" value={own.name} onChange={(e) => set({ name: e.target.value })} />
        </label>
        <label className="flex items-center gap-2">
          <span className="text-ink2">Works like</span>
          <select
            className="h-6 w-[230px] py-0"
            value={own.like}
            disabled={changes}
            onChange={(e) => {
              const kind = partKind(e.target.value)
              if (kind) setOwn(ownKindLike(kind))
            }}
          >
            {partKinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </select>
        </label>
        <h3 className="cap mt-1.5">In front</h3>
        {number('Width', 'widthMm')}
        {number('Height', 'heightMm')}
        <h3 className="cap mt-1.5">Through the plate</h3>
        <CutoutFields own={own} set={set} />
        {own.screws.map((s, i) => (
          <div key={`${s.xMm} ${s.yMm}`} className="flex items-center gap-1">
            <span className="flex-1 text-ink2">Screw {i + 1}: x, y, ⌀</span>
            {(['xMm', 'yMm', 'diameterMm'] as const).map((key) => (
              <NumberField
                key={key}
                label=""
                name={`${key === 'diameterMm' ? 'Diameter' : key[0]} of screw ${i + 1}`}
                unit=""
                narrow
                value={s[key]}
                least={key === 'diameterMm' ? 0.5 : -500}
                most={500}
                take={(n) => set({ screws: own.screws.map((o, k) => (k === i ? { ...o, [key]: n } : o)) })}
              />
            ))}
            <RemoveLine
              label={`Remove screw ${i + 1}`}
              take={() => set({ screws: own.screws.filter((_, k) => k !== i) })}
            />
          </div>
        ))}
        <button
          type="button"
          className="btn self-start"
          onClick={() =>
            set({
              screws: [
                ...own.screws,
                { xMm: 0, yMm: own.heightMm / 2 + 4 + own.screws.length, diameterMm: 3.2 },
              ],
            })
          }
        >
          A screw
        </button>
        <h3 className="cap mt-1.5">Behind</h3>
        {number('Body width', 'bodyWidthMm')}
        {number('Body height', 'bodyHeightMm')}
        {number('Depth', 'depthMm')}
        {number('On standoffs of', 'standoffMm')}
      </div>
      <div className="flex flex-col gap-2">
        <Live own={own} />
        {problem && (
          <p role="alert" className="text-[12px] text-fault">
            {problem.path.join(' ')}: {problem.message}
          </p>
        )}
        <div className="flex flex-wrap gap-1.5">
          <button type="button" className="btn" data-strong="true" disabled={!checked.success} onClick={done}>
            {changes ? 'Change it' : 'Put it on the plate'}
          </button>
          <a
            className="btn"
            href={`data:application/json;charset=utf-8,${encodeURIComponent(writePartFile(own))}`}
            download={`${own.name.replace(/[^\p{L}\p{N} _-]+/gu, '') || 'part'}.part.json`}
          >
            Save as a file
          </a>
        </div>
        <p className="text-[11px] leading-4 text-ink2">
          It has the terminals of the part it works like, and does the same. It is kept with the rig, in every
          part of this make.
        </p>
      </div>
    </div>
  )
}

const CutoutFields = ({ own, set }: { own: OwnKind; set: (to: Partial<OwnKind>) => void }) => {
  const { cutout } = own
  const fresh: Record<OwnKind['cutout']['is'], OwnKind['cutout']> = {
    round: { is: 'round', diameterMm: 10 },
    'flat-sided': { is: 'flat-sided', diameterMm: 10, acrossMm: 9 },
    window: { is: 'window', widthMm: own.widthMm, heightMm: own.heightMm, cornerMm: 0.5 },
  }
  const field = (label: string, key: string, value: number) => (
    <NumberField
      label={label}
      unit="mm"
      value={value}
      least={0}
      most={500}
      take={(n) => set({ cutout: { ...cutout, [key]: n } as OwnKind['cutout'] })}
    />
  )
  return (
    <>
      <label className="flex items-center">
        <span className="text-ink2">Hole</span>
        <select
          className="h-6 py-0"
          value={cutout.is}
          onChange={(e) => set({ cutout: fresh[e.target.value as OwnKind['cutout']['is']] })}
        >
          <option value="round">round</option>
          <option value="flat-sided">round with a flat</option>
          <option value="window">window</option>
        </select>
      </label>
      {cutout.is !== 'window' && field('Diameter', 'diameterMm', cutout.diameterMm)}
      {cutout.is === 'flat-sided' && field('Across the flat', 'acrossMm', cutout.acrossMm)}
      {cutout.is === 'window' && field('Hole width', 'widthMm', cutout.widthMm)}
      {cutout.is === 'window' && field('Hole height', 'heightMm', cutout.heightMm)}
      {cutout.is === 'window' && field('Hole corners', 'cornerMm', cutout.cornerMm)}
    </>
  )
}

/** The part as it is typed: from the front on its plate, and what is behind. */
const Live = ({ own }: { own: OwnKind }) => {
  const part: PartRow = {
    id: 'own sample',
    panelId: '',
    name: own.name,
    kind: own.like,
    xMm: 0,
    yMm: 0,
    rotationDeg: 0,
    settings: { own },
  }
  const kind = kindOf(part)
  const reach = Math.max(10, own.widthMm, own.heightMm, own.bodyWidthMm, own.bodyHeightMm) / 2 + 6
  return (
    <div inert>
      <svg
        aria-hidden="true"
        viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`}
        className="h-[250px] w-[250px] bg-[var(--plate)]"
      >
        <g pointerEvents="none">
          {kind && <PartDrawing part={part} selected={false} operable={false} />}
          <Behind part={part} />
        </g>
      </svg>
    </div>
  )
}

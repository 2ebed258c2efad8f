'use client'
import { useMemo } from 'react'
import { kindOf } from '@/core/catalogue/own-kind'
import { isIndicator } from '@/core/catalogue/part-kind'
import { dialFace } from '@/core/layout/dial-face'
import { changeRow } from '@/core/rig/edit'
import { settingsOf } from '@/core/rig/part-settings'
import { type Rig, rowsOf } from '@/core/rig/rig'
import type { ElementRow, PartRow } from '@/core/rig/rows'
import { FaceFields } from '../calibrate/face-fields'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { changeElement } from './change'

/** The needles of the rig's gauges. */
const needlesOf = (rig: Rig): { readonly part: PartRow; readonly aspect: string; readonly name: string }[] =>
  rowsOf(rig, 'part').flatMap((part) => {
    const needles = (kindOf(part)?.aspects ?? []).filter((a) => isIndicator(a) && a.kind === 'needle')
    return needles.map((a) => ({
      part,
      aspect: a.id,
      name: needles.length > 1 ? `${part.name}, ${a.id}` : part.name,
    }))
  })

/** The face of a drawn dial: the same design as that of a real one, taken from a gauge of the rig, or given to one. */
export const NeedleFaceField = ({ row }: { row: ElementRow }) => {
  const rig = useStore((s) => s.rig)
  const { settings } = row
  const problems = useMemo(
    () =>
      settings.kind === 'needle' && settings.showsFace
        ? dialFace([settings], settings.dialMm / 2).problems
        : [],
    [settings],
  )
  if (settings.kind !== 'needle') return null
  const needles = needlesOf(rig)
  const chosen = (at: string) => needles[Number(at)]
  const from = (at: string) => {
    const needle = chosen(at)
    const own = needle && settingsOf(needle.part.settings, needle.aspect, 'needle')
    if (!own) return
    const { points, smooth = false, face = {} } = own
    changeElement(row, `“${row.name}” has the dial of “${needle.name}”`, { points, smooth, face })
  }
  const give = (at: string) => {
    const needle = chosen(at)
    if (!needle) return
    const { part, aspect } = needle
    const { points, smooth, face } = settings
    const before = settingsOf(part.settings, aspect, 'needle')
    const next = { ...before, kind: 'needle' as const, points, smooth, face }
    edit(`“${needle.name}” has the dial of “${row.name}”`, [
      changeRow('part', part, {
        ...part,
        settings: { ...part.settings, aspects: { ...part.settings.aspects, [aspect]: next } },
      }),
    ])
  }
  const choice = (label: string, take: (at: string) => void, own: readonly (typeof needles)[number][]) => (
    <select aria-label={label} className="w-full" value="" onChange={(e) => take(e.target.value)}>
      <option value="">{label} …</option>
      {own.map((n) => (
        <option key={`${n.part.id} ${n.aspect}`} value={needles.indexOf(n)}>
          {n.name}
        </option>
      ))}
    </select>
  )
  return (
    <details>
      <summary className="cursor-pointer text-ink2">Its face, and real gauges</summary>
      <div className="flex flex-col gap-2 pt-1.5">
        {problems.map((p) => (
          <p key={p} className="text-warn">
            ◇ {p}
          </p>
        ))}
        {needles.length > 0 && (
          <>
            {choice(
              'Take the dial of a gauge',
              from,
              needles.filter((n) => settingsOf(n.part.settings, n.aspect, 'needle')),
            )}
            {choice('Give this dial to a gauge', give, needles)}
          </>
        )}
        <FaceFields
          face={settings.face}
          points={settings.points}
          take={(face) => changeElement(row, `Changed the face of “${row.name}”`, { face })}
        />
      </div>
    </details>
  )
}

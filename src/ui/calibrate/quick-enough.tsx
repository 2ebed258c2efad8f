import { useEffect, useState } from 'react'
import { gainsOf, type NeedleSettings } from '@/core/aspects/needle'
import { furthestBehind, type NeedleFollowed, timeFor } from '@/core/calibration/motor'
import type { NeedleAspect, PartKind } from '@/core/catalogue/part-kind'
import { partKinds } from '@/core/catalogue/parts'
import { unpackSeries } from '@/core/recording/packed-series'
import { bindingsOf } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { notify, useStore } from '../live/store'
import { listRecordings, useRecordings } from '../recordings/recordings-store'

/** Nobody sees that a needle is so late. */
const UNNOTICED_MS = 150

const seconds = (ms: number): string => `${formatNumber(Number((ms / 1000).toFixed(2)))} s`

/** Parts of the catalogue whose needles get over an angle within a time, as quickly as they can be told. */
const quickEnough = (deg: number, ms: number): PartKind[] =>
  partKinds.filter((k) =>
    k.aspects.some(
      (a) =>
        a.kind === 'needle' &&
        a.drive !== 'frequency' &&
        a.drive !== 'voltage' &&
        timeFor(deg, a.degPerS) <= ms + UNNOTICED_MS &&
        a.travelDeg >= deg,
    ),
  )

/** Whether the motor is quick enough for what its variable did in a recording. */
export const QuickEnough = ({
  part,
  aspect,
  dial,
}: {
  part: PartRow
  aspect: NeedleAspect
  dial: NeedleSettings
}) => {
  const rig = useStore((s) => s.rig)
  const list = useRecordings((s) => s.list)
  const [id, setId] = useState('')
  const [found, setFound] = useState<NeedleFollowed | 'still' | null>(null)
  const row = bindingsOf(rig, part.id).find(
    ({ settings: s }) => s.kind === 'needle' && (s.aspect ?? aspect.id) === aspect.id,
  )
  const variable = row?.settings.kind === 'needle' ? row.settings.variable : null
  const isPlain = row?.settings.kind === 'needle' && row.settings.show.trim() === 'input'
  const degPerS = dial.degPerS ?? aspect.degPerS
  const gains = gainsOf(aspect, dial)
  useEffect(() => {
    if (useRecordings.getState().list === null) void listRecordings()
  }, [])
  useEffect(() => {
    setFound(null)
    if (id === '' || !variable) return
    let over = false
    fetch(`/api/recordings/${id}/series?name=${encodeURIComponent(variable)}`)
      .then(async (response) => {
        if (!response.ok || over) throw new Error()
        const [series] = unpackSeries(await response.arrayBuffer())
        if (!series || over) return
        setFound(
          furthestBehind(
            series.times.map((t) => t / 1000),
            series.values,
            dial,
            degPerS,
            gains,
          ) ?? 'still',
        )
      })
      .catch(() => {
        if (!over) notify('That recording cannot be read.')
      })
    return () => {
      over = true
    }
  }, [id, variable, dial, degPerS])
  // A frequency is followed by an instrument in its own way.
  if (!variable || aspect.drive === 'frequency' || aspect.drive === 'voltage') return null
  const isLate = found !== null && found !== 'still' && found.takesMs > found.ms + UNNOTICED_MS
  return (
    <div className="mb-2 text-[12px]">
      <dt className="text-ink2">Quick enough for</dt>
      <dd>
        <select
          aria-label="Quick enough for this recording"
          className="w-full"
          value={id}
          onChange={(e) => setId(e.target.value)}
        >
          <option value="">a recording …</option>
          {list?.map((r) => (
            <option key={r.id} value={r.id}>
              {r.name}
            </option>
          ))}
        </select>
        {found === 'still' && <p className="mt-1 text-ink2">{variable} did not move in it.</p>}
        {found && found !== 'still' && (
          <p role="status" className={`mt-1 leading-4 ${isLate ? 'text-warn' : 'text-ink2'}`}>
            {isLate ? '◇ ' : ''}
            From {formatNumber(Number(found.from.toFixed(1)))} to {formatNumber(Number(found.to.toFixed(1)))}{' '}
            the craft took {seconds(found.ms)}, this motor takes {seconds(found.takesMs)}.
            {isLate && ` ${wouldDo(found)}`}
            {!isPlain && ' Its shaping is left out of this.'}
          </p>
        )}
      </dd>
    </div>
  )
}

const wouldDo = (found: NeedleFollowed): string => {
  const names = quickEnough(found.deg, found.ms).map((k) => k.name)
  return names.length > 0
    ? `These would do: ${names.join('; ')}.`
    : 'No motor of the catalogue is quicker: smooth the value.'
}

'use client'
import { boardTerminals } from '@/core/aspects/aspects'
import { debounceFor } from '@/core/calibration/bounce'
import { setContacts, setLong, tellsLong, thenOf } from '@/core/calibration/calibrated'
import { ContactsGuide } from '@/core/calibration/contacts-guide'
import type { PositionsAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { gestureDefaults } from '@/core/engine/controls/gesture-defaults'
import { settingsOf } from '@/core/rig/part-settings'
import { bindingsOf } from '@/core/rig/rig'
import { formatNumber } from '@/core/signal/format'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { AskingFor } from './asking'
import { Bars } from './bars'
import { Edges } from './edges'
import { Figure } from './figure'
import { useMeasuring, useOnce } from './probe'
import type { CalibrateProps } from './work-props'
import { Workplace } from './workplace'

const ms = (us: number): string => `${formatNumber(Number((us / 1000).toFixed(1)))} ms`

/** A button or a switch: how its contacts bounce, and what tells short presses from long ones. */
export const SwitchPlace = ({ part, aspect }: CalibrateProps<PositionsAspect>) => {
  const rig = useStore((s) => s.rig)
  const kind = partKind(part.kind)
  const contacts = (kind ? boardTerminals(kind, aspect) : []).map(
    (id) => kind?.terminals.find((t) => t.id === id)?.name ?? id,
  )
  const timed = bindingsOf(rig, part.id).filter(
    (b) =>
      b.settings.kind === 'control' &&
      tellsLong(b.settings.when) &&
      (b.settings.aspect ?? aspect.id) === aspect.id,
  )
  const long = timed.length > 0
  const measuring = useMeasuring(
    { partId: part.id, aspectId: aspect.id },
    () => new ContactsGuide({ contacts, momentary: aspect.momentary, long }),
  )
  const { guide } = measuring
  const { result } = guide
  const own = settingsOf(part.settings, aspect.id, 'positions')
  useOnce(guide, result !== null, () => {
    if (!result) return
    const then = thenOf(rig, part, aspect, new Date())
    edit(`Measured the contacts of “${part.name}”`, setContacts(part, aspect, result, then))
  })
  useOnce(guide, result?.longMs != null, () => {
    if (result) edit(`Measured long presses of “${part.name}”`, setLong(rig, part, aspect, result.longMs))
  })
  const timing = timed[0]?.settings.kind === 'control' ? timed[0].settings.timing : undefined
  const longMs = timing?.longMs ?? gestureDefaults.longMs
  return (
    <Workplace
      part={part}
      aspect={aspect}
      steps={guide.steps}
      asking={<AskingFor {...measuring} />}
      figures={
        <>
          <Figure word="Bounces for up to">{result ? ms(result.bounce.longestUs) : '–'}</Figure>
          <Figure word="Nine of ten within">{result ? ms(result.bounce.usualUs) : '–'}</Figure>
          <Figure word="Has to be still for">{own?.debounceMs ?? aspect.debounceMs} ms</Figure>
          {result && own?.debounceMs !== debounceFor(result.bounce) && (
            <p className="text-[12px] text-warn">{debounceFor(result.bounce)} ms would do.</p>
          )}
          {long && <Figure word="Long from">{formatNumber(longMs)} ms</Figure>}
        </>
      }
    >
      <Edges notes={guide.seen} names={contacts} spanUs={20_000} />
      {long && (
        <div className="mt-4">
          <Bars
            label="Length of presses"
            unit="in milliseconds"
            values={guide.lengths}
            {...{ from: 30, to: 3000, ticks: [30, 100, 300, 1000, 3000] }}
            border={longMs}
            borderWords={`long from ${formatNumber(longMs)} ms`}
          />
        </div>
      )}
    </Workplace>
  )
}

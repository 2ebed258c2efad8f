'use client'
import { setKnob, thenOf } from '@/core/calibration/calibrated'
import { CLICKS, EncoderGuide } from '@/core/calibration/encoder-guide'
import { borderBetween } from '@/core/calibration/threshold'
import type { EncoderAspect } from '@/core/catalogue/part-kind'
import { changeRow } from '@/core/rig/edit'
import { settingsOf } from '@/core/rig/part-settings'
import { bindingsOf } from '@/core/rig/rig'
import type { BindingRow } from '@/core/rig/rows'
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

const make = () => new EncoderGuide()

/** A knob: how many contact changes make a click, which way is clockwise, and whether it loses any. */
export const KnobPlace = ({ part, aspect }: CalibrateProps<EncoderAspect>) => {
  const rig = useStore((s) => s.rig)
  const measuring = useMeasuring({ partId: part.id, aspectId: aspect.id }, make)
  const { guide } = measuring
  const { result } = guide
  useOnce(guide, result !== null, () => {
    if (result)
      edit(`Measured “${part.name}”`, setKnob(part, aspect, result, thenOf(rig, part, aspect, new Date())))
  })
  const own = settingsOf(part.settings, aspect.id, 'encoder')
  const coarse = bindingsOf(rig, part.id).filter(
    (b) =>
      b.settings.kind === 'control' && b.settings.coarse && (b.settings.aspect ?? aspect.id) === aspect.id,
  )
  const { rates } = guide
  const border = borderBetween(rates)
  const from = coarseFrom(coarse[0])
  return (
    <Workplace
      part={part}
      aspect={aspect}
      steps={guide.steps}
      asking={<AskingFor {...measuring} />}
      figures={
        <>
          <Figure word="Contact changes">
            <span className="text-[26px] leading-8">{Math.abs(guide.net)}</span>
          </Figure>
          <Figure word="Clicks, as it counts">
            <span className="text-[26px] leading-8" data-counter>
              {formatNumber(Number(guide.counter.toFixed(2)))}
            </span>
          </Figure>
          <Figure word="Changes a click">{own?.changesPerClick ?? aspect.changesPerClick}</Figure>
          <Figure word="Clockwise counts">{own?.reverse ? 'down: turned round' : 'up'}</Figure>
          {result && (
            <>
              <Figure word={`In ${CLICKS} clicks and ${CLICKS} back`}>
                {result.there} and {result.back}
              </Figure>
              <Figure word="Lost, or jumped over">
                <span className={result.lost + result.jumps > 0 ? 'text-warn' : ''}>
                  {result.lost + result.jumps}
                </span>
              </Figure>
              <Figure word="Bounces for up to">
                {formatNumber(Number((result.bounceUs / 1000).toFixed(1)))} ms
              </Figure>
            </>
          )}
        </>
      }
    >
      <Edges notes={guide.seen} names={['A', 'B']} spanUs={600_000} />
      {rates.length > 3 && (
        <div className="mt-4 flex flex-wrap items-end gap-4">
          <Bars
            label="How quickly it is turned"
            unit="clicks a second"
            values={rates}
            {...{ from: 1, to: 100, ticks: [1, 3, 10, 30, 100] }}
            border={from}
            borderWords={from === null ? '' : `coarse from ${formatNumber(from)}`}
          />
          {from !== null && border !== null && Math.round(border) !== from && (
            <button
              type="button"
              className="btn mb-4"
              onClick={() => putCoarse(part.name, coarse, Math.min(100, Math.max(2, Math.round(border))))}
            >
              Coarse from {Math.round(border)} clicks/s
            </button>
          )}
        </div>
      )}
    </Workplace>
  )
}

const coarseFrom = (row: BindingRow | undefined): number | null =>
  row?.settings.kind === 'control' ? (row.settings.coarse?.perSecond ?? null) : null

const putCoarse = (name: string, rows: readonly BindingRow[], perSecond: number): void =>
  edit(
    `Made “${name}” coarse from ${perSecond} clicks/s`,
    rows.map((row) => {
      const s = row.settings
      const settings = s.kind === 'control' && s.coarse ? { ...s, coarse: { ...s.coarse, perSecond } } : s
      return changeRow('binding', row, { ...row, settings })
    }),
  )

'use client'
import { FULL_LEVEL } from '@/core/aspects/travel'
import { setLevels, thenOf } from '@/core/calibration/calibrated'
import { LadderGuide } from '@/core/calibration/ladder-guide'
import type { PositionsAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { AskingFor } from './asking'
import { Figure } from './figure'
import { useMeasuring, useOnce } from './probe'
import type { CalibrateProps } from './work-props'
import { Workplace } from './workplace'

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`

/** A switch that is one ladder of resistors: at which share of the supply each of its positions stands. */
export const LadderPlace = ({ part, aspect }: CalibrateProps<PositionsAspect>) => {
  const rig = useStore((s) => s.rig)
  const positions = aspect.positions.map((p) => ({ id: p.id, label: part.settings.labels?.[p.id] ?? p.id }))
  const measuring = useMeasuring({ partId: part.id, aspectId: aspect.id }, () => new LadderGuide(positions))
  const { guide, last } = measuring
  const { result } = guide
  useOnce(guide, result !== null, () => {
    const then = thenOf(rig, part, aspect, new Date())
    if (result) edit(`Measured the positions of “${part.name}”`, setLevels(part, aspect, result, then))
  })
  const levels = settingsOf(part.settings, aspect.id, 'positions')?.levels
  return (
    <Workplace
      part={part}
      aspect={aspect}
      steps={guide.steps}
      asking={<AskingFor {...measuring} />}
      figures={
        <Figure word="Stands at">{last.current ? percent(last.current.value / FULL_LEVEL) : '–'}</Figure>
      }
    >
      <table className="border-collapse">
        <thead>
          <tr className="text-left text-[12px] text-ink2">
            <th className="pr-6 font-normal">Position</th>
            <th className="pr-6 font-normal">By its catalogue</th>
            <th className="font-normal">As it stands</th>
          </tr>
        </thead>
        <tbody>
          {aspect.positions.map((p, i) => (
            <tr key={p.id} className="border-t border-hair">
              <td className="py-1 pr-6">{positions[i]?.label}</td>
              <td className="mono pr-6">{percent(p.level ?? 0)}</td>
              <td className="mono">{levels?.[p.id] === undefined ? '–' : percent(levels[p.id] ?? 0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Workplace>
  )
}

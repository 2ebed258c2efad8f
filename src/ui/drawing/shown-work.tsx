'use client'
import type { IndicatorAspect, NeedleAspect } from '@/core/catalogue/part-kind'
import { shownWords } from '@/core/engine/words'
import type { PartLive } from '@/core/live/feed'
import type { PartRow } from '@/core/rig/rows'
import { ColourLook } from './colour-look'
import { DigitsLook } from './digits-look'
import { ConnectorLook, ScreenLook, ScrewLook } from './fixing-look'
import { GaugeLook } from './gauge-look'
import { LampLook, LegendLampLook } from './lamp-look'
import { TextLook } from './text-look'
import { Worked, type WorkProps } from './worked'

type Props = WorkProps & { readonly aspects: readonly IndicatorAspect[]; readonly live: PartLive | undefined }

const wordsOf = (part: PartRow, aspect: IndicatorAspect, told: number | string | null): string =>
  told === null ? 'not heard yet' : shownWords(aspect, part.settings, told)

/** An indicator: it shows, and can be chosen. */
export const ShownWork = ({ part, kind, aspects, live }: Props) => {
  const { front } = kind
  const first = aspects[0]
  const state = first ? live?.aspects[first.id] : undefined
  const { width, height } = kind.frontMm
  return (
    <Worked
      part={part}
      aspectId={first?.id ?? ''}
      reach={{ x: width / 2, y: height / 2 }}
      round={front.look === 'gauge'}
      label={first ? `${part.name}: ${wordsOf(part, first, state?.told ?? null)}` : part.name}
      role={{ role: 'img' }}
    >
      {front.look === 'lamp' && <LampLook look={front} live={state} />}
      {front.look === 'legend-lamp' && <LegendLampLook look={front} live={state} />}
      {front.look === 'screen' && <ScreenLook look={front} />}
      {front.look === 'connector' && <ConnectorLook look={front} />}
      {front.look === 'screw' && <ScrewLook look={front} />}
      {front.look === 'digits' && <DigitsLook look={front} live={state} />}
      {front.look === 'text' && <TextLook look={front} live={state} widthMm={width} heightMm={height} />}
      {front.look === 'gauge' && (
        <GaugeLook
          look={front}
          part={part}
          aspects={aspects.filter((a): a is NeedleAspect => a.kind === 'needle')}
          lives={live?.aspects}
        />
      )}
      {front.look === 'colour-lamp' && (
        <ColourLook lamps={1} pitchMm={0} radiusMm={front.lensMm / 2} live={state} />
      )}
      {front.look === 'strip' && (
        <ColourLook
          lamps={front.lamps}
          pitchMm={front.pitchMm}
          radiusMm={front.pitchMm * 0.42}
          live={state}
        />
      )}
    </Worked>
  )
}

'use client'
import type { IndicatorAspect } from '@/core/catalogue/part-kind'
import { shownWords } from '@/core/engine/words'
import type { PartLive } from '@/core/live/feed'
import type { PartRow } from '@/core/rig/rows'
import { lookOf } from './looks'
import { Worked, type WorkProps } from './worked'

type Props = WorkProps & { readonly aspects: readonly IndicatorAspect[]; readonly live: PartLive | undefined }

const wordsOf = (part: PartRow, aspect: IndicatorAspect, told: number | string | null): string =>
  told === null ? 'not heard yet' : shownWords(aspect, part.settings, told)

/** An indicator: it shows, and can be chosen. */
export const ShownWork = ({ part, kind, operable, aspects, live }: Props) => {
  const { front } = kind
  const first = aspects[0]
  const state = first ? live?.aspects[first.id] : undefined
  const { width, height } = kind.frontMm
  const Look = lookOf(front)
  return (
    <Worked
      part={part}
      aspectId={first?.id ?? ''}
      reach={{ x: width / 2, y: height / 2 }}
      round={front.look === 'gauge'}
      label={first ? `${part.name}: ${wordsOf(part, first, state?.told ?? null)}` : part.name}
      role={{ role: 'img' }}
    >
      {Look && (
        <Look
          look={front as never}
          live={state}
          part={part}
          kind={kind}
          aspects={aspects}
          lives={live?.aspects}
          operable={operable}
        />
      )}
    </Worked>
  )
}

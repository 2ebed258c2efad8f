'use client'
import type { ComponentType } from 'react'
import type { IndicatorAspect, Look, NeedleAspect, PartKind } from '@/core/catalogue/part-kind'
import type { AspectLive } from '@/core/live/feed'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import type { ColourOrder } from '@/core/signal/colours'
import { ColourLook } from './colour-look'
import { DigitsLook } from './digits-look'
import { ConnectorLook, ScrewLook } from './fixing-look'
import { GaugeLook } from './gauge-look'
import { LampLook, LegendLampLook } from './lamp-look'
import { TextLook } from './text-look'

/** What a look is given: itself, what its first aspect shows, and the rest for those that need more. */
export interface LookProps<L extends Look['look']> {
  readonly look: Extract<Look, { look: L }>
  readonly live: AspectLive | undefined
  readonly part: PartRow
  readonly kind: PartKind
  readonly aspects: readonly IndicatorAspect[]
  readonly lives: Readonly<Record<string, AspectLive>> | undefined
  /** Whether what it shows can be worked where it is drawn. */
  readonly operable: boolean
}

const orderOf = (part: PartRow, aspects: readonly IndicatorAspect[]): ColourOrder | undefined =>
  settingsOf(part.settings, aspects[0]?.id ?? '', 'colour')?.order

/** How what only shows, or only sits there, looks from the front. What is worked has components of its own. */
const looks: { readonly [L in Look['look']]?: ComponentType<LookProps<L>> } = {
  lamp: LampLook,
  'legend-lamp': LegendLampLook,
  digits: DigitsLook,
  connector: ConnectorLook,
  screw: ScrewLook,
  text: ({ kind: { frontMm }, ...props }) => (
    <TextLook {...props} widthMm={frontMm.width} heightMm={frontMm.height} />
  ),
  gauge: ({ aspects, ...props }) => (
    <GaugeLook {...props} aspects={aspects.filter((a): a is NeedleAspect => a.kind === 'needle')} />
  ),
  'colour-lamp': ({ look, live, part, aspects }) => (
    <ColourLook lamps={1} pitchMm={0} radiusMm={look.lensMm / 2} order={orderOf(part, aspects)} live={live} />
  ),
  strip: ({ look, live, part, aspects }) => (
    <ColourLook
      lamps={look.lamps}
      pitchMm={look.pitchMm}
      radiusMm={look.pitchMm * 0.42}
      order={orderOf(part, aspects)}
      live={live}
    />
  ),
}

export const indicatorLookOf = (look: Look): ComponentType<LookProps<Look['look']>> | undefined =>
  looks[look.look] as ComponentType<LookProps<Look['look']>> | undefined

'use client'
import type { ComponentType } from 'react'
import type { Look } from '@/core/catalogue/part-kind'
import { indicatorLookOf, type LookProps } from './indicator-looks'
import { ScreenLook } from './screen-look'

/** How a part looks that is not worked itself: also a screen, with what it shows. */
export const lookOf = (look: Look): ComponentType<LookProps<Look['look']>> | undefined =>
  look.look === 'screen' ? (ScreenLook as ComponentType<LookProps<Look['look']>>) : indicatorLookOf(look)

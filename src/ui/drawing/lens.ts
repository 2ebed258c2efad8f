import type { LampColour } from '@/core/catalogue/part-kind'

/** A lens out and fully lit, by colour of light. */
export const lens: Record<LampColour, { out: string; lit: string; glow: string }> = {
  green: { out: '#24352f', lit: '#9df0c8', glow: '#d9fbe9' },
  amber: { out: '#3a3226', lit: '#ffd48a', glow: '#ffe9c4' },
  red: { out: '#3d2624', lit: '#ff9d8f', glow: '#ffd3cc' },
  white: { out: '#34383a', lit: '#fffbe8', glow: '#ffffff' },
  blue: { out: '#222f3d', lit: '#a9d4ff', glow: '#d8ebff' },
}

export const EDGE = '#0b0f11'

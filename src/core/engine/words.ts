import type { IndicatorAspect } from '../catalogue/part-kind'
import { dialDegrees } from '../harness/wiring'
import { settingsOf } from '../rig/part-settings'
import type { PartRow } from '../rig/rows'
import { readColours } from '../signal/colours'
import { formatNumber } from '../signal/format'
import { lampWords } from '../signal/lamp-state'
import type { State } from './input'
import { type ControlUnit, positionLabel } from './units'

/** What an indicator of a part shows, in words short enough for a station, a table or a pin. */
export const shownWords = (aspect: IndicatorAspect, settings: PartRow['settings'], state: State): string => {
  switch (aspect.kind) {
    case 'lamp':
      return lampWords(Math.max(0, Number(state)))
    case 'needle': {
      const dial = settingsOf(settings, aspect.id, 'needle')
      return `${formatNumber(Math.round(dialDegrees(aspect.travelDeg, dial, Math.max(0, Number(state)))))}°`
    }
    case 'digits': {
      const shown = String(state).slice(1)
      return shown.trim() === '' ? 'blank' : shown.trim()
    }
    case 'text': {
      const lines = String(state).split('\n')
      const first = lines.find((l) => l.trim() !== '')
      return first === undefined ? 'blank' : `“${first.trim()}”`
    }
    case 'colour':
      return colourWords(String(state))
  }
}

const colourWords = (state: string): string => {
  const { lamps, blinkHz } = readColours(state)
  const lit = lamps.filter((c) => c !== '#000000')
  if (lit.length === 0) return 'out'
  const blink = blinkHz > 0 ? ' blinking' : ''
  return lamps.length === 1 ? `${lit[0]}${blink}` : `${lit.length} of ${lamps.length} lit${blink}`
}

/** What a control stands at, in words. */
export const standsWords = (control: ControlUnit): string => {
  const { aspect, unit } = control
  if (aspect.kind === 'encoder')
    return control.raw === null ? 'not heard yet' : `${control.turning.clicks} clicks`
  if (control.raw === null && control.position === null) return 'not heard yet'
  if (aspect.kind === 'travel')
    return control.output === null ? 'not heard yet' : formatNumber(control.output)
  if (control.contradiction || control.position === null) return 'contradiction'
  return positionLabel(unit.part, control.position)
}

/** What its pins say. */
export const pinWords = (control: ControlUnit, pins: readonly string[]): string => {
  const { raw, aspect } = control
  if (raw === null) return ''
  if (aspect.kind === 'travel' || (aspect.kind === 'positions' && aspect.wiper !== undefined))
    return `${raw} of 1023`
  if (aspect.kind === 'encoder') return `${raw} changes`
  // Contacts pull their pin low against the board's pull-up.
  const low = pins.filter((_, i) => (raw >> i) & 1)
  if (pins.length === 1) return low.length === 1 ? 'low' : 'high'
  return low.length > 0 ? `${low.join(' ')} low` : 'all high'
}

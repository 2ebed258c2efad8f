import { kindOf } from '../catalogue/own-kind'
import { settingsOf } from '../rig/part-settings'
import type { PartRow } from '../rig/rows'
import { sameScale } from './dial-face'
import type { Scale } from './dial-shapes'

/** Whether a needle shows on the scale of an earlier one of its gauge. */
export const isSharedScale = (part: PartRow, aspectId: string): boolean => {
  const own = settingsOf(part.settings, aspectId, 'needle')
  const first = scalesOf(part).find((s) => own && sameScale(s, own))
  return first !== undefined && first !== own
}

/** What the needles of a gauge show, first to last. */
export const scalesOf = (part: PartRow): Scale[] =>
  (kindOf(part)?.aspects ?? []).flatMap((a) =>
    a.kind === 'needle' ? (settingsOf(part.settings, a.id, 'needle') ?? []) : [],
  )

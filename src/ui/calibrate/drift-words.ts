import type { Drifted } from '@/core/calibration/drift'

const number = (n: number): string => n.toFixed(1)

/** What a part does worse than when it was measured, and what can be done. */
export const driftWords = (
  d: Drifted,
): { readonly what: string; readonly figures: string; readonly cure: string } => {
  switch (d.is) {
    case 'bounces longer':
      return {
        what: 'bounces longer',
        figures: `${number(d.was / 1000)} ms then, ${number(d.now / 1000)} ms now`,
        cure: 'Measure it anew, and have a new one at hand.',
      }
    case 'loses steps':
      return {
        what: 'loses steps',
        figures: `${number(d.was)} of a thousand then, ${number(d.now)} now`,
        cure: 'Clean its contacts, or change it.',
      }
    case 'noisier':
      return {
        what: 'trembles more',
        figures: `±${number(d.was)} then, ±${number(d.now)} now`,
        cure: 'Clean its track and look at its wires; more smoothing helps for a while.',
      }
    case 'zero lost':
      return {
        what: 'has lost its zero',
        figures: d.seen ? 'its sensor sees it far from there' : 'its sensor does not see it there',
        cure: 'Start its board anew, so that it looks for it; then see whether it rubs, is driven too quickly, or its sensor is blind.',
      }
    case 'end not reached':
      return {
        what: `does not reach its ${d.end === 'low' ? 'lower' : 'upper'} end`,
        figures: `${Math.round(d.was)} then, ${Math.round(d.now)} now`,
        cure: 'Look at what stops it, or measure its ends anew.',
      }
  }
}

import { scaleMarks } from '../../core/elements/scale-marks'
import { TrendKeeper, type TrendSettings, trendPath, trendScale } from '../../core/elements/trend'
import { colourFor, type DrawElement, numberIn } from '../drawing'
import { at, attribute, node } from '../pen'

/** A line that would move by less is left as it is. */
const LEAST_STEP_PX = 0.5

export const drawTrend: DrawElement<TrendSettings> = (group, s, extent, around) => {
  const keeper = new TrendKeeper(s.seconds * 1000)
  node(group, 'rect', { ...extent, fill: s.ground })
  const across = node(group, 'path', { stroke: '#4a565c', 'stroke-width': '1', fill: 'none' })
  const path = node(group, 'path', { fill: 'none', 'stroke-width': s.widthPx, 'stroke-linejoin': 'round' })
  const [d, colour, lines] = [attribute(path, 'd'), attribute(path, 'stroke'), attribute(across, 'd')]
  const msPerDot = (s.seconds * 1000) / Math.max(1, extent.width)
  let drawnAt = Number.NEGATIVE_INFINITY
  return (shown) => {
    const now = around.now()
    keeper.add(numberIn(shown.value), now)
    colour(colourFor(s, shown))
    if (now - drawnAt < msPerDot * LEAST_STEP_PX) return true
    drawnAt = now
    const seenNow = keeper.all
    d(trendPath(s, extent, seenNow, now))
    const [least, most] = trendScale(s, seenNow)
    lines(
      scaleMarks(least, most, s.linesEvery, s.linesEvery)
        .map(
          ({ value }) =>
            `M0 ${at((1 - (value - least) / (most - least)) * extent.height)}H${at(extent.width)}`,
        )
        .join(''),
    )
    return true
  }
}

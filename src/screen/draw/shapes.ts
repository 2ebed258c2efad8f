import {
  type ArcSettings,
  arcPath,
  type FrameSettings,
  type LineSettings,
  type PictureSettings,
  type WordsSettings,
} from '../../core/elements/shapes'
import { colourFor, type DrawElement, numberIn, wordsFor } from '../drawing'
import { at, attribute, line as lineOfWords, node, wordsIn } from '../pen'

export const drawLine: DrawElement<LineSettings> = (group, s, { width, height }) => {
  const path = node(group, 'path', {
    d: s.rises ? `M0 ${at(height)}L${at(width)} 0` : `M0 0L${at(width)} ${at(height)}`,
    'stroke-width': s.widthPx,
    'stroke-dasharray': s.dashPx > 0 ? `${s.dashPx} ${s.dashPx}` : undefined,
    fill: 'none',
  })
  const colour = attribute(path, 'stroke')
  return (shown) => {
    colour(colourFor(s, shown))
    return false
  }
}

export const drawArc: DrawElement<ArcSettings> = (group, s, extent) => {
  const path = node(group, 'path', {
    ...{ 'stroke-width': s.widthPx, fill: 'none' },
    'stroke-linecap': s.roundEnds ? 'round' : 'butt',
  })
  const [d, colour] = [attribute(path, 'd'), attribute(path, 'stroke')]
  return (shown) => {
    const from = shown.from === undefined ? s.fromDeg : numberIn(shown.from)
    const to = shown.to === undefined ? s.toDeg : numberIn(shown.to)
    d(from === null || to === null ? '' : arcPath({ ...extent, widthPx: s.widthPx }, from, to))
    colour(colourFor(s, shown))
    return false
  }
}

export const drawFrame: DrawElement<FrameSettings> = (group, s, { width, height }) => {
  const half = s.widthPx / 2
  const rect = node(group, 'rect', {
    ...{ x: half, y: half, width: Math.max(0, width - s.widthPx), height: Math.max(0, height - s.widthPx) },
    ...{ rx: s.cornerPx, 'stroke-width': s.widthPx, fill: s.fill ?? 'none' },
  })
  // A colour that it follows is that of its inside, where it has one.
  const colour = attribute(rect, s.fill === null ? 'stroke' : 'fill')
  rect.setAttribute('stroke', s.colour)
  return (shown) => {
    colour(colourFor({ colour: s.fill ?? s.colour }, shown))
    return false
  }
}

export const drawWords: DrawElement<WordsSettings> = (group, s, extent) => {
  const text = lineOfWords(group, s, extent)
  const [words, colour] = [wordsIn(text), attribute(text, 'fill')]
  return (shown) => {
    words(wordsFor(shown.text, s.text))
    colour(colourFor(s, shown))
    return false
  }
}

/** A picture is shown as one: no script of it runs, and nothing is fetched. */
export const drawPicture: DrawElement<PictureSettings> = (group, s, extent, around) => {
  const picture = s.picture === null ? undefined : around.picture(s.picture)
  if (!picture) {
    node(group, 'rect', { ...extent, fill: 'none', stroke: s.colour, 'stroke-dasharray': '5 4' })
    const words = lineOfWords(group, { sizePx: 13, align: 'middle', face: 'words', bold: false }, extent)
    words.setAttribute('fill', s.colour)
    words.textContent = s.picture === null ? 'no picture yet' : 'this picture is gone'
    return () => false
  }
  const { as, data } = picture.settings
  const href =
    as === 'png'
      ? `data:image/png;base64,${data}`
      : `data:image/svg+xml;charset=utf-8,${encodeURIComponent(data)}`
  const image = node(group, 'image', {
    ...extent,
    preserveAspectRatio: s.stretches ? 'none' : 'xMidYMid meet',
  })
  image.setAttribute('href', href)
  // Browsers of five years ago know it by this name, too.
  image.setAttributeNS('http://www.w3.org/1999/xlink', 'xlink:href', href)
  return () => false
}

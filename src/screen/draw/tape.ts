import { dotsPer, nearestRound, type TapeSettings, tapeMarks } from '../../core/elements/tape'
import { colourFor, type DrawElement, numberIn } from '../drawing'
import { at, attribute, figures, node, seen, wordsIn } from '../pen'

/** Beyond what is seen so many spans are drawn, so that the tape moves for a while before it is drawn anew. */
const SPARE = 1
let clips = 0

export const drawTape: DrawElement<TapeSettings> = (group, s, extent) => {
  const { width, height } = extent
  const lies = s.along === 'right' || s.along === 'left'
  const length = lies ? width : height
  const per = dotsPer(s, length)
  const sign = s.along === 'right' || s.along === 'down' ? 1 : -1
  const id = `tape-${++clips}`
  node(node(group, 'clipPath', { id }), 'rect', { ...extent })
  node(group, 'rect', { ...extent, fill: s.ground })
  const window = node(group, 'g', { 'clip-path': `url(#${id})` })
  const run = node(window, 'g', { stroke: s.colour, fill: s.colour })
  const bug = node(window, 'path', { fill: '#ffb454' })
  const shift = attribute(run, 'transform')
  const bugAt = attribute(bug, 'transform')
  const bugSeen = seen(bug)
  const runSeen = seen(run)
  bug.setAttribute('d', lies ? 'M-7 0h14v7l-7 -5l-7 5z' : `M${at(width)} -7v14h-7l5 -7l-5 -7z`)
  const pointer = node(group, 'g')
  const colour = attribute(pointer, 'fill')
  node(pointer, 'path', {
    d: lies ? `M${at(width / 2 - 6)} ${at(height)}h12l-6 -9z` : `M0 ${at(height / 2 - 6)}v12l9 -6z`,
  })
  const box = s.showsValue ? figureBox(pointer, s, extent, lies) : null
  let drawnAt = Number.NaN
  let shown = Number.NaN
  const drawRun = (value: number) => {
    run.textContent = ''
    drawnAt = value
    for (const mark of tapeMarks(s, value, SPARE)) {
      const along = (mark.value - value) * per * sign
      const size = (lies ? height : width) * (mark.long ? 0.24 : 0.13)
      const d = lies ? `M${at(along)} ${at(height)}v${at(-size)}` : `M0 ${at(along)}h${at(size)}`
      node(run, 'path', { d, 'stroke-width': mark.long ? '2' : '1.3', fill: 'none' })
      if (mark.words === null) continue
      const words = node(run, 'g', { stroke: 'none' })
      if (lies) figures(words, mark.words, along, height * 0.4, s.labelPx)
      else figures(words, mark.words, width * 0.32, along, s.labelPx, 'start')
    }
  }
  return (now) => {
    const value = numberIn(now.value)
    runSeen(value !== null)
    if (value === null) {
      bugSeen(false)
      box?.('–')
      return false
    }
    shown = nearestRound(s.round, Number.isNaN(shown) ? value : shown, value)
    // Away from where it was drawn by all that is spare, it is drawn anew there.
    if (!(Math.abs(shown - drawnAt) < s.span * (SPARE - 0.05))) drawRun(shown)
    const by = (drawnAt - shown) * per * sign
    shift(lies ? `translate(${at(width / 2 + by)} 0)` : `translate(0 ${at(height / 2 + by)})`)
    const mark = numberIn(now.bug)
    bugSeen(mark !== null)
    if (mark !== null) {
      const off = (nearestRound(s.round, shown, mark) - shown) * per * sign
      const kept = Math.min(length / 2, Math.max(-length / 2, off))
      bugAt(lies ? `translate(${at(width / 2 + kept)} 0)` : `translate(0 ${at(height / 2 + kept)})`)
    }
    colour(colourFor(s, now))
    box?.(
      Math.round(s.round === null ? value : ((value % s.round) + s.round) % s.round)
        .toString()
        .replace('-', '−'),
    )
    return false
  }
}

const figureBox = (
  pointer: SVGGElement,
  s: TapeSettings,
  { width, height }: { width: number; height: number },
  lies: boolean,
): ((words: string) => void) => {
  const size = s.labelPx * 1.35
  const [w, h] = lies ? [size * 3, size * 1.4] : [width - 12, size * 1.5]
  const [x, y] = lies ? [width / 2 - w / 2, 0] : [12, height / 2 - h / 2]
  node(pointer, 'rect', { x, y, width: w, height: h, fill: '#0d1214', stroke: s.colour, 'stroke-width': '1' })
  const text = node(pointer, 'text', {
    ...{ x: x + w - 6, y: y + h / 2 + size * 0.355, 'font-size': size, 'text-anchor': 'end' },
    ...{ 'font-family': 'IBM Plex Mono, monospace', fill: s.colour },
  })
  return wordsIn(text)
}

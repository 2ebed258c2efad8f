import { clicksBetween, levelAt, type TouchSettings } from '../../core/elements/touch'
import { type DrawElement, givenColour, numberIn, wordsFor } from '../drawing'
import { at, attribute, line, node, wordsIn } from '../pen'

/** How large the cap of a slider is, along its way. */
const CAP_PX = 22

export const drawTouch: DrawElement<TouchSettings> = (group, s, extent, around) => {
  const { width, height } = extent
  const round = s.is === 'knob'
  const r = Math.min(width, height) / 2
  const middle = { x: width / 2, y: height / 2 }
  const box = round
    ? node(group, 'circle', { cx: middle.x, cy: middle.y, r, 'stroke-width': '2' })
    : node(group, 'rect', { ...extent, rx: 4, 'stroke-width': '2' })
  box.setAttribute('stroke', s.colour)
  box.setAttribute('stroke-opacity', '0.45')
  const cap =
    s.is === 'slider'
      ? node(group, 'rect', {
          ...(s.along === 'up' ? { x: 0, width, height: CAP_PX } : { y: 0, width: CAP_PX, height }),
          ...{ rx: 3, fill: s.colour, 'fill-opacity': '0.85' },
        })
      : null
  const mark = round ? node(group, 'path', { stroke: s.colour, 'stroke-width': '4' }) : null
  const text = line(group, s, extent, 6)
  text.setAttribute('fill', s.colour)
  const [fill, words] = [attribute(box, 'fill'), wordsIn(text)]
  let pressed = false
  let level = 0
  let deg = 0
  const capAt = cap ? attribute(cap, s.along === 'up' ? 'y' : 'x') : null
  const markAt = mark ? attribute(mark, 'd') : null
  const place = () => {
    capAt?.(at(s.along === 'up' ? (1 - level) * (height - CAP_PX) : level * (width - CAP_PX)))
    const rad = (deg * Math.PI) / 180
    const [x, y] = [Math.sin(rad), -Math.cos(rad)]
    markAt?.(
      `M${at(middle.x + x * r * 0.55)} ${at(middle.y + y * r * 0.55)}L${at(middle.x + x * r * 0.9)} ${at(middle.y + y * r * 0.9)}`,
    )
  }
  if (around.touch) {
    group.setAttribute('cursor', 'pointer')
    group.setAttribute('data-touch', s.is)
    group.style.touchAction = 'none'
    withFinger(group, s, extent, {
      press: (is) => {
        pressed = is
        around.touch?.({ press: is })
        fill(pressed ? s.lit : s.ground)
      },
      slide: (to) => {
        if (to === level) return
        level = to
        place()
        around.touch?.({ level: to })
      },
      turn: (clicks) => {
        deg += clicks * 15
        place()
        around.touch?.({ turn: clicks })
      },
    })
  }
  return (shown) => {
    const told = numberIn(shown.value)
    // Where a value says how it stands, that is shown; a finger that holds it knows better.
    if (s.is === 'slider' && told !== null && !pressed) level = Math.min(1, Math.max(0, told))
    words(wordsFor(shown.text, s.words))
    const lit = pressed || (s.is === 'button' && told === 1)
    fill(lit ? givenColour(shown.colour, s.lit) : s.ground)
    place()
    return false
  }
}

interface Finger {
  readonly press: (is: boolean) => void
  readonly slide: (level: number) => void
  readonly turn: (clicks: number) => void
}

/** One finger at a time on an element; several on several of them. */
const withFinger = (
  group: SVGGElement,
  s: TouchSettings,
  extent: { readonly width: number; readonly height: number },
  finger: Finger,
): void => {
  let held: number | null = null
  let from = 0
  let left = 0
  /** Where the finger lies, in the element's own dots, however it is turned and scaled. */
  const placeOf = (e: PointerEvent) => {
    const own = group.getScreenCTM()?.inverse()
    return own ? new DOMPoint(e.clientX, e.clientY).matrixTransform(own) : { x: 0, y: 0 }
  }
  const angleOf = (e: PointerEvent) => {
    const p = placeOf(e)
    return (Math.atan2(p.x - extent.width / 2, extent.height / 2 - p.y) * 180) / Math.PI
  }
  const slideTo = (e: PointerEvent) => {
    const p = placeOf(e)
    finger.slide(Math.round(levelAt(s.along, extent, p.x, p.y) * 1000) / 1000)
  }
  group.addEventListener('pointerdown', (e) => {
    if (held !== null || e.button > 0) return
    e.preventDefault()
    e.stopPropagation()
    held = e.pointerId
    try {
      group.setPointerCapture(e.pointerId)
    } catch {
      // A finger that is gone already holds nothing.
    }
    if (s.is === 'button') finger.press(true)
    else if (s.is === 'slider') slideTo(e)
    else {
      from = angleOf(e)
      left = 0
    }
  })
  group.addEventListener('pointermove', (e) => {
    if (e.pointerId !== held) return
    if (s.is === 'slider') slideTo(e)
    else if (s.is === 'knob') {
      const now = angleOf(e)
      const turned = clicksBetween(from, now, left)
      from = now
      left = turned.left
      if (turned.clicks !== 0) finger.turn(turned.clicks)
    }
  })
  const up = (e: PointerEvent) => {
    if (e.pointerId !== held) return
    held = null
    if (s.is === 'button') finger.press(false)
  }
  group.addEventListener('pointerup', up)
  group.addEventListener('pointercancel', up)
  group.addEventListener('lostpointercapture', up)
  group.addEventListener(
    'wheel',
    (e) => {
      if (s.is !== 'knob') return
      e.preventDefault()
      e.stopPropagation()
      finger.turn(e.deltaY < 0 ? 1 : -1)
    },
    { passive: false },
  )
}

import './older-browsers'
import type { Touched } from '../core/elements/touch'
import type { OfScreen } from '../core/live/screen-feed'
import { secondsWords } from '../core/live/seconds-words'
import type { Millis } from '../core/units-of-measure'
import type { PartDrawer } from './drawing'
import { ScreenView } from './screen-view'
import { stayAwake } from './stay-awake'
import { openWatchedLine } from './watched-line'

/** The hub says once a second that it is there. */
const SILENCE_MS = 2600

/** A screen on a device of its own: nothing but what is drawn on it, and a plain sign when the hub is away. */
const name = decodeURIComponent(location.pathname.replace(/^\/screen\/?/, ''))
const svg = document.querySelector('svg') as SVGSVGElement
const sign = document.getElementById('sign') as HTMLElement
const view = new ScreenView(
  svg,
  () => performance.now(),
  (_, problem) => {
    pageProblem = problem
    tellSign()
  },
  (element, by) => touch(element, by),
)

let mayTouch = false
let pageProblem: string | null = null
let missing: string | null = 'Waiting for Clavik …'
let awaySince: Millis | null = null

/** Something that is said for a while. */
let said: string | null = null
const sayFor = (words: string): void => {
  said = words
  tellSign()
  setTimeout(() => {
    if (said !== words) return
    said = null
    tellSign()
  }, 4000)
}

const touch = (element: string, by: Touched): void => {
  if (mayTouch) line.say({ say: 'touch', element, by })
  else sayFor('This device may not touch anything: on Bench, under Devices, it can be allowed to.')
}

/** What is wrong, in plain words at the lower edge; nothing while all is well. */
const tellSign = (): void => {
  const words =
    awaySince !== null
      ? `Clavik is away · ${secondsWords(performance.now() - awaySince)}`
      : (missing ?? said ?? pageProblem ?? '')
  if (sign.textContent !== words) sign.textContent = words
  sign.hidden = words === ''
  // The longer it has heard nothing, the less its values are worth.
  const age = awaySince === null ? 0 : performance.now() - awaySince
  svg.setAttribute('opacity', awaySince === null ? '1' : age < 10_000 ? '0.55' : '0.28')
}

/** On a device that has not chosen yet: the screens that there are. */
const offer = (names: readonly string[]): void => {
  document.getElementById('screens')?.remove()
  if (name !== '' || names.length === 0) return
  const list = document.body.appendChild(document.createElement('ul'))
  list.id = 'screens'
  for (const n of names) {
    const link = list.appendChild(document.createElement('li')).appendChild(document.createElement('a'))
    link.href = `/screen/${encodeURIComponent(n)}`
    link.textContent = n
  }
}

/** Parts of the catalogue are drawn by a script of their own, loaded once a screen shows one. */
let asked = false
const loadParts = (): void => {
  if (asked) return
  asked = true
  const script = document.createElement('script')
  script.src = '/screen-files/parts.js'
  script.onload = () => view.setParts((window as unknown as { clavikParts: PartDrawer }).clavikParts)
  document.head.append(script)
}

/** What is said where there is no such screen. */
const missingWords = (names: readonly string[]): string => {
  if (names.length === 0) return 'No screen is drawn yet: draw one under Screens.'
  return name === ''
    ? 'Choose what this device shows.'
    : `There is no screen “${name}”. There are: ${names.join(', ')}.`
}

const take = (m: OfScreen): void => {
  switch (m.say) {
    case 'screen content':
      document.body.style.background = m.content?.screen.settings.ground ?? '#0d1214'
      svg.style.display = m.content ? 'block' : 'none'
      mayTouch = m.mayTouch
      missing = m.content === null ? missingWords(m.names) : null
      offer(m.content === null ? m.names : [])
      if (m.content) {
        document.title = m.content.screen.name
        view.setContent(m.content)
        if (m.content.elements.some((e) => e.settings.kind === 'part')) loadParts()
      }
      tellSign()
      break
    case 'screen cells':
      view.setCells(m.keys)
      break
    case 'screen values':
      view.setValues(m.i, m.v, m.stale)
      break
    case 'screen refused':
      sayFor(m.words)
      break
  }
}

tellSign()
stayAwake()
const line = openWatchedLine<OfScreen>(
  `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/screen?name=${encodeURIComponent(name)}`,
  SILENCE_MS,
  {
    told: take,
    away: (since) => {
      awaySince = since
      tellSign()
    },
  },
)
setInterval(() => {
  if (awaySince !== null) tellSign()
}, 1000)

// Browsers fill the display only where somebody has touched it.
document.addEventListener('click', () => {
  if (!document.fullscreenElement) void document.documentElement.requestFullscreen?.().catch(() => {})
})

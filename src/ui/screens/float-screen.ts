import type { ScreenRow } from '@/core/rig/rows'
import { contentOf } from '@/core/screens/content'
import { ScreenView } from '../../screen/screen-view'
import { drawnPart } from '../drawing/drawn-parts'
import { notify, useStore } from '../live/store'
import { follow } from './told-screens'
import { touchScreen } from './touch-screen'

interface FloatingWindows {
  requestWindow(size: { width: number; height: number }): Promise<Window>
}

interface Kept {
  readonly width: number
  readonly height: number
  readonly left?: number
  readonly top?: number
}

const keyOf = (screen: ScreenRow): string => `clavik.float.${screen.id}`

const keptOf = (screen: ScreenRow): Kept => {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(screen)) ?? 'null') as Kept | null
    if (kept && kept.width > 40 && kept.height > 30) return kept
  } catch {
    // What cannot be read was not kept here.
  }
  const by = Math.min(1, 640 / screen.widthPx)
  return { width: Math.round(screen.widthPx * by), height: Math.round(screen.heightPx * by) }
}

/** Remembers how large it is, and where, whenever that changes. */
const remember = (screen: ScreenRow, own: Window): void => {
  const keep = () =>
    localStorage.setItem(
      keyOf(screen),
      JSON.stringify({ width: own.innerWidth, height: own.innerHeight, left: own.screenX, top: own.screenY }),
    )
  own.addEventListener('resize', keep)
  own.addEventListener('pagehide', keep)
}

/** Draws a screen into a window, from this page: what floats goes on while this page lies behind another. */
const showIn = (own: Window, screen: ScreenRow): void => {
  const { document } = own
  const style = document.createElement('link')
  style.rel = 'stylesheet'
  style.href = new URL('/screen-files/style.css', location.href).href
  document.head.append(style)
  document.title = screen.name
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  svg.setAttribute('role', 'img')
  svg.setAttribute('aria-label', `Screen ${screen.name}`)
  document.body.append(svg)
  const view = new ScreenView(svg, undefined, undefined, touchScreen)
  view.setParts(drawnPart)
  const draw = () => {
    const content = contentOf(useStore.getState().rig, screen.id)
    if (!content) own.close()
    else {
      view.setContent(content)
      document.body.style.background = content.screen.settings.ground
    }
  }
  draw()
  const leave = [follow(screen.id, view), useStore.subscribe((s, before) => s.rig !== before.rig && draw())]
  own.addEventListener('pagehide', () => {
    for (const end of leave) end()
    view.end()
  })
  remember(screen, own)
}

/**
 * Shows a screen in a small window that stays above other programs, where the browser has such windows; in a plain window of its
 * own, with a word on that, where it has none.
 */
export const floatScreen = async (screen: ScreenRow): Promise<void> => {
  const { width, height, left, top } = keptOf(screen)
  const address = `/screen/${encodeURIComponent(screen.name)}`
  const { documentPictureInPicture: windows } = window as unknown as {
    documentPictureInPicture?: FloatingWindows
  }
  if (windows) {
    try {
      showIn(await windows.requestWindow({ width, height }), screen)
      return
    } catch (error) {
      notify(`It cannot float: ${(error as Error).message}`)
      return
    }
  }
  const place = left === undefined ? '' : `,left=${left},top=${top ?? 0}`
  const own = window.open(address, `clavik-${screen.id}`, `popup,width=${width},height=${height}${place}`)
  if (!own) {
    notify('The browser did not let a window open: allow it for this page.')
    return
  }
  remember(screen, own)
  notify('This browser has no windows that stay on top; this one is a window like any other.', 'plain')
}

import { useHarness } from '../harness/harness-store'
import { usePanelView } from '../panel/view-store'
import { useStore } from './store'

const KEY = 'clavik.place'

/** Where somebody was: what was looked at and selected, how the drawings lay. It survives a reload. */
interface Place {
  readonly panelId: string | null
  readonly selected: string | null
  readonly stripPx: number | null
  readonly boardId: string | null
  readonly drawer: string
  readonly views: Readonly<Record<string, { x: number; y: number; scale: number }>>
}

const now = (): Place => {
  const { panelId, selected, stripPx } = useStore.getState()
  const { boardId, drawer } = useHarness.getState()
  return { panelId, selected, stripPx, boardId, drawer, views: usePanelView.getState().views }
}

let planned = false
const keepSoon = (): void => {
  if (planned) return
  planned = true
  setTimeout(() => {
    planned = false
    try {
      sessionStorage.setItem(KEY, JSON.stringify(now()))
    } catch {
      // A page that may keep nothing works all the same.
    }
  }, 250)
}

/** Brings back where one was, once as the page opens, and keeps it from then on. */
export const restorePlace = (): void => {
  try {
    const kept = JSON.parse(sessionStorage.getItem(KEY) ?? 'null') as Partial<Place> | null
    if (kept) {
      const { panelId = null, selected = null, stripPx = null, boardId = null, drawer, views = {} } = kept
      useStore.setState({ panelId, selected, stripPx })
      useHarness.setState({ boardId, ...(drawer ? { drawer: drawer as never } : {}) })
      usePanelView.setState({ views })
    }
  } catch {
    // What cannot be read was not kept here.
  }
  useStore.subscribe((s, before) => {
    if (s.panelId !== before.panelId || s.selected !== before.selected || s.stripPx !== before.stripPx)
      keepSoon()
  })
  useHarness.subscribe(keepSoon)
  usePanelView.subscribe((s, before) => {
    if (s.views !== before.views) keepSoon()
  })
}

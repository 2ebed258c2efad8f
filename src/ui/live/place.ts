import { useHarness } from '../harness/harness-store'
import { useSurface } from '../surface/view-store'
import { useStore } from './store'

const KEY = 'clavik.place'

/** Where somebody was: what was looked at and selected, how the drawings lay. It survives a reload. */
interface Place {
  readonly panelId: string | null
  readonly selected: string | null
  readonly stripPx: number | null
  readonly boardId: string | null
  readonly drawer: string
  readonly leftFirstLight: string | null
  readonly views: Readonly<Record<string, { x: number; y: number; scale: number }>>
}

const now = (): Place => {
  const { panelId, selected, stripPx, leftFirstLight } = useStore.getState()
  const { boardId, drawer } = useHarness.getState()
  return { panelId, selected, stripPx, boardId, drawer, leftFirstLight, views: useSurface.getState().views }
}

/** Another rig is open than before: what was looked at in that one is not in this. */
const leaveRig = (): void => {
  useStore.setState({ panelId: null, selected: null, trace: null, opening: null })
  useSurface.setState({ picked: new Set(), views: {}, fitted: null })
  useHarness.setState({ boardId: null, leadId: null, proposal: null })
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
      useStore.setState({ panelId, selected, stripPx, leftFirstLight: kept.leftFirstLight ?? null })
      useHarness.setState({ boardId, ...(drawer ? { drawer: drawer as never } : {}) })
      useSurface.setState({ views })
    }
  } catch {
    // What cannot be read was not kept here.
  }
  useStore.subscribe((s, before) => {
    if (before.rigId !== null && s.rigId !== before.rigId) leaveRig()
    const same =
      s.panelId === before.panelId &&
      s.selected === before.selected &&
      s.stripPx === before.stripPx &&
      s.leftFirstLight === before.leftFirstLight
    if (!same) keepSoon()
  })
  useHarness.subscribe(keepSoon)
  useSurface.subscribe((s, before) => {
    if (s.views !== before.views) keepSoon()
  })
}

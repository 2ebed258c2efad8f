import { create } from 'zustand'
import type { OwnKind } from '@/core/catalogue/own-kind'
import type { ElementKindName } from '@/core/elements/elements'
import {
  keyOf,
  type Surface,
  surfaceOfPage,
  surfaceOfPanel,
  type Thing,
  thingsOn,
  touchedPart,
  withGroups,
} from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import { panelNow } from '../live/chosen-panel'
import { select } from '../live/connection'
import { useStore } from '../live/store'

/** What a click on the drawing does. */
export type Tool =
  | { readonly is: 'pick' }
  | { readonly is: 'part'; readonly kind: string; readonly own?: OwnKind }
  | { readonly is: 'text' | 'frame' | 'line' | 'hole' }
  | { readonly is: 'element'; readonly kind: ElementKindName }

export type PanelDrawer = 'parts' | 'fit' | 'plate' | 'files'

/** What of the surface lies at the top left corner of the drawing, and pixels a millimetre, or a dot of a screen. */
export interface View {
  readonly x: number
  readonly y: number
  readonly scale: number
}

interface State {
  readonly picked: ReadonlySet<string>
  readonly tool: Tool
  readonly drawer: PanelDrawer
  /** Whether bodies, holes and standoffs are drawn. */
  readonly behind: boolean
  /** The page of a screen that is drawn on; null while it is a panel. */
  readonly page: { readonly screenId: string; readonly pageId: string | null } | null
  readonly gridMm: number
  readonly gridPx: number
  readonly view: View
  /** The view that shows the whole surface, while nobody has moved it since. */
  readonly fitted: View | null
  /** How each panel and screen lay when it was last looked at, where that is not the whole of it. */
  readonly views: Readonly<Record<string, View>>
  /** Pixels of the drawing; known once it is there. */
  readonly room: { readonly width: number; readonly height: number }
  /** A part of one's own that is being made, or changed wherever it is used. */
  readonly making: { readonly own: OwnKind; readonly changes: boolean } | null
  /** Something large enough to be asked about before it is done. */
  readonly asking: { readonly words: string; readonly act: () => void } | null
}

export const useSurface = create<State>()(() => ({
  picked: new Set<string>(),
  tool: { is: 'pick' },
  drawer: 'parts',
  behind: false,
  page: null,
  gridMm: 1,
  gridPx: 4,
  view: { x: 0, y: 0, scale: 0 },
  fitted: null,
  views: {},
  room: { width: 0, height: 0 },
  making: null,
  asking: null,
}))

/** What is drawn on now: a page of a screen, or the panel that is looked at. */
export const surfaceNow = (): Surface | null => {
  const { rig, panelId, selected } = useStore.getState()
  const { page } = useSurface.getState()
  if (page) {
    const screen = rig.screen[page.screenId]
    return screen ? surfaceOfPage(screen, page.pageId) : null
  }
  const panel = panelNow(rig, panelId, selected)
  return panel ? surfaceOfPanel(panel) : null
}

/** Picks things; their groups come with them, and a single part is selected everywhere. */
export const pick = (keys: ReadonlySet<string>): void => {
  const { rig } = useStore.getState()
  const on = surfaceNow()
  const picked = on ? withGroups(thingsOn(rig, on), keys) : new Set(keys)
  useSurface.setState({ picked })
  const [only] = picked
  if (picked.size !== 1 || only === undefined) return
  if (only.startsWith('part/')) select(only.slice('part/'.length))
  const element = rig.element[only.replace(/^element\//, '')]
  const part = element && touchedPart(rig, element)
  // What a finger works is a part: its paths lie below.
  if (part) select(part.id)
}

/** The picked things, as the rig has them now. */
export const pickedThings = (): { rig: Rig; on: Surface; things: Thing[] } | null => {
  const { rig } = useStore.getState()
  const on = surfaceNow()
  if (!on) return null
  const { picked } = useSurface.getState()
  return { rig, on, things: thingsOn(rig, on).filter((t) => picked.has(t.key)) }
}

/** What is selected anywhere else is picked here, now and from now on. */
export const followSelection = (): (() => void) => {
  const follow = (selected: string | null) => {
    const part = useStore.getState().rig.part[selected ?? '']
    if (!part || useSurface.getState().picked.has(keyOf('part', part.id))) return
    useStore.setState({ panelId: part.panelId })
    pick(new Set([keyOf('part', part.id)]))
  }
  const { selected, panelId, rig } = useStore.getState()
  // Coming from elsewhere with a panel chosen, that panel is what is to be seen.
  if (panelId === null || rig.part[selected ?? '']?.panelId === panelId) follow(selected)
  return useStore.subscribe((s, before) => {
    if (s.selected !== before.selected) follow(s.selected)
  })
}

const MARGIN_PX = 26
/** The path strip of a selected part comes and goes: what is drawn neither moves for it nor lies below it. */
const STRIP_PX = 178

/** Shows a whole surface. */
export const fitView = (
  { width, height }: Pick<Surface, 'width' | 'height'>,
  room = useSurface.getState().room,
): void => {
  if (room.width === 0) return
  const now = document.getElementById('strip')?.offsetHeight ?? 0
  const kept = Math.max(200, room.height - Math.max(0, STRIP_PX - now))
  const scale = Math.max(
    0.2,
    Math.min(12, (room.width - 2 * MARGIN_PX) / width, (kept - 2 * MARGIN_PX) / height),
  )
  const view: View = {
    scale,
    x: width / 2 - room.width / 2 / scale,
    y: height / 2 - kept / 2 / scale,
  }
  useSurface.setState({ room, view, fitted: view })
}

/** Zooms so that what lies under a place of the drawing, in pixels, stays there. */
export const zoom = (by: number, atX?: number, atY?: number): void =>
  useSurface.setState(({ view, room }) => {
    const scale = Math.min(40, Math.max(0.2, view.scale * by))
    const [px, py] = [atX ?? room.width / 2, atY ?? room.height / 2]
    return {
      view: {
        scale,
        x: view.x + px / view.scale - px / scale,
        y: view.y + py / view.scale - py / scale,
      },
    }
  })

import { type RefObject, useEffect, useRef } from 'react'
import type { PanelRow } from '@/core/rig/rows'
import { fitView, pick, usePanelView, zoom } from './view-store'

/** Knows how large the drawing is, and shows the whole panel when it is opened or another is chosen; what is not on it is not picked. */
export const useRoom = (element: RefObject<HTMLDivElement | null>, panel: PanelRow): void => {
  const shown = useRef('')
  const latest = useRef(panel)
  latest.current = panel
  useEffect(() => {
    const { current } = element
    if (!current) return
    const seen = new ResizeObserver(() => {
      const room = { width: current.clientWidth, height: current.clientHeight }
      if (shown.current === '') showAgain(latest.current, room)
      else usePanelView.setState({ room })
      shown.current = latest.current.id
    })
    seen.observe(current)
    return () => seen.disconnect()
  }, [element])
  useEffect(() => {
    if (shown.current !== '' && shown.current !== panel.id) {
      shown.current = panel.id
      showAgain(panel)
      pick(usePanelView.getState().picked)
    }
  }, [panel])
  useEffect(
    () =>
      usePanelView.subscribe((s, before) => {
        if (s.view === before.view || shown.current !== latest.current.id) return
        const { [latest.current.id]: _, ...others } = s.views
        usePanelView.setState({
          views: s.view === s.fitted ? others : { ...others, [latest.current.id]: s.view },
        })
      }),
    [],
  )
}

/** A panel as it lay when it was last looked at, or the whole of it. */
const showAgain = (panel: PanelRow, room = usePanelView.getState().room): void => {
  const view = usePanelView.getState().views[panel.id]
  if (view && room.width > 0) usePanelView.setState({ room, view })
  else fitView(panel, room)
}

/** The wheel zooms at the pointer, with Shift it pans. React listens passively, so this listens itself. */
export const useWheel = (element: RefObject<HTMLDivElement | null>): void => {
  useEffect(() => {
    const { current } = element
    if (!current) return
    const wheel = (e: WheelEvent) => {
      e.preventDefault()
      const box = current.getBoundingClientRect()
      if (e.shiftKey) {
        usePanelView.setState(({ view }) => ({
          view: { ...view, x: view.x + e.deltaX / view.scale, y: view.y + e.deltaY / view.scale },
        }))
      } else zoom(1.0015 ** -e.deltaY, e.clientX - box.left, e.clientY - box.top)
    }
    current.addEventListener('wheel', wheel, { passive: false })
    return () => current.removeEventListener('wheel', wheel)
  }, [element])
}

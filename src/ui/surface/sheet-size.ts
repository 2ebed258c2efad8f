import { type RefObject, useEffect, useRef } from 'react'
import type { Surface } from '@/core/layout/things'
import { fitView, pick, useSurface, zoom } from './view-store'

/** Knows how large the drawing is, and shows the whole surface when it is opened or another is chosen; what is not on it is not picked. */
export const useRoom = (element: RefObject<HTMLDivElement | null>, on: Surface): void => {
  const shown = useRef('')
  const latest = useRef(on)
  latest.current = on
  useEffect(() => {
    const { current } = element
    if (!current) return
    const seen = new ResizeObserver(() => {
      const room = { width: current.clientWidth, height: current.clientHeight }
      if (shown.current === '') showAgain(latest.current, room)
      else useSurface.setState({ room })
      shown.current = latest.current.id
    })
    seen.observe(current)
    return () => seen.disconnect()
  }, [element])
  useEffect(() => {
    if (shown.current !== '' && shown.current !== on.id) {
      shown.current = on.id
      showAgain(on)
      pick(useSurface.getState().picked)
    }
  }, [on])
  useEffect(
    () =>
      useSurface.subscribe((s, before) => {
        if (s.view === before.view || shown.current !== latest.current.id) return
        const { [latest.current.id]: _, ...others } = s.views
        useSurface.setState({
          views: s.view === s.fitted ? others : { ...others, [latest.current.id]: s.view },
        })
      }),
    [],
  )
}

/** A surface as it lay when it was last looked at, or the whole of it. */
const showAgain = (on: Surface, room = useSurface.getState().room): void => {
  const view = useSurface.getState().views[on.id]
  if (view && room.width > 0) useSurface.setState({ room, view })
  else fitView(on, room)
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
        useSurface.setState(({ view }) => ({
          view: { ...view, x: view.x + e.deltaX / view.scale, y: view.y + e.deltaY / view.scale },
        }))
      } else zoom(1.0015 ** -e.deltaY, e.clientX - box.left, e.clientY - box.top)
    }
    current.addEventListener('wheel', wheel, { passive: false })
    return () => current.removeEventListener('wheel', wheel)
  }, [element])
}

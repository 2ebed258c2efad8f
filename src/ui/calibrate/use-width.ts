import { type RefObject, useEffect, useState } from 'react'

/** How wide there is room for a drawing, at least so much. */
export const useWidth = (there: RefObject<HTMLElement | null>, least: number): number => {
  const [width, setWidth] = useState(least)
  useEffect(() => {
    const box = there.current
    if (!box) return
    const watch = new ResizeObserver(() => setWidth(Math.max(least, box.clientWidth)))
    watch.observe(box)
    return () => watch.disconnect()
  }, [there, least])
  return width
}

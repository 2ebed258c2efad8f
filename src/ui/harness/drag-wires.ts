import type { PointerEvent } from 'react'
import type { Beginning, LeadEnd } from '@/core/harness/leads'
import { letGo, pickUp, putDown, useHarness } from './harness-store'

/** So far has a pointer to move before a press is a drag. */
const DRAG_PX = 5

const dataOf = <T>(target: EventTarget | null, name: string): T | null => {
  const found = target instanceof Element ? target.closest(`[data-${name}]`) : null
  const text = found?.getAttribute(`data-${name}`)
  return text ? (JSON.parse(text) as T) : null
}

/** Dragging a wire from a terminal, a pin or a channel to another place, anywhere within one element. */
export const dragWires = {
  onPointerDown: (e: PointerEvent): void => {
    if (e.button !== 0) return
    const from = dataOf<Beginning>(e.target, 'from')
    if (!from) return
    const begun = { x: e.clientX, y: e.clientY }
    let dragging = false
    const move = (m: globalThis.PointerEvent) => {
      if (!dragging && Math.hypot(m.clientX - begun.x, m.clientY - begun.y) < DRAG_PX) return
      if (!dragging) pickUp(from)
      dragging = true
      useHarness.setState({ hand: { x: m.clientX, y: m.clientY } })
    }
    const end = (u: globalThis.PointerEvent) => {
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', end)
      window.removeEventListener('keydown', giveUp, true)
      if (!dragging) return
      // The click that follows a drag is no click.
      window.addEventListener('click', swallow, { capture: true, once: true })
      setTimeout(() => window.removeEventListener('click', swallow, true), 0)
      const to = dataOf<LeadEnd>(document.elementFromPoint(u.clientX, u.clientY), 'end')
      if (to) putDown(to)
      else letGo()
    }
    const giveUp = (k: KeyboardEvent) => {
      if (k.key !== 'Escape') return
      dragging = false
      letGo()
      window.removeEventListener('pointermove', move)
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
    window.addEventListener('keydown', giveUp, true)
  },
}

const swallow = (e: Event): void => {
  e.stopPropagation()
  e.preventDefault()
}

'use client'
import { useEffect, useMemo, useRef } from 'react'
import { contentOf } from '@/core/screens/content'
import { ScreenView } from '../../screen/screen-view'
import { drawnPart } from '../drawing/drawn-parts'
import { useStore } from '../live/store'
import { follow } from './told-screens'
import { touchScreen } from './touch-screen'

interface Props {
  readonly screenId: string
  readonly x?: number
  readonly y?: number
  readonly width: number
  readonly height: number
  /** A page that is shown whatever chooses it. */
  readonly pageId?: string | null
  /** Values shown in place of those that are told. */
  readonly samples?: ReadonlyMap<string, number | string | null>
  readonly take?: (view: ScreenView | null) => void
  /** Whether fingers and the mouse work what lies on it. */
  readonly operable?: boolean
  /** At least so many milliseconds between two pictures, where it is only glanced at. */
  readonly pauseMs?: number
}

/** A screen within a drawing, alive: the same drawing as on a device of its own. */
export const ScreenDrawing = ({
  screenId,
  x,
  y,
  width,
  height,
  pageId = null,
  samples,
  take,
  operable = false,
  pauseMs = 0,
}: Props) => {
  const svg = useRef<SVGSVGElement>(null)
  const view = useRef<ScreenView | null>(null)
  const rig = useStore((s) => s.rig)
  const content = useMemo(() => contentOf(rig, screenId), [rig, screenId])
  useEffect(() => {
    const { current } = svg
    if (!current) return
    const made = new ScreenView(current, undefined, undefined, operable ? touchScreen : undefined)
    made.setParts(drawnPart)
    made.pauseMs = pauseMs
    view.current = made
    take?.(made)
    const leave = follow(screenId, made)
    return () => {
      leave()
      made.end()
      view.current = null
      take?.(null)
    }
    // Who takes it is the same for as long as it is there.
  }, [screenId, operable])
  useEffect(() => {
    if (content) view.current?.setContent(content)
  }, [content, screenId, operable])
  useEffect(() => view.current?.showPage(pageId), [pageId, screenId])
  useEffect(() => view.current?.setSamples(samples ?? new Map()), [samples, screenId])
  return (
    <svg
      ref={svg}
      {...{ x, y, width, height }}
      preserveAspectRatio="xMidYMid meet"
      role="img"
      aria-label={`Screen ${content?.screen.name ?? ''}`}
      data-screen={screenId}
    />
  )
}

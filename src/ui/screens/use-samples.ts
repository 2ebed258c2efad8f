import { useEffect, useMemo, useState } from 'react'
import { elementsOf, type Rig } from '@/core/rig/rig'
import { sweptValues, useScreens } from './screens-store'

const none: ReadonlyMap<string, number | string | null> = new Map()

/** What is shown in place of live values: what was typed, or a sweep of what is picked, or of everything. */
export const useSamples = (
  rig: Rig,
  screenId: string,
  picked: ReadonlySet<string>,
): ReadonlyMap<string, number | string | null> => {
  const trying = useScreens((s) => s.trying)
  const samples = useScreens((s) => s.samples)
  const [swept, setSwept] = useState(none)
  const elements = useMemo(() => elementsOf(rig, screenId), [rig, screenId])
  useEffect(() => {
    if (trying !== 'sweep') return
    const began = performance.now()
    const own = elements.filter((e) => picked.has(`element/${e.id}`))
    let frame = 0
    const turn = () => {
      setSwept(sweptValues(own.length > 0 ? own : elements, performance.now() - began))
      frame = requestAnimationFrame(turn)
    }
    turn()
    return () => cancelAnimationFrame(frame)
  }, [trying, elements, picked])
  return trying === 'live' ? none : trying === 'samples' ? samples : swept
}

import { useEffect, useRef, useState } from 'react'
import type { Nature } from '@/core/aspects/nature'
import type { Guide } from '@/core/calibration/guide'
import type { Note } from '@/core/calibration/note'
import type { ProbedAspect } from '@/core/live/feed'
import { sameValue } from '@/core/rig/edit'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { listen } from './probed-store'
import { sound } from './tone'

let hearsTwin: ((level: number, twin: number) => void) | null = null

/** Where a lever stood in the middle of each word of the hub, and the one that is moved along with it. */
export const hearTwin = (take: ((level: number, twin: number) => void) | null): void => {
  hearsTwin = take
}

export const sayTwin = (of: ProbedAspect | null): void => void sayToHub({ say: 'probe twin', of })

/** How often time passes for a guide, and what is read is drawn anew; what moves on a chart has frames of its own. */
const PASS_MS = 60

/** A board's time that goes back by so much has begun anew. */
const BACK_MS = 500

/** What measuring a control has come to. */
export interface Measuring<G extends Guide> {
  readonly guide: G
  /** Why nothing comes of it; null while it does. */
  readonly problem: string | null
  /** Notes that found no room on their way. */
  readonly left: number
  /** The last level or contacts, as they came, for whatever moves with them. */
  readonly last: { readonly current: Note | null }
  readonly again: () => void
}

/** Measures a control while this is shown: feeds a guide, and lets its time pass. */
export const useMeasuring = <G extends Guide>(of: ProbedAspect, make: () => G): Measuring<G> => {
  const hub = useStore((s) => s.hub)
  const [guide, setGuide] = useState(make)
  const [told, setTold] = useState({ problem: null as string | null, left: 0 })
  const [, redraw] = useState(0)
  const last = useRef<Note | null>(null)
  const running = useRef(guide)
  running.current = guide
  const { partId, aspectId } = of
  useEffect(() => {
    if (hub !== 'up') return
    // The board's time is that of its last note, and what has passed since on this page.
    let anchor: { readonly board: number; readonly page: number } | null = null
    let taken = running.current.taken
    let objection: string | null = null
    let nature: Nature | null | undefined
    const anew = () => {
      running.current = make()
      setGuide(running.current)
    }
    listen((m) => {
      if (m.partId !== partId || m.aspectId !== aspectId) return
      // A simulated part has been made like another: what was seen before was not of this one.
      if (nature !== undefined && !sameValue(nature, m.nature)) anew()
      nature = m.nature
      const notes = m.notes.map(([at, value]) => ({ at: at * 1000, value }))
      const newest = notes.at(-1)
      if (newest) {
        // Its board has started again: its time with it, and what was seen before means nothing to what comes.
        if (anchor && newest.at / 1000 < anchor.board - BACK_MS) anew()
        last.current = newest
        if (m.twin !== null) hearsTwin?.(notes.reduce((sum, n) => sum + n.value, 0) / notes.length, m.twin)
        anchor = { board: newest.at / 1000, page: performance.now() }
        running.current.take(notes)
      }
      setTold((t) =>
        t.problem === m.problem && t.left === m.left ? t : { problem: m.problem, left: m.left },
      )
    })
    // Not by frames: a page that lies behind another is led through, and sounds, as well.
    const run = () => {
      const g = running.current
      if (anchor) g.pass(anchor.board + (performance.now() - anchor.page))
      if (g.taken > taken) sound('taken')
      if (g.objection !== null && g.objection !== objection) sound('not yet')
      taken = g.taken
      objection = g.objection
      redraw((n) => n + 1)
    }
    sayToHub({ say: 'probe', of: { partId, aspectId } })
    const passing = setInterval(run, PASS_MS)
    return () => {
      clearInterval(passing)
      listen(null)
      sayToHub({ say: 'probe', of: null })
    }
  }, [hub, partId, aspectId])
  const again = () => setGuide(make())
  return { guide, ...told, last, again }
}

/** Does something once for each guide, as soon as that has come so far. */
export const useOnce = (guide: Guide, isReady: boolean, act: () => void): void => {
  const done = useRef<Guide | null>(null)
  useEffect(() => {
    if (!isReady || done.current === guide) return
    done.current = guide
    act()
  })
}

'use client'
import { memo } from 'react'
import type { Station } from '@/core/engine/mistakes'
import type { PartRow } from '@/core/rig/rows'
import { PathEnd } from '../connections/path-end'
import { useStore } from '../live/store'
import { ConditionEditor } from './condition-editor'
import { PartEditor } from './part-editor'
import { PinEditor } from './pin-editor'
import { ShapingEditor } from './shaping-editor'
import { TargetEditor } from './target-editor'

/**
 * The editor of one station, in place; what it changes takes effect at once and can be undone. Values pass along its path
 * thirty times a second and leave it alone: what in it moves listens for itself.
 */
export const StationEditor = memo(function StationEditor({
  part,
  aspectId,
  bindingId,
  station,
  close,
}: {
  part: PartRow
  aspectId: string
  bindingId: string | null
  station: Station
  close: () => void
}) {
  const binding = useStore((s) => (bindingId === null ? undefined : s.rig.binding[bindingId]))
  switch (station) {
    case 'part':
      return <PartEditor part={part} aspectId={aspectId} close={close} />
    case 'pin':
    case 'board':
      return (
        <>
          <PinEditor part={part} close={close} />
          <PathEnd part={part} binding={binding} station="board" close={close} />
        </>
      )
    case 'shaping':
      return binding ? <ShapingEditor part={part} binding={binding} close={close} /> : <Unbound />
    case 'onlyWhile':
      return binding ? <ConditionEditor part={part} binding={binding} close={close} /> : <Unbound />
    case 'simulator':
      return (
        <>
          <TargetEditor part={part} aspectId={aspectId} binding={binding} close={close} />
          <PathEnd part={part} binding={binding} station="simulator" close={close} />
        </>
      )
  }
})

const Unbound = () => <p className="p-3 text-ink2">Choose a variable first, at the right end of the path.</p>

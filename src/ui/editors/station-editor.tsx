'use client'
import type { Station } from '@/core/engine/mistakes'
import type { TraceRow } from '@/core/engine/trace-row'
import type { PartRow } from '@/core/rig/rows'
import { PathEnd } from '../connections/path-end'
import { useStore } from '../live/store'
import { ConditionEditor } from './condition-editor'
import { PartEditor } from './part-editor'
import { PinEditor } from './pin-editor'
import { ShapingEditor } from './shaping-editor'
import { TargetEditor } from './target-editor'

/** The editor of one station, in place; what it changes takes effect at once and can be undone. */
export const StationEditor = ({
  part,
  row,
  station,
  close,
}: {
  part: PartRow
  row: TraceRow
  station: Station
  close: () => void
}) => {
  const binding = useStore((s) => (row.bindingId === null ? undefined : s.rig.binding[row.bindingId]))
  switch (station) {
    case 'part':
      return <PartEditor part={part} aspectId={row.aspectId} close={close} />
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
          <TargetEditor part={part} aspectId={row.aspectId} binding={binding} close={close} />
          <PathEnd part={part} binding={binding} station="simulator" close={close} />
        </>
      )
  }
}

const Unbound = () => <p className="p-3 text-ink2">Choose a variable first, at the right end of the path.</p>

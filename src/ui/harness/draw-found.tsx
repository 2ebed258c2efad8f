'use client'
import { useStore } from '../live/store'
import { addBoard, modelsFor } from './harness-store'

/** A board that answers and that nobody has drawn: drawn as what it says it is, and standing for this real one. */
export const DrawFound = ({ identity, model }: { identity: string; model: string }) => {
  const rig = useStore((s) => s.rig)
  const known = modelsFor(rig).find((m) => m.name === model)
  return (
    <button
      type="button"
      className="btn h-[21px] shrink-0"
      aria-label={`Draw it: ${model} ${identity}`}
      disabled={!known}
      title={
        known ? undefined : `“${model}” is not in the catalogue; give a board file first, then choose it`
      }
      onClick={() => known && addBoard(known, (name) => `Drew ${name}, found as ${model}`, { identity })}
    >
      Draw it
    </button>
  )
}

'use client'
import { useMemo } from 'react'
import { surfaceOfPanel, thingsOn } from '@/core/layout/things'
import { useChosenPanel } from '../live/chosen-panel'
import { useStore } from '../live/store'
import { ArrayForm } from '../surface/array-form'
import { commandCalled, isGrouped } from '../surface/commands'
import { ManyPlace } from '../surface/many-place'
import { useSurface } from '../surface/view-store'
import { LegendPlace } from './legend-place'
import { PartPlace } from './part-place'

/** Where what is picked lies, in figures that can be typed. */
export const Placement = () => {
  const rig = useStore((s) => s.rig)
  const panel = useChosenPanel()
  const picked = useSurface((s) => s.picked)
  const on = useMemo(() => (panel ? surfaceOfPanel(panel) : null), [panel])
  const things = useMemo(
    () => (on ? thingsOn(rig, on).filter((t) => picked.has(t.key)) : []),
    [rig, on, picked],
  )
  const [only] = things
  if (!on || !only)
    return (
      <p className="pt-1 pb-3 text-ink2">
        Nothing is picked. Click on a part or a legend, or draw a frame round several.
      </p>
    )
  return (
    <section
      aria-label="Placement"
      className="mb-3 flex flex-col gap-1.5 border-b border-line pb-3 form-lines"
    >
      {things.length === 1 ? (
        only.table === 'part' ? (
          <PartPlace key={only.key} rig={rig} on={on} part={only.row} />
        ) : only.table === 'legend' ? (
          <LegendPlace key={only.key} rig={rig} on={on} legend={only.row} />
        ) : null
      ) : (
        <ManyPlace rig={rig} on={on} things={things} />
      )}
      <ArrayForm on={on} things={things} />
      <div className="flex flex-wrap gap-1.5 pt-1">
        {things.length > 1 && <CommandButton words="Group" />}
        {isGrouped(things) && <CommandButton words="Ungroup" />}
        <CommandButton words="Lock, or unlock" />
        <CommandButton words="Remove" />
      </div>
    </section>
  )
}

const CommandButton = ({ words }: { words: string }) => {
  const command = commandCalled(words)
  return (
    <button type="button" className="btn" onClick={command.run}>
      {words} {command.key && <span className="key">{command.key.replaceAll('+', ' ')}</span>}
    </button>
  )
}

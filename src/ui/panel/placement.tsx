'use client'
import { useMemo } from 'react'
import { thingsOf } from '@/core/layout/things'
import { useChosenPanel } from '../live/chosen-panel'
import { useStore } from '../live/store'
import { ArrayForm } from './array-form'
import { commandCalled, isGrouped } from './commands'
import { LegendPlace } from './legend-place'
import { ManyPlace } from './many-place'
import { PartPlace } from './part-place'
import { usePanelView } from './view-store'

/** Where what is picked lies, in figures that can be typed. */
export const Placement = () => {
  const rig = useStore((s) => s.rig)
  const panel = useChosenPanel()
  const picked = usePanelView((s) => s.picked)
  const things = useMemo(
    () => (panel ? thingsOf(rig, panel).filter((t) => picked.has(t.key)) : []),
    [rig, panel, picked],
  )
  const [only] = things
  if (!panel || !only)
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
          <PartPlace key={only.key} rig={rig} panel={panel} part={only.row} />
        ) : (
          <LegendPlace key={only.key} rig={rig} panel={panel} legend={only.row} />
        )
      ) : (
        <ManyPlace rig={rig} panel={panel} things={things} />
      )}
      <ArrayForm panel={panel} things={things} />
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

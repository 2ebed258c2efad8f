'use client'
import { useEffect, useMemo } from 'react'
import { fitFindings } from '@/core/layout/fit/fit'
import { panelsOf } from '@/core/rig/rig'
import { formatNumber } from '@/core/signal/format'
import { PanelChoice } from '../frame/panel-choice'
import { useChosenPanel } from '../live/chosen-panel'
import { useStore } from '../live/store'
import { followSelection, type PanelDrawer, useSurface } from '../surface/view-store'
import { Canvas } from './canvas'
import { Catalogue } from './catalogue'
import { FilesForm } from './files-form'
import { FitList } from './fit-list'
import { newPanel } from './new-panel'
import { NoPanel } from './no-panel'
import { PlateForm } from './plate-form'
import { Toolbar } from './toolbar'

const drawers: readonly { id: PanelDrawer; word: string }[] = [
  { id: 'parts', word: 'Parts' },
  { id: 'fit', word: 'Fit' },
  { id: 'plate', word: 'Plate' },
  { id: 'files', word: 'Files' },
]

/** A panel in millimetres: drawn, checked whether it fits, and taken away as files that a machine makes it from. */
export const PanelView = () => {
  const rig = useStore((s) => s.rig)
  const panel = useChosenPanel()
  const drawer = useSurface((s) => s.drawer)
  const findings = useMemo(() => (panel ? fitFindings(rig, panel) : []), [rig, panel])
  useEffect(followSelection, [])
  if (!panel) return <NoPanel />
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_216px] xl:grid-cols-[minmax(0,1fr)_248px]">
      <section aria-label="Panel" className="drawing-sheet grid min-h-0 grid-rows-[34px_auto_minmax(0,1fr)]">
        <div className="flex items-center gap-2 px-2.5">
          <h2>
            <PanelChoice panel={panel} />
          </h2>
          <span className="mono text-[12px] text-ink2">
            {formatNumber(panel.widthMm)} × {formatNumber(panel.heightMm)} × {formatNumber(panel.thicknessMm)}{' '}
            mm
          </span>
          <button type="button" className="btn ml-auto" onClick={() => newPanel(panelsOf(rig))}>
            New panel
          </button>
        </div>
        <Toolbar />
        <Canvas rig={rig} panel={panel} findings={findings} />
      </section>
      <div className="flex min-h-0 flex-col border-l border-line">
        <div role="tablist" aria-label="Drawer" className="flex h-[34px] border-b border-line">
          {drawers.map((d) => (
            <button
              key={d.id}
              type="button"
              role="tab"
              aria-selected={drawer === d.id}
              className={`flex-1 border-b-2 text-[12px] ${drawer === d.id ? 'border-accent text-accent' : 'border-transparent text-ink2 hover:text-ink'}`}
              onClick={() => useSurface.setState({ drawer: d.id })}
            >
              {d.word}
              {d.id === 'fit' && findings.length > 0 && <b className="ml-1 text-fault">{findings.length}</b>}
            </button>
          ))}
        </div>
        <div role="tabpanel" aria-label={drawer} className="min-h-0 flex-1">
          {drawer === 'parts' && <Catalogue />}
          {drawer === 'fit' && <FitList rig={rig} panel={panel} findings={findings} />}
          {drawer === 'plate' && <PlateForm key={panel.id} panel={panel} />}
          {drawer === 'files' && <FilesForm key={panel.id} panel={panel} />}
        </div>
      </div>
    </div>
  )
}

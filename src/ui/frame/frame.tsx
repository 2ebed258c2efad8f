'use client'
import { usePathname, useRouter } from 'next/navigation'
import { type ReactNode, useEffect, useMemo, useState } from 'react'
import { BusSheet } from '../bus/bus-sheet'
import { LightingSheet } from '../calibrate/lighting-sheet'
import { ConnectionsSheet } from '../connections/connections-sheet'
import { ControllerSheet } from '../controllers/controller-sheet'
import { CraftSetsSheet } from '../craft/craft-sets-sheet'
import { LayoutSheet } from '../datagrams/layout-sheet'
import { DeviceSheet } from '../device-line/device-sheet'
import { DevicesSheet } from '../devices/devices-sheet'
import { Inspector } from '../inspector/inspector'
import { LayersSheet } from '../layers/layers-sheet'
import { openFeed } from '../live/connection'
import { others, refreshUpcoming, resumeEdits } from '../live/edits'
import { restorePlace } from '../live/place'
import { useStore } from '../live/store'
import { OwnPartSheet } from '../panel/own-part-sheet'
import { PathStrip } from '../path/path-strip'
import { useExamples } from '../recordings/examples'
import { TapeBar } from '../recordings/tape-bar'
import { RigsSheet } from '../rigs/rigs-sheet'
import { Asking } from '../surface/asking'
import { actions as allActions, isHere, keyOf } from './actions'
import { Boundary } from './boundary'
import { FirstLight } from './first-light'
import { spreadNonce } from './nonce'
import { Notices } from './notices'
import { Palette } from './palette'
import { Rail } from './rail'
import { nextRegion } from './regions'
import { Shortcuts } from './shortcuts'
import { StatusLine } from './status-line'
import { restoreTheme } from './theme'

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

/** Rail, status line, work surface, inspector and path strip, on every view; and the live feed behind them. */
export const Frame = ({ children }: { children: ReactNode }) => {
  const router = useRouter()
  const hub = useStore((s) => s.hub)
  const underWay = useStore((s) => s.pending.length)
  // An empty inspector gives its room away; a drawing has its own figures there.
  const selectedId = useStore((s) => (s.rig.part[s.selected ?? ''] ? s.selected : null))
  const pathname = usePathname()
  // Scope and Screens have a column of their own for what is chosen there.
  const ownColumn = pathname.startsWith('/scope') || pathname.startsWith('/screens')
  const inspects = (selectedId !== null && !ownColumn) || pathname.startsWith('/panel')
  const [palette, setPalette] = useState(false)
  const [shortcuts, setShortcuts] = useState(false)
  useExamples()
  const actions = useMemo(() => allActions((path) => router.push(path)), [router])

  useEffect(() => {
    spreadNonce()
    restoreTheme()
    restorePlace()
    resumeEdits()
    return openFeed(
      () => void refreshUpcoming(),
      (editId, sentence, diff) => others.heard(editId, sentence, diff, performance.now()),
    )
  }, [])

  useEffect(() => {
    const keyDown = (e: KeyboardEvent) => {
      const key = keyOf(e)
      if (key === 'Ctrl+k') {
        e.preventDefault()
        setPalette(true)
        return
      }
      if (e.key === 'F6') {
        e.preventDefault()
        nextRegion(e.shiftKey ? -1 : 1)
        return
      }
      if (isTyping(e.target) || document.querySelector('[role=dialog]')) return
      if (e.key === '?') {
        setShortcuts(true)
        return
      }
      const action = actions.find((a) => a.key === key && isHere(a, window.location.pathname))
      if (!action || (e.repeat && !action.repeats)) return
      e.preventDefault()
      action.run()
    }
    window.addEventListener('keydown', keyDown)
    return () => window.removeEventListener('keydown', keyDown)
  }, [actions])

  return (
    <div
      data-hub={hub}
      data-edits-under-way={underWay}
      className={`grid h-screen min-w-[1024px] grid-rows-[40px_minmax(0,1fr)_auto] ${inspects ? 'grid-cols-[68px_minmax(0,1fr)_256px] xl:grid-cols-[68px_minmax(0,1fr)_292px] 2xl:grid-cols-[68px_minmax(0,1fr)_380px]' : 'grid-cols-[68px_minmax(0,1fr)_0px]'}`}
    >
      <Rail />
      <StatusLine openPalette={() => setPalette(true)} />
      <main id="surface" tabIndex={-1} className="flex min-h-0 min-w-0 flex-col">
        <Boundary name="First light" of="">
          <FirstLight />
        </Boundary>
        <Boundary name="The recording" of="">
          <TapeBar />
        </Boundary>
        <div className="min-h-0 flex-1">
          <Boundary name="This view" of={pathname}>
            {children}
          </Boundary>
        </div>
      </main>
      {inspects ? (
        <Boundary name="The inspector" of={selectedId ?? ''}>
          <Inspector />
        </Boundary>
      ) : (
        <span />
      )}
      <Boundary name="The signal path" of={selectedId ?? ''}>
        <PathStrip />
      </Boundary>
      <Notices />
      <Boundary name="A sheet" of={pathname}>
        <LayersSheet />
        <LightingSheet />
        <CraftSetsSheet />
        <Asking />
        <OwnPartSheet />
        <RigsSheet />
        <ConnectionsSheet />
        <LayoutSheet />
        <DeviceSheet />
        <DevicesSheet />
        <BusSheet />
        <ControllerSheet />
      </Boundary>
      <Palette open={palette} setOpen={setPalette} actions={actions} go={(path) => router.push(path)} />
      <Shortcuts open={shortcuts} setOpen={setShortcuts} actions={actions} />
    </div>
  )
}

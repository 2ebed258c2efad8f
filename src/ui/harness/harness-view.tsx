'use client'
import { useEffect, useRef, useState } from 'react'
import { modelOf } from '@/core/catalogue/own-board'
import { beginningWords } from '@/core/harness/leads'
import { boardsOf, expandersOf } from '@/core/rig/rig'
import { useBindingFindings, useFindings } from '../live/findings'
import { useStore } from '../live/store'
import { spatialKeys } from '../primitives/spatial-keys'
import { AssignDrawer } from './assign-drawer'
import { BoardDrawing } from './board-drawing'
import { BoardFileSheet } from './board-file-sheet'
import { BoardsDrawer } from './boards-drawer'
import { dragWires } from './drag-wires'
import { ExpanderDrawing } from './expander-drawing'
import { FilesDrawer } from './files-drawer'
import { FindingsList } from './findings-list'
import {
  followSelection,
  type HarnessDrawer,
  letGo,
  useBoard,
  useDrawnRig,
  useHarness,
} from './harness-store'
import { Tray } from './tray'
import { WireForm } from './wire-form'

const drawers: readonly { id: HarnessDrawer; word: string }[] = [
  { id: 'tray', word: 'Tray' },
  { id: 'findings', word: 'Findings' },
  { id: 'boards', word: 'Boards' },
  { id: 'assign', word: 'Assign' },
  { id: 'files', word: 'Out' },
]

/** Boards and expanders with everything that hangs on them; where wires are moved, checked, assigned and loaded. */
export const HarnessView = () => {
  const _rig = useStore((s) => s.rig)
  const drawer = useHarness((s) => s.drawer)
  const findings = useFindings()
  const bindings = useBindingFindings()
  useEffect(followSelection, [])
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => e.key === 'Escape' && letGo()
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <div
      className="grid h-full grid-cols-[minmax(0,1fr)_248px] xl:grid-cols-[minmax(0,1fr)_286px] 2xl:grid-cols-[minmax(0,1fr)_380px]"
      {...dragWires}
    >
      <section
        aria-label="Harness"
        className="drawing-sheet relative grid min-h-0 min-w-0 grid-rows-[34px_minmax(0,1fr)] overflow-hidden"
      >
        <BoardChoice />
        <Sheet />
        <Doing />
      </section>
      <div data-region="drawer" className="flex min-h-0 min-w-0 flex-col border-l border-line">
        <div role="tablist" aria-label="Drawer" className="flex h-[34px] shrink-0 border-b border-line">
          {drawers.map((d) => (
            <button
              key={d.id}
              type="button"
              role="tab"
              aria-selected={drawer === d.id}
              className={`flex-1 border-b-2 text-[12px] ${drawer === d.id ? 'border-accent text-accent' : 'border-transparent text-ink2 hover:text-ink'}`}
              onClick={() => useHarness.setState({ drawer: d.id })}
            >
              {d.word}
              {d.id === 'findings' && findings.length + bindings.length > 0 && (
                <b className={`ml-1 ${findings.length > 0 ? 'text-fault' : 'text-warn'}`}>
                  {findings.length + bindings.length}
                </b>
              )}
            </button>
          ))}
        </div>
        <WireForm />
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
        <div role="tabpanel" aria-label={drawer} tabIndex={0} className="min-h-0 flex-1 overflow-y-auto">
          {drawer === 'tray' && <Tray />}
          {drawer === 'findings' && <FindingsList findings={findings} bindings={bindings} />}
          {drawer === 'boards' && <BoardsDrawer />}
          {drawer === 'assign' && <AssignDrawer />}
          {drawer === 'files' && <FilesDrawer />}
        </div>
      </div>
      <InHand />
      <BoardFileSheet />
    </div>
  )
}

const BoardChoice = () => {
  const rig = useStore((s) => s.rig)
  const status = useStore((s) => s.status)
  const board = useBoard()
  const zoom = useHarness((s) => s.zoom)
  const setZoom = (by: number) => useHarness.setState({ zoom: Math.min(3, Math.max(0.5, zoom * by)) })
  return (
    <div className="flex min-w-0 items-center gap-1 px-2.5">
      <div role="tablist" aria-label="Board" className="flex min-w-0 flex-1 gap-0.5 overflow-x-auto">
        {boardsOf(rig).map((b) => {
          const on = b.id === board?.id
          const toLoad = status?.boards.some((s) => s.id === b.id && s.state === 'up' && !s.loaded) ?? false
          return (
            <button
              key={b.id}
              type="button"
              role="tab"
              aria-selected={on}
              className={`h-[24px] px-2 whitespace-nowrap ${on ? 'bg-accent-bg font-bold text-accent' : 'text-ink2 hover:text-ink'}`}
              onClick={() => useHarness.setState({ boardId: b.id })}
            >
              {b.name}
              {toLoad && (
                <span className="ml-1 text-warn" title="It does not hold what is drawn">
                  ◇
                </span>
              )}
            </button>
          )
        })}
      </div>
      <button
        type="button"
        className="btn h-[22px] shrink-0 px-2"
        aria-label="Smaller"
        onClick={() => setZoom(1 / 1.2)}
      >
        −
      </button>
      <button
        type="button"
        className="btn h-[22px] shrink-0 px-2"
        aria-label="Larger"
        onClick={() => setZoom(1.2)}
      >
        +
      </button>
    </div>
  )
}

/** What is under way on the sheet, at its foot. */
const Doing = () => {
  const rig = useStore((s) => s.rig)
  const carried = useHarness((s) => s.carried)
  const asProposed = useDrawnRig() !== rig
  if (!carried && !asProposed) return null
  return (
    <p
      role="status"
      className="absolute bottom-2 left-2.5 max-w-[calc(100%-24px)] truncate border border-accent bg-raised px-2 py-0.5 text-[12px] text-accent"
    >
      {carried
        ? `In the hand: ${beginningWords(rig, carried)}. Choose where it ends, Esc lets go.`
        : 'Drawn as proposed; nothing is taken yet.'}
    </p>
  )
}

const Sheet = () => {
  const rig = useDrawnRig()
  const hub = useStore((s) => s.hub)
  const now = useBoard()
  const board = rig.board[now?.id ?? '']
  const proposal = useHarness((s) => s.proposal)
  const sheet = useRef<HTMLElement>(null)
  const [room, setRoom] = useState<{ width: number; height: number } | null>(null)
  const there = board !== undefined
  useEffect(() => {
    const { current } = sheet
    if (!current || !there) return
    const seen = new ResizeObserver(() =>
      setRoom({ width: current.clientWidth - 20, height: current.clientHeight - 20 }),
    )
    seen.observe(current)
    return () => seen.disconnect()
  }, [there])
  // What a proposal brings is looked at first, wherever on the sheet it is.
  useEffect(() => {
    if (proposal) sheet.current?.querySelector('[data-proposed="comes"]')?.scrollIntoView({ block: 'center' })
  }, [proposal])
  const selected = useStore((s) => s.selected)
  const leadId = useHarness((s) => s.leadId)
  // What is looked at is brought into view, also when the sheet has become another size.
  useEffect(() => {
    // In a proposal its own list leads to each wire.
    if (useHarness.getState().proposal) return
    sheet.current?.querySelector('[data-looked]')?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [selected, leadId, board?.id, room])
  if (!board)
    return (
      <p className="p-3.5 text-ink2">
        {hub === 'up' ? 'This rig has no board yet. Add one under Boards.' : 'Waiting for the rig …'}
      </p>
    )
  const model = modelOf(board)
  return (
    <section
      ref={sheet}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
      tabIndex={0}
      aria-label="Board and expanders"
      className="min-h-0 overflow-auto pb-8"
      onKeyDown={betweenPins}
    >
      <div className="px-2 pt-1 pb-2">
        {model ? (
          <BoardDrawing board={board} model={model} sheet={room} />
        ) : (
          <p className="p-2 text-fault">
            {board.name} is a board of the model “{board.model}”, which this Clavik does not know. Its wires
            are kept as they are; nothing is guessed.
          </p>
        )}
      </div>
      {expandersOf(rig, board.id).map((e) => (
        <ExpanderDrawing key={e.id} expander={e} />
      ))}
    </section>
  )
}

/** From pin to pin and channel to channel with the arrows; on with Tab. */
const betweenPins = spatialKeys('[data-end][tabindex="0"], [data-end]:is(button)')

/** The wire that is dragged, at the pointer. */
const InHand = () => {
  const hand = useHarness((s) => s.hand)
  const carried = useHarness((s) => s.carried)
  const rig = useStore((s) => s.rig)
  if (!hand || !carried) return null
  return (
    <div
      className="popover pointer-events-none fixed px-2 py-0.5 text-[12px]"
      style={{ left: hand.x + 12, top: hand.y + 10 }}
    >
      {beginningWords(rig, carried)}
    </div>
  )
}

'use client'
import { useRouter } from 'next/navigation'
import { modelOf } from '@/core/catalogue/own-board'
import { isGiven } from '@/core/harness/given'
import { type OpenEnd, openEnds, progressOf } from '@/core/harness/open-ends'
import type { BoardStatus, ConnectionStatus } from '@/core/live/feed'
import { bindingsOf, panelsOf, partsOf, type Rig, rowsOf } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { PanelDrawing } from '../drawing/panel-drawing'
import { DrawFound } from '../harness/draw-found'
import { pickUp, useHarness } from '../harness/harness-store'
import { sayToHub, select } from '../live/connection'
import { useBindingFindings, useFindings, useHopeless } from '../live/findings'
import { simulate } from '../live/simulate'
import { useStore } from '../live/store'
import { NoPanel } from '../panel/no-panel'
import { Mark, UpMark } from '../primitives/mark'
import { BenchScreens } from './bench-screens'
import { DriftedParts } from './drifted'
import { PluggedIn } from './plugged-in'

/** The rig at a glance: panels, what is connected at what rate, and what is still open. */
export const Bench = () => {
  const rig = useStore((s) => s.rig)
  const panels = panelsOf(rig)
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_400px] xl:grid-cols-[minmax(0,1fr)_446px]">
      <section aria-label="Panels" className="drawing-sheet min-h-0 overflow-y-auto">
        <div className="flex items-baseline gap-2 px-3.5 pt-2.5 pb-2">
          <h2>Panels</h2>
          <span className="cap">live</span>
        </div>
        {panels.length === 0 && <NoPanel />}
        <div
          className={
            panels.length > 1 ? 'grid grid-cols-2 gap-x-1 2xl:grid-cols-3 min-[2200px]:grid-cols-4' : ''
          }
        >
          {panels.map((panel) => (
            <PanelCard key={panel.id} rig={rig} panel={panel} large={panels.length === 1} />
          ))}
        </div>
      </section>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div tabIndex={0} className="flex min-h-0 flex-col overflow-y-auto border-l border-line">
        <Connections />
        <BenchScreens rig={rig} />
        <DriftedParts />
        <OpenEnds rig={rig} />
        <Findings />
        <LastEdits />
      </div>
    </div>
  )
}

const PanelCard = ({ rig, panel, large }: { rig: Rig; panel: PanelRow; large: boolean }) => {
  const router = useRouter()
  const selected = useStore((s) => s.selected)
  const proof = useStore((s) => s.proof)
  const hopeless = useHopeless()
  const list = partsOf(rig, panel.id)
  const { parts, wired, bound } = progressOf(rig, list)
  const proven = list.filter((p) => {
    const bindings = bindingsOf(rig, p.id)
    return !hopeless.has(p.id) && bindings.length > 0 && bindings.every((b) => proof[b.id] === 'proven')
  }).length
  return (
    <article className="px-3.5 pb-4" aria-label={panel.name}>
      <div className={large ? 'h-[322px] 2xl:h-[480px]' : 'h-[148px] 2xl:h-[220px] min-[2200px]:h-[280px]'}>
        <PanelDrawing
          rig={rig}
          panel={panel}
          selected={selected}
          operable={false}
          measured={false}
          mostScale={3.2}
        />
      </div>
      <div className="flex items-baseline justify-between pt-1.5">
        <b>{panel.name}</b>
        <span className="mono text-[12px] text-ink2">
          {formatNumber(panel.widthMm)} × {formatNumber(panel.heightMm)} mm
        </span>
      </div>
      <div className={`grid gap-x-3 gap-y-1 pt-1.5 ${large ? 'grid-cols-4' : 'grid-cols-2'}`}>
        <Share word="laid out" count={parts} of={parts} />
        <Share word="wired" count={wired} of={parts} />
        <Share word="bound" count={bound} of={parts} />
        <Share word="proven" count={proven} of={parts} />
      </div>
      <div className="flex gap-1.5 pt-2.5">
        {(['/mirror', '/panel'] as const).map((path) => (
          <button
            key={path}
            type="button"
            className="btn"
            onClick={() => {
              useStore.setState({ panelId: panel.id })
              router.push(path)
            }}
          >
            {path === '/mirror' ? 'Work it' : 'Draw it'}{' '}
            <span className="key">{path === '/mirror' ? 'M' : 'D'}</span>
          </button>
        ))}
      </div>
    </article>
  )
}

const Share = ({ word, count, of }: { word: string; count: number; of: number }) => (
  <div>
    <div className="flex justify-between text-[12px]">
      <span className="text-ink2">{word}</span>
      <span className="mono">
        {count}/{of}
      </span>
    </div>
    <div className="mt-0.5 h-[5px] border border-line">
      <div className="h-full bg-ink2" style={{ width: `${of === 0 ? 0 : (count / of) * 100}%` }} />
    </div>
  </div>
)

const cell = 'h-8 whitespace-nowrap border-t border-hair px-1.5'

const Connections = () => {
  const status = useStore((s) => s.status)
  const setAside = useStore((s) => s.setAside)
  if (!status) return null
  const { connections, boards } = status
  const sources = connections.filter((c) => c.carries === 'source')
  const drawn = new Set(boards.map((b) => b.connection))
  // Of a connection that a board's own line speaks for, nothing is said twice.
  const others = connections.filter((c) => c.carries === 'source' || (!drawn.has(c.id) && c.state === 'down'))
  return (
    <section aria-label="Connected">
      <div className="flex items-baseline gap-2 px-3.5 pt-2.5 pb-2">
        <h2>Connected</h2>
        <span className="cap flex-1">and at what rate</span>
        <button type="button" className="btn" onClick={() => useStore.setState({ connectionsAt: '' })}>
          Connections <span className="key">C</span>
        </button>
      </div>
      <table className="w-full border-collapse">
        <thead className="sr-only">
          <tr>
            <th>State</th>
            <th>What</th>
            <th>Kind</th>
            <th>Rate</th>
            <th>Load</th>
          </tr>
        </thead>
        <tbody>
          {sources.length === 0 && (
            <tr>
              <td className={`${cell} w-7 pl-3.5`}>
                <UpMark up={false} words="down" />
              </td>
              <td className={cell} colSpan={4}>
                No simulator is connected yet
              </td>
            </tr>
          )}
          {sources.map((s) => (
            <SourceLine key={s.id} source={s} />
          ))}
          {boards.map((b) => (
            <BoardLine key={b.identity} board={b} />
          ))}
        </tbody>
      </table>
      <Troubles
        list={[
          ...others.flatMap((c) => (c.problem ? [`${c.name}: ${c.problem}.`] : [])),
          ...boards.flatMap(boardTrouble),
          ...setAside,
        ]}
      />
      <PluggedIn />
      <Oddities list={connections.flatMap((c) => c.odd)} />
    </section>
  )
}

const SourceLine = ({ source }: { source: ConnectionStatus }) => {
  const { state } = source
  return (
    <tr data-source={source.id}>
      <td className={`${cell} w-7 pl-3.5`}>
        <UpMark up={state === 'up'} words={state} />
      </td>
      <td className={cell}>{source.who || source.name}</td>
      <td className={`${cell} text-ink2`}>{source.who === '' ? 'simulator' : source.name}</td>
      <td className={`${cell} mono text-right`}>{state === 'up' ? `${source.rateHz.toFixed(1)} Hz` : '–'}</td>
      <td className={`${cell} w-20 pr-3.5 text-right text-ink2`}>{state}</td>
    </tr>
  )
}

const boardTrouble = (b: BoardStatus): string[] => {
  if (b.state === 'down') return [`${b.name}: ${b.problem ?? 'not there'}.`]
  if (b.problem) return [`${b.name}: ${b.problem}.`]
  return []
}

const Troubles = ({ list }: { list: readonly string[] }) =>
  list.length === 0 ? null : (
    <ul className="border-t border-hair px-3.5 py-2">
      {list.map((text) => (
        <li key={text} className="text-[12px] leading-[18px] text-fault">
          {text}
        </li>
      ))}
    </ul>
  )

/** What is odd about the catalogue of a simulator, of which all the rest is used, or about the program of a board. */
const Oddities = ({ list }: { list: readonly string[] }) =>
  list.length === 0 ? null : (
    <ul aria-label="Odd" className="border-t border-hair px-3.5 py-2">
      {list.map((text) => (
        <li key={text} className="flex gap-1.5 text-[12px] leading-[18px] text-warn">
          <Mark shape="warn" words="odd" />
          {text}
        </li>
      ))}
    </ul>
  )

const BoardLine = ({ board }: { board: BoardStatus }) => {
  const rig = useStore((s) => s.rig)
  const { id } = board
  const differing = board.differing.map((p) => rig.part[p]?.name ?? p)
  const model = (modelOf(id === null ? undefined : rig.board[id])?.name ?? board.model).replace(/ board$/, '')
  return (
    <tr data-board={board.id ?? board.identity}>
      <td className={`${cell} w-7 pl-3.5`}>
        <UpMark up={board.state === 'up'} words={board.state} />
      </td>
      <td className={cell} title={id === null ? board.identity : undefined}>
        {id === null ? model : board.name}
      </td>
      <td className={`${cell} text-ink2`}>
        {id === null ? (board.simulated ? 'simulated' : 'found') : model}
        {id !== null && board.simulated && <span className="text-ink3"> · simulated</span>}
      </td>
      <td className={`${cell} mono text-right`}>
        {board.state === 'up' ? `${board.rateHz.toFixed(1)} Hz` : '–'}
      </td>
      <td className={`${cell} w-20 pr-3.5 text-right`}>
        {board.loading !== null ? (
          <span className="mono">{Math.round(board.loading * 100)} %</span>
        ) : board.state === 'down' ? (
          <AwayBoard id={id} />
        ) : board.loaded ? (
          <span className="text-ink2">loaded</span>
        ) : id !== null ? (
          <button
            type="button"
            className="btn"
            data-strong="true"
            title={`Differs in: ${differing.join(', ') || 'parts no longer drawn'}`}
            onClick={() => sayToHub({ say: 'load', boardId: id })}
          >
            Load
          </button>
        ) : (
          <DrawFound identity={board.identity} model={board.model} />
        )}
      </td>
    </tr>
  )
}

/** A board that nobody answers for can be tried all the same. */
const AwayBoard = ({ id }: { id: string | null }) => {
  const board = useStore((s) => s.rig.board[id ?? ''])
  if (!board || isGiven(board)) return <span className="text-ink2">away</span>
  return (
    <button
      type="button"
      className="btn"
      title={`${board.name} is away: let a simulated board stand for it, until a real one takes its place`}
      onClick={() => simulate(board)}
    >
      Simulate
    </button>
  )
}

const OpenEnds = ({ rig }: { rig: Rig }) => {
  const router = useRouter()
  const ends = openEnds(rig)
  const mend = (end: OpenEnd) => {
    select(end.partId)
    if (end.terminal) {
      // A wire is drawn where wires are drawn: the terminal that lacks it is in the hand.
      pickUp({ of: 'part', id: end.partId, terminal: end.terminal })
      useHarness.setState({ drawer: 'tray' })
      router.push('/harness')
      return
    }
    useStore.setState({ opening: { partId: end.partId, station: end.station } })
  }
  return (
    <section aria-label="Open ends" className="pb-3">
      <div className="flex items-baseline gap-2 border-t border-line px-3.5 pt-2.5 pb-2">
        <h2>Open ends</h2>
        <span className="cap">
          {ends.length === 0 ? 'none' : `${ends.length} · one click from where it is mended`}
        </span>
      </div>
      {ends.length === 0 && (
        <p className="px-3.5 text-ink2">
          {rowsOf(rig, 'part').length === 0
            ? 'Nothing is drawn yet.'
            : 'Everything drawn is wired and bound. Try it in Mirror.'}
        </p>
      )}
      <ul>
        {ends.map((end) => (
          <li
            key={`${end.partId} ${end.station} ${end.what}`}
            className="flex h-8 items-center gap-2 border-t border-hair px-3.5"
          >
            <b className="font-normal">
              {end.panelId === undefined ? rig.part[end.partId]?.name : rig.panel[end.panelId]?.name}
            </b>
            <span className="min-w-0 flex-1 truncate text-ink2">{end.what}</span>
            <button type="button" className="btn" onClick={() => mend(end)}>
              {end.station === 'pin' ? 'Wire it' : 'Bind it'}
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

const things = (count: number): string => (count === 1 ? '1 thing' : `${count} things`)

/** How many things in the wiring will not work, one click from where they are mended. */
const Findings = () => {
  const router = useRouter()
  const wiring = useFindings().length
  const bindings = useBindingFindings().length
  const count = wiring + bindings
  if (count === 0) return null
  return (
    <section aria-label="Findings" className="flex items-center gap-2 border-t border-line px-3.5 py-2">
      <Mark shape="fault" words="findings" />
      <span className="flex-1">
        {wiring > 0 && `${things(wiring)} in the wiring will not work, or not for long`}
        {wiring > 0 && bindings > 0 && '; '}
        {bindings > 0 &&
          `${things(bindings)} in the bindings ${bindings === 1 ? 'looks' : 'look'} like a slip`}
      </span>
      <button
        type="button"
        className="btn"
        onClick={() => {
          useHarness.setState({ drawer: 'findings' })
          router.push('/harness')
        }}
      >
        Show
      </button>
    </section>
  )
}

/** What was done last, newest first. */
const LastEdits = () => {
  const edits = useStore((s) => s.upcoming?.latest)
  if (edits === undefined || edits.length === 0) return null
  return (
    <section aria-label="Last edits" className="pb-3">
      <div className="flex items-baseline gap-2 border-t border-line px-3.5 pt-2.5 pb-2">
        <h2>Last edits</h2>
        <span className="cap">newest first</span>
      </div>
      <ul>
        {edits.map((e) => (
          <li key={e.revision} className="flex h-7 items-center gap-2 border-t border-hair px-3.5">
            <span className="min-w-0 flex-1 truncate" title={e.sentence}>
              {e.sentence}
            </span>
            <time className="mono text-[12px] text-ink2" dateTime={e.at}>
              {new Date(e.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}
            </time>
          </li>
        ))}
      </ul>
    </section>
  )
}

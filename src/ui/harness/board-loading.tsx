'use client'
import { isGiven } from '@/core/harness/given'
import { loadAll, sayToHub, select } from '../live/connection'
import { simulate } from '../live/simulate'
import { useStore } from '../live/store'
import { Mark, UpMark } from '../primitives/mark'
import { DrawFound } from './draw-found'
import { useHarness } from './harness-store'

const SimulateButton = ({ id }: { id: string | null }) => {
  const board = useStore((s) => s.rig.board[id ?? ''])
  if (!board || isGiven(board)) return null
  return (
    <button
      type="button"
      className="btn h-[21px]"
      title="Let a simulated board stand for it, until a real one takes its place"
      onClick={() => simulate(board)}
    >
      Simulate
    </button>
  )
}

/** What each board holds against what is drawn. */
export const BoardLoading = () => {
  const rig = useStore((s) => s.rig)
  const boards = useStore((s) => s.status?.boards) ?? []
  const known = boards.filter((b) => b.id !== null)
  const toLoad = known.filter((b) => b.state === 'up' && !b.loaded && b.loading === null)
  const strangers = boards.filter((b) => b.id === null && b.state === 'up')
  return (
    <section aria-label="Loading">
      {toLoad.length > 1 && (
        <p className="flex items-center gap-2 border-b border-hair px-3 py-1.5">
          <span className="flex-1">{toLoad.length} boards differ from the drawing</span>
          <button type="button" className="btn h-[21px]" data-strong="true" onClick={loadAll}>
            Load all
          </button>
        </p>
      )}
      <ul>
        {known.map((b) => (
          <li key={b.id} data-board-load={b.id} className="border-b border-hair px-3 py-1">
            <div className="flex h-6 items-center gap-2">
              <UpMark up={b.state === 'up'} words={b.state} />
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left hover:text-accent"
                onClick={() => useHarness.setState({ boardId: b.id })}
              >
                {b.name}
              </button>
              {b.loading !== null ? (
                <>
                  <progress className="h-2 w-16" value={b.loading} max={1} aria-label={`Loading ${b.name}`} />
                  <span className="mono">{Math.round(b.loading * 100)} %</span>
                </>
              ) : b.state === 'down' ? (
                <>
                  <span className="text-fault">away</span>
                  <SimulateButton id={b.id} />
                </>
              ) : b.loaded ? (
                <span className="flex items-center gap-1 text-ink2">
                  <Mark shape="ok" words="holds the drawing" /> holds the drawing
                </span>
              ) : (
                <button
                  type="button"
                  className="btn h-[21px]"
                  data-strong="true"
                  onClick={() => b.id !== null && sayToHub({ say: 'load', boardId: b.id })}
                >
                  Load
                </button>
              )}
            </div>
            {b.state === 'up' && !b.loaded && (
              <p className="pb-1 leading-[15px] text-warn">
                differs:{' '}
                {b.differing.length === 0
                  ? 'it holds something that is no longer drawn'
                  : b.differing.slice(0, 8).map((id, i) => (
                      <button key={id} type="button" className="hover:text-accent" onClick={() => select(id)}>
                        {i > 0 && ', '}
                        {rig.part[id]?.name ?? id}
                      </button>
                    ))}
                {b.differing.length > 8 && ` and ${b.differing.length - 8} more`}
              </p>
            )}
          </li>
        ))}
      </ul>
      {strangers.map((b) => (
        <div key={b.identity} className="flex items-center gap-2 border-b border-hair px-3 py-1 text-ink2">
          <p className="min-w-0 flex-1">
            {b.model} <span className="mono">{b.identity}</span> is connected and stands for no board here.
          </p>
          <DrawFound identity={b.identity} model={b.model} />
        </div>
      ))}
    </section>
  )
}

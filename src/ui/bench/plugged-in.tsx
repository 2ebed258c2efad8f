'use client'
import type { FoundPort } from '@/core/live/feed'
import { connectionsOf } from '@/core/rig/rig'
import { addFoundController } from '../controllers/add-controller'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { Mark, type MarkShape } from '../primitives/mark'

/** What was plugged in while Clavik runs and is in no rig yet: what is known of it, and what is done next. */
export const PluggedIn = () => {
  const rig = useStore((s) => s.rig)
  const found = useStore((s) => s.status?.found) ?? []
  const used = new Set(
    connectionsOf(rig).flatMap(({ settings }) => (settings.kind === 'board serial' ? [settings.path] : [])),
  )
  const controllers = (useStore((s) => s.status?.controllers) ?? []).filter(
    (c) => c.fresh && c.usedBy === null,
  )
  const fresh = found.filter((p) => p.fresh && p.state !== 'in use' && !used.has(p.path))
  if (fresh.length + controllers.length === 0) return null
  return (
    <ul aria-label="Plugged in" className="border-t border-hair px-3.5 py-2">
      {controllers.map((c) => (
        <li key={c.path} className="flex items-center gap-1.5 text-[12px] leading-[18px]">
          <Mark shape="ok" words="a controller" />
          <span className="min-w-0 flex-1 truncate">{c.name} was plugged in</span>
          <button type="button" className="btn" data-strong="true" onClick={() => addFoundController(c)}>
            Use it
          </button>
        </li>
      ))}
      {fresh.map((port) => (
        <Fresh key={port.path} port={port} />
      ))}
    </ul>
  )
}

const Fresh = ({ port }: { port: FoundPort }) => {
  const { path, state, program } = port
  const [shape, words] = known(port)
  const isBare = state === 'nothing' && program === null
  return (
    <li className="flex items-center gap-1.5 text-[12px] leading-[18px]">
      <Mark shape={shape} words={state} />
      <span className="min-w-0 flex-1">
        <span className="mono" title={path}>
          {path.split('/').at(-1)}
        </span>{' '}
        {words}
      </span>
      <button
        type="button"
        className="btn"
        data-strong="true"
        onClick={() => {
          useStore.setState({ connectionsAt: '' })
          if (isBare) sayToHub({ say: 'load program', path })
        }}
      >
        {isBare ? 'Load its program' : 'Look'}
      </button>
    </li>
  )
}

const known = ({ state, model, program, problem }: FoundPort): [MarkShape, string] => {
  if (program?.at === 'failed') return ['fault', 'was plugged in; its program could not be written']
  if (program?.at === 'done') return ['ok', 'has its program, and no name yet']
  if (program) return ['wait', 'is getting its program']
  if (state === 'board') return ['ok', `was plugged in: ${model}`]
  if (state === 'nothing') return ['warn', `was plugged in: ${problem}`]
  return ['wait', 'was plugged in, and is asked who it is']
}

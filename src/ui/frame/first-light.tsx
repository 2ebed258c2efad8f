'use client'
import { usePathname, useRouter } from 'next/navigation'
import { useEffect, useMemo, useState } from 'react'
import { boardModels } from '@/core/catalogue/boards'
import type { Family } from '@/core/catalogue/part-kind'
import { partKinds } from '@/core/catalogue/parts'
import { simulatedCraft } from '@/core/connections/simulated-craft'
import { type FirstStep, firstLight, firstSteps, type FirstLight as Light } from '@/core/harness/first-light'
import { unwiredParts } from '@/core/harness/unwired-parts'
import { panelsOf, rowsOf } from '@/core/rig/rig'
import { addConnection } from '../connections/add-connection'
import { DrawFound } from '../harness/draw-found'
import { addBoard, useHarness } from '../harness/harness-store'
import { solve } from '../harness/solve'
import { loadAll, select } from '../live/connection'
import { simulate } from '../live/simulate'
import { useStore } from '../live/store'
import { newPanel, plateSizes } from '../panel/new-panel'
import { Mark } from '../primitives/mark'
import { useSurface } from '../surface/view-store'
import { arm } from './status-line'

/** A rig that is larger has found its way. */
const MOST_PARTS = 4

const words: Record<FirstStep, string> = {
  panel: 'Panel',
  control: 'Control',
  lamp: 'Lamp',
  board: 'Board',
  wires: 'Wires',
  loaded: 'Loaded',
  source: 'Simulator',
  act: 'Control bound',
  show: 'Lamp bound',
  seen: 'Seen to work',
}

/** From an empty rig to a lamp that follows a control: how far it is, and the next thing to do, in its own place. */
export const FirstLight = () => {
  const rig = useStore((s) => s.rig)
  const rigId = useStore((s) => s.rigId)
  const boards = useStore((s) => s.status?.boards)
  const proof = useStore((s) => s.proof)
  const left = useStore((s) => s.leftFirstLight)
  const small = rowsOf(rig, 'part').length <= MOST_PARTS
  const light = useMemo(
    () =>
      small &&
      firstLight(rig, {
        holds: (id) => boards?.some((b) => b.id === id && b.state === 'up' && b.loaded) ?? false,
        proven: (id) => proof[id] === 'proven',
      }),
    [small, rig, boards, proof],
  )
  const next = light ? firstSteps.find((s) => !light.done.has(s)) : undefined
  const [led, setLed] = useState<string | null>(null)
  useEffect(() => {
    if (next) setLed(rigId)
  }, [next, rigId])
  if (rigId === null || left === rigId || !light) return null
  // Where it has its light already, nobody is led to it.
  if (!next && led !== rigId) return null
  return (
    <section
      aria-label="First light"
      className="flex h-[34px] shrink-0 items-center gap-2.5 border-b border-line bg-raised px-3.5 whitespace-nowrap"
    >
      <h2>First light</h2>
      <ol className="flex items-center gap-2 text-[12px] text-ink2">
        {firstSteps.map((s) => (
          <li
            key={s}
            data-step={s}
            title={words[s]}
            aria-current={s === next ? 'step' : undefined}
            className={`flex items-center gap-1 ${s === next ? 'font-bold text-ink' : ''}`}
          >
            {light.done.has(s) ? (
              <Mark shape="ok" words="done" />
            ) : (
              <span
                aria-hidden="true"
                className={`h-[9px] w-[9px] border ${s === next ? 'border-ink bg-ink' : 'border-ink3'}`}
              />
            )}
            <span className="sr-only 2xl:not-sr-only">{words[s]}</span>
          </li>
        ))}
      </ol>
      <span className="cap min-w-0 flex-1 truncate">
        {light.done.size} of {firstSteps.length}
        {next && ` · next: ${words[next]}`}
      </span>
      {next ? <Next step={next} light={light} /> : <span className="font-bold">The lamp follows.</span>}
      <button
        type="button"
        className="btn"
        title="It can be gone without; nothing is lost"
        onClick={() => useStore.setState({ leftFirstLight: rigId })}
      >
        {next ? 'Leave' : 'Done'}
      </button>
    </section>
  )
}

/** Takes a kind of part into the hand, where parts are put down. */
const takeInHand = (family: Family): void => {
  const kind = partKinds.find((k) => k.family === family)
  if (kind) useSurface.setState({ drawer: 'parts', tool: { is: 'part', kind: kind.id } })
}

const Next = ({ step, light }: { step: FirstStep; light: Light }) => {
  const router = useRouter()
  const path = usePathname()
  const [size, setSize] = useState(0)
  const armed = useStore((s) => s.status?.armed ?? false)
  const inHand = useSurface((s) => s.tool.is === 'part')
  const found = useStore((s) => s.status?.boards.find((b) => b.id === null && b.state === 'up'))
  const harness = () => router.push('/harness')
  const bind = (partId: string | undefined) => {
    if (partId === undefined) return
    select(partId)
    useStore.setState({ opening: { partId, station: 'simulator' } })
  }
  const draw = (family: Family) => {
    takeInHand(family)
    router.push('/panel')
  }
  const simulated = () => {
    const [model] = boardModels
    if (!model) return
    simulate(addBoard(model, (name) => `Added ${name}`))
    useHarness.setState({ drawer: 'boards' })
    harness()
  }
  const load = () => {
    const { rig, status } = useStore.getState()
    for (const id of light.boardIds) {
      const row = rig.board[id]
      if (row && !status?.boards.some((b) => b.id === id && b.state === 'up')) simulate(row)
    }
    loadAll()
    useHarness.setState({ drawer: 'boards' })
    harness()
  }
  const acts: Record<FirstStep, readonly [string, () => void]> = {
    panel: [
      'New panel',
      () => {
        newPanel(panelsOf(useStore.getState().rig), plateSizes[size])
        draw('button')
      },
    ],
    control: ['Put a button down', () => draw('button')],
    lamp: ['Put a lamp down', () => draw('lamp')],
    board: ['A simulated board', simulated],
    wires: [
      'Assign pins',
      () => {
        const partIds = unwiredParts(useStore.getState().rig)
        solve('What has no wire yet', { is: 'assign', partIds, boardIds: null })
        harness()
      },
    ],
    loaded: ['Load the board', load],
    source: ['A simulated craft', () => addConnection(simulatedCraft.name, simulatedCraft.fresh)],
    act: ['Bind the control', () => bind(light.control?.id)],
    show: ['Bind the lamp', () => bind(light.lamp?.id)],
    seen: [
      'Arm, and work it in Mirror',
      () => {
        arm(true)
        if (light.control) select(light.control.id)
        router.push('/mirror')
      },
    ],
  }
  const [label, act] = acts[step]
  if ((step === 'control' || step === 'lamp') && inHand && path === '/panel')
    return <span>Click on the plate where it shall be.</span>
  if (step === 'seen' && armed && path === '/mirror') return <span>Work the control: the lamp follows.</span>
  return (
    <>
      {step === 'panel' && (
        <select
          aria-label="Size of the panel"
          className="h-[24px] py-0"
          value={size}
          onChange={(e) => setSize(Number(e.target.value))}
        >
          {plateSizes.map(([width, height], i) => (
            <option key={`${width} ${height}`} value={i}>
              {width} × {height} mm
            </option>
          ))}
        </select>
      )}
      {step === 'board' && found && <DrawFound identity={found.identity} model={found.model} />}
      <button type="button" className="btn" data-strong="true" onClick={act}>
        {label}
      </button>
    </>
  )
}

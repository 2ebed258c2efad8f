'use client'
import { useEffect, useState } from 'react'
import { AXES_FROM, type Capabilities } from '@/core/controllers/capabilities'
import {
  type SimulatedControl,
  type SimulatedModelName,
  simulatedModels,
} from '@/core/controllers/simulated-models'
import { sayToHub } from '../live/connection'
import { notify } from '../live/store'
import { Segments } from '../primitives/segments'
import { useController } from './controller-store'

/** The controls of a simulated controller as a hand finds them: what a switch tells is another matter. */
export const SimulatedHands = ({ connection, model }: { connection: string; model: SimulatedModelName }) => {
  const put = (control: number, to: number) => {
    if (!sayToHub({ say: 'handle', connection, control, to })) notify('The hub is away, so nothing moves.')
  }
  return (
    <section aria-label="Hands on it" className="border border-line p-2">
      <h3 className="font-bold">Hands on it</h3>
      <p className="pb-1 text-ink2">It is simulated: work it here, and see what it tells.</p>
      <div className="grid grid-cols-[118px_minmax(0,1fr)] items-center gap-x-2 gap-y-1.5">
        {simulatedModels[model].controls.map((control, i) => (
          <Hand key={control.name} control={control} put={(to) => put(i, to)} />
        ))}
      </div>
    </section>
  )
}

const Hand = ({ control, put }: { control: SimulatedControl; put: (to: number) => void }) => (
  <>
    <span className="text-ink2">{control.name}</span>
    {control.is === 'button' && <PushHand name={control.name} put={put} />}
    {control.is === 'switch' && <SwitchHand control={control} put={put} />}
    {control.is === 'lever' && <LeverHand control={control} put={put} />}
    {control.is === 'hat' && <HatHand put={put} />}
  </>
)

const PushHand = ({ name, put }: { name: string; put: (to: number) => void }) => (
  <button
    type="button"
    className="btn w-[96px] justify-center"
    aria-label={`Press ${name}`}
    onPointerDown={(e) => {
      e.currentTarget.setPointerCapture(e.pointerId)
      put(1)
    }}
    onPointerUp={() => put(0)}
    onPointerCancel={() => put(0)}
    onKeyDown={(e) => !e.repeat && (e.key === ' ' || e.key === 'Enter') && put(1)}
    onKeyUp={() => put(0)}
    onBlur={() => put(0)}
  >
    press
  </button>
)

const isClosed = (hello: Capabilities | null, raw: ReadonlyMap<number, number>, button: number): boolean =>
  hello !== null && raw.get(button) === 1

const SwitchHand = ({
  control: { name, buttons, words },
  put,
}: {
  control: Extract<SimulatedControl, { is: 'switch' }>
  put: (to: number) => void
}) => {
  const at = useController((s) => {
    const closed = buttons.findIndex((b) => b !== null && isClosed(s.hello, s.raw, b))
    return closed >= 0 ? closed : buttons.indexOf(null)
  })
  return (
    <span className="justify-self-start">
      <Segments
        label={name}
        words={Object.fromEntries(words.map((w, i) => [String(i), w]))}
        is={String(at)}
        choose={(key) => put(Number(key))}
      />
    </span>
  )
}

const STEP = 0.005
const LAG_MS = 600

const LeverHand = ({
  control: { name, axis, springs },
  put,
}: {
  control: Extract<SimulatedControl, { is: 'lever' }>
  put: (to: number) => void
}) => {
  const pin = AXES_FROM + axis
  const share = useController((s) => {
    const most = s.hello?.axes.find((a) => a.code === axis)?.most ?? 1
    // In steps of the slider, so that keys go on from where it trembles.
    return Math.round((s.raw.get(pin) ?? 0) / most / STEP) * STEP
  })
  const [held, setHeld] = useState<number | null>(null)
  // Where the hand is counts until what it moved has had time to say so.
  useEffect(() => {
    if (held === null) return
    const timer = setTimeout(() => setHeld(null), LAG_MS)
    return () => clearTimeout(timer)
  }, [held])
  const letGo = () => {
    if (!springs) return
    setHeld(null)
    put(0.5)
  }
  return (
    <input
      type="range"
      className="w-full p-0"
      aria-label={name}
      min={0}
      max={1}
      step={STEP}
      value={held ?? share}
      onChange={(e) => {
        setHeld(Number(e.target.value))
        put(Number(e.target.value))
      }}
      onPointerUp={letGo}
      onBlur={letGo}
    />
  )
}

const hatWays = ['up', 'up right', 'right', 'down right', 'down', 'down left', 'left', 'up left'] as const
const arrows = ['↑', '↗', '→', '↘', '↓', '↙', '←', '↖'] as const

const HatHand = ({ put }: { put: (to: number) => void }) => (
  <span className="flex gap-0.5">
    {hatWays.map((way, i) => (
      <button
        key={way}
        type="button"
        className="btn w-[24px] justify-center px-0"
        aria-label={`Hat ${way}`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId)
          put(i + 1)
        }}
        onPointerUp={() => put(0)}
        onPointerCancel={() => put(0)}
        onKeyDown={(e) => !e.repeat && (e.key === ' ' || e.key === 'Enter') && put(i + 1)}
        onKeyUp={() => put(0)}
      >
        {arrows[i]}
      </button>
    ))}
  </span>
)

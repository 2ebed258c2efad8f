'use client'
import { useCallback, useEffect, useMemo, useState } from 'react'
import type { DevicesState } from '@/core/access/pairing'
import { useStore } from '../live/store'
import { Sheet } from '../primitives/sheet'
import { qrPath } from './qr-path'

const EVERY_MS = 1000

type Ask =
  | { readonly do: 'offer' | 'withdraw' }
  | { readonly do: 'remove'; readonly id: string }
  | { readonly do: 'touch'; readonly id: string; readonly on: boolean }

/** Devices in the house that show screens: a code to pair one, and the list from which one can be taken back. */
export const DevicesSheet = () => {
  const open = useStore((s) => s.devicesOpen)
  return (
    <Sheet
      title="Devices"
      titleShown
      className="w-[640px] max-h-[84vh] overflow-y-auto p-4"
      open={open}
      setOpen={(devicesOpen) => useStore.setState({ devicesOpen })}
    >
      {open && <DevicesForm />}
    </Sheet>
  )
}

const useDevices = (): { state: DevicesState | null; problem: string | null; ask: (what: Ask) => void } => {
  const [state, setState] = useState<DevicesState | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const take = useCallback(async (request: Promise<Response>) => {
    try {
      const response = await request
      const said = (await response.json()) as DevicesState & { reasons?: readonly string[] }
      if (response.ok) setState(said)
      setProblem(response.ok ? null : (said.reasons ?? []).join(' '))
    } catch {
      setProblem('Clavik does not answer just now.')
    }
  }, [])
  useEffect(() => {
    void take(fetch('/api/devices'))
    const timer = setInterval(() => void take(fetch('/api/devices')), EVERY_MS)
    return () => clearInterval(timer)
  }, [take])
  const ask = (what: Ask) =>
    void take(
      fetch('/api/devices', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(what),
      }),
    )
  return { state, problem, ask }
}

const DevicesForm = () => {
  const { state, problem, ask } = useDevices()
  if (!state) return <p className="text-ink2">{problem ?? 'Asking …'}</p>
  return (
    <div className="flex flex-col gap-3 text-[13px]">
      {problem && <p className="text-fault">{problem}</p>}
      {state.open ? (
        <Offer state={state} ask={ask} />
      ) : (
        <p>
          Only this computer reaches Clavik. To show screens on a tablet or a small computer in the house,
          start it with <code className="mono bg-raised px-1">bin/start --lan</code>; a device is let in once
          it is paired, and shows screens and nothing else.
        </p>
      )}
      <section aria-label="Paired devices" className="border-t border-line pt-2">
        <h2>Paired</h2>
        {state.devices.length === 0 && <p className="pt-1 text-ink2">No device is paired.</p>}
        <ul className="m-0 list-none p-0">
          {state.devices.map((d) => (
            <li key={d.id} className="flex items-center gap-3 border-b border-hair py-1.5">
              <span className="min-w-0 flex-1">
                <b>{d.name}</b>
                <span className="block text-[12px] text-ink2">
                  paired on {new Date(d.pairedAt).toLocaleDateString('en-GB')},{' '}
                  {d.shows.length > 0 ? (
                    <span className="text-live">
                      shows {d.shows.map((s) => s || 'the list of screens').join(', ')}
                    </span>
                  ) : (
                    'shows nothing now'
                  )}
                </span>
              </span>
              <label className="flex items-center gap-1.5 text-[12px]">
                <input
                  type="checkbox"
                  checked={d.touch}
                  onChange={(e) => ask({ do: 'touch', id: d.id, on: e.target.checked })}
                />
                may be touched
              </label>
              <button
                type="button"
                className="btn"
                aria-label={`Take ${d.name} back`}
                onClick={() => ask({ do: 'remove', id: d.id })}
              >
                Take back
              </button>
            </li>
          ))}
        </ul>
      </section>
    </div>
  )
}

const Offer = ({ state, ask }: { state: DevicesState; ask: (what: Ask) => void }) => {
  const { offered, addresses } = state
  const [at, setAt] = useState(0)
  const address = addresses[at] ?? addresses[0]
  if (!address) return <p>This computer has no address in a network just now.</p>
  return (
    <section aria-label="Pair a device" className="flex gap-5">
      <div className="flex min-w-0 flex-1 flex-col gap-2">
        <p>
          On the device, open{' '}
          {addresses.length > 1 ? (
            <select aria-label="Address" value={at} onChange={(e) => setAt(Number(e.target.value))}>
              {addresses.map((a, i) => (
                <option key={a} value={i}>
                  {a}/pair
                </option>
              ))}
            </select>
          ) : (
            <b className="mono">{address}/pair</b>
          )}{' '}
          and type the code. It then shows screens, and nothing else: it can change nothing.
        </p>
        {offered ? (
          <>
            <b className="mono text-[34px] leading-10 tracking-[0.12em]" data-code={offered.code}>
              {offered.code.slice(0, 3)} {offered.code.slice(3)}
            </b>
            <span className="text-[12px] text-ink2">
              for one device, for {Math.floor(offered.secondsLeft / 60)} min {offered.secondsLeft % 60} s
            </span>
            <button type="button" className="btn self-start" onClick={() => ask({ do: 'withdraw' })}>
              Offer it no more
            </button>
          </>
        ) : (
          <button
            type="button"
            className="btn self-start"
            data-strong="true"
            onClick={() => ask({ do: 'offer' })}
          >
            Offer a code
          </button>
        )}
      </div>
      {offered && <QrCode text={`${address}/pair?code=${offered.code}`} />}
    </section>
  )
}

/** A text as a code to be read by a camera, black on white whatever the theme. */
const QrCode = ({ text }: { text: string }) => {
  const { size, d } = useMemo(() => qrPath(text), [text])
  return (
    <svg
      width={168}
      height={168}
      viewBox={`-4 -4 ${size + 8} ${size + 8}`}
      role="img"
      aria-label="The address and the code, for a camera"
      data-qr={text}
      shapeRendering="crispEdges"
    >
      <rect x={-4} y={-4} width={size + 8} height={size + 8} fill="#ffffff" />
      <path d={d} fill="#000000" />
    </svg>
  )
}

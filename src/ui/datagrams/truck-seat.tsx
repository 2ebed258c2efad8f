'use client'
import { useEffect, useState } from 'react'
import { emptySeat, type SeatInputs, sessions } from '@/core/connections/seat'
import { sayToHub } from '../live/connection'
import { notify } from '../live/store'

const pedals = [
  ['throttle', 'Throttle', 0],
  ['brake', 'Brake', 0],
  ['clutch', 'Clutch', 0],
  ['steering', 'Steering', -1],
] as const
const gears = [-1, 0, 1, 2, 3, 4, 5, 6]
const gearWords = (g: number): string => (g < 0 ? 'reverse' : g === 0 ? 'neutral' : String(g))

/** The seat of the simulated truck: what is touched here is taken from its own driver. */
export const TruckSeat = ({ connection }: { connection: string }) => {
  const [seat, setSeat] = useState<SeatInputs>(emptySeat)
  const sit = (change: Partial<SeatInputs>) => {
    const next = { ...seat, ...change }
    setSeat(next)
    if (!sayToHub({ say: 'drive', connection, seat: next })) notify('The hub is away, so nobody drives.')
  }
  // Whoever leaves the seat gives everything back.
  useEffect(() => () => void sayToHub({ say: 'drive', connection, seat: emptySeat }), [connection])
  const taken = pedals.some(([key]) => seat[key] !== null) || seat.gear !== null
  return (
    <section aria-label="Seat of the truck" className="max-w-[520px] border border-line p-2">
      <div className="flex items-center gap-2 pb-1">
        <b>In the seat</b>
        <span className="text-ink2">{taken ? 'you have what is marked' : 'it drives itself'}</span>
        {taken && (
          <button
            type="button"
            className="btn ml-auto"
            onClick={() => sit({ throttle: null, brake: null, clutch: null, steering: null, gear: null })}
          >
            Let it drive
          </button>
        )}
      </div>
      <div className="grid grid-cols-[62px_minmax(0,1fr)_36px] items-center gap-x-2 gap-y-1">
        {pedals.map(([key, words, least]) => (
          <label key={key} className="contents">
            <span className={seat[key] === null ? 'text-ink2' : 'font-bold text-accent'}>{words}</span>
            <input
              type="range"
              min={least}
              max={1}
              step={0.01}
              className="w-full p-0"
              aria-label={words}
              value={seat[key] ?? 0}
              // A foot that only rests on a pedal has it, too.
              onPointerDown={() => seat[key] === null && sit({ [key]: 0 })}
              onChange={(e) => sit({ [key]: Number(e.target.value) })}
            />
            <span className="mono text-right">{seat[key] === null ? '—' : seat[key].toFixed(2)}</span>
          </label>
        ))}
      </div>
      <div className="flex flex-wrap items-center gap-2 pt-1.5">
        <select
          aria-label="Gear"
          className="h-[24px] py-0"
          value={seat.gear ?? ''}
          onChange={(e) => sit({ gear: e.target.value === '' ? null : Number(e.target.value) })}
        >
          <option value="">its own gears</option>
          {gears.map((g) => (
            <option key={g} value={g}>
              {gearWords(g)}
            </option>
          ))}
        </select>
        <select
          aria-label="Session"
          className="h-[24px] py-0"
          value={seat.session}
          onChange={(e) => sit({ session: e.target.value as SeatInputs['session'] })}
        >
          {sessions.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
        {(['handbrake', 'lights'] as const).map((key) => (
          <label key={key} className="flex items-center gap-1">
            <input type="checkbox" checked={seat[key]} onChange={(e) => sit({ [key]: e.target.checked })} />
            {key}
          </label>
        ))}
      </div>
    </section>
  )
}

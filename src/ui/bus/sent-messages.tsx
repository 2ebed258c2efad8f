'use client'
import { useState } from 'react'
import type { BusMessage } from '@/core/bus/database'
import { guessedGuards, messageChecks } from '@/core/bus/message-check'
import type { Slowness } from '@/core/bus/slow'
import { type BusSending, busKey } from '@/core/connections/bus-settings'
import { formatNumber } from '@/core/signal/format'
import { ExpressionField } from '../editors/expression-field'
import { freeBinding } from '../editors/free-binding'
import { NumberField } from '../editors/number-field'
import { editBus, type WithBus } from './bus-edit'
import { useBus } from './bus-store'

type Value = BusSending['values'][number]

/** A message as it begins to be sent: as often as the database says, with what looks like its counter and its check. */
const sendingOf = (m: BusMessage): BusSending => {
  const { counter, check } = guessedGuards(m)
  return {
    ...{ message: m.name, everyMs: m.everyMs ?? 100, on: true },
    values: m.signals
      .filter((s) => s.name !== counter && s.name !== check)
      .slice(0, 64)
      .map((s) => ({ signal: s.name, value: '' })),
    ...(counter ? { counter } : {}),
    ...(check ? { check: { signal: check, how: 'crc-8' as const } } : {}),
  }
}

/** The messages that are sent again and again, and what goes into them. */
export const SentMessages = ({ row }: { row: WithBus }) => {
  const { database, send } = row.settings
  const put = (sentence: string, change: (list: readonly BusSending[]) => readonly BusSending[]) =>
    editBus(row.id, sentence, (is) => ({ send: change(is.send) }))
  const left = database.messages.filter((m) => !send.some((s) => s.message === m.name))
  return (
    <section aria-label="What is sent" className="flex min-h-0 flex-col">
      <div className="flex items-center gap-2 pb-1">
        <h3 className="font-bold">Sent by Clavik</h3>
        <span className="text-ink2">again and again, while the rig is armed</span>
        <select
          aria-label="Send a message"
          className="ml-auto h-[24px] max-w-[180px] py-0"
          value=""
          disabled={left.length === 0}
          onChange={(e) => {
            const m = database.messages.find((x) => x.name === e.target.value)
            if (m) put(`sends ${m.name}`, (list) => [...list, sendingOf(m)])
          }}
        >
          <option value="">Send a message …</option>
          {left.map((m) => (
            <option key={m.name}>{m.name}</option>
          ))}
        </select>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto pr-1">
        {send.length === 0 && (
          <p className="text-ink2">
            {database.messages.length === 0
              ? 'Take in the database of the vehicle first: it says which messages there are.'
              : 'Nothing is sent yet. Choose a message above, and say what goes into its signals.'}
          </p>
        )}
        {send.map((s, i) => (
          <Sending
            key={s.message}
            row={row}
            index={i}
            sending={s}
            message={database.messages.find((m) => m.name === s.message)}
            change={(sentence, more) =>
              put(`${s.message} ${sentence}`, (list) => list.map((x, k) => (k === i ? { ...x, ...more } : x)))
            }
            remove={() => put(`does not send ${s.message}`, (list) => list.filter((_, k) => k !== i))}
          />
        ))}
      </div>
    </section>
  )
}

const checkWords = { xor: 'xor', sum: 'sum', 'crc-8': 'CRC-8' } as const

const Sending = ({
  row,
  index,
  sending,
  message,
  change,
  remove,
}: {
  row: WithBus
  index: number
  sending: BusSending
  message: BusMessage | undefined
  change: (sentence: string, more: Partial<BusSending>) => void
  remove: () => void
}) => {
  const [open, setOpen] = useState<string | null>(null)
  const slow = useBus((s) => s.slow)
  const names = message?.signals.map((s) => s.name) ?? []
  const setValue = (signal: string, sentence: string, more: Partial<Value>) =>
    change(`${signal} ${sentence}`, {
      values: sending.values.map((v) => (v.signal === signal ? { ...v, ...more } : v)),
    })
  return (
    <section aria-label={`Message ${sending.message}`} className="mb-2 border-t-2 border-line pt-1">
      <div className="flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-1.5 font-bold">
          <input
            type="checkbox"
            checked={sending.on}
            onChange={(e) => change(e.target.checked ? 'is sent' : 'is not sent', { on: e.target.checked })}
          />
          {sending.message}
        </label>
        <NumberField
          label="every"
          name={`Pause of ${sending.message}`}
          unit="ms"
          narrow
          value={sending.everyMs}
          least={5}
          most={60_000}
          take={(n) => change(`every ${n} ms`, { everyMs: Math.round(n) })}
        />
        <Choice
          label={`Counter of ${sending.message}`}
          words="counts"
          value={sending.counter ?? ''}
          choices={names}
          take={(counter) => change('counts', { counter: counter || undefined })}
        />
        <Choice
          label={`Check of ${sending.message}`}
          words="check"
          value={sending.check?.signal ?? ''}
          choices={names}
          take={(signal) =>
            change('check', { check: signal ? { signal, how: sending.check?.how ?? 'crc-8' } : undefined })
          }
        />
        {sending.check && (
          <select
            aria-label={`How ${sending.message} is checked`}
            className="h-[24px] py-0"
            value={sending.check.how}
            onChange={(e) =>
              change('check', {
                check: {
                  signal: sending.check?.signal ?? '',
                  how: e.target.value as keyof typeof checkWords,
                },
              })
            }
          >
            {messageChecks.map((c) => (
              <option key={c} value={c}>
                {checkWords[c]}
              </option>
            ))}
          </select>
        )}
        <button
          type="button"
          className="btn ml-auto px-1.5"
          aria-label={`Do not send ${sending.message}`}
          onClick={remove}
        >
          ×
        </button>
      </div>
      <ul>
        {sending.values.map((v, k) => {
          const signal = message?.signals.find((s) => s.name === v.signal)
          const now = slow[busKey(index, k)]
          return (
            <li key={v.signal} data-sends={v.signal} className="border-t border-hair py-0.5">
              <div className="grid grid-cols-[120px_minmax(0,1fr)_auto] items-center gap-2">
                <span className="truncate" title={signal?.description}>
                  {v.signal} <span className="text-ink2">{signal?.unit}</span>
                </span>
                <button
                  type="button"
                  aria-expanded={open === v.signal}
                  aria-label={`What ${v.signal} is: ${v.value || 'always 0'}`}
                  className={`mono truncate border border-hair px-1.5 py-0.5 text-left ${v.value === '' ? 'text-ink2' : ''}`}
                  title={v.value}
                  onClick={() => setOpen(open === v.signal ? null : v.signal)}
                >
                  {v.value || 'always 0'}
                </button>
                {now && (
                  <span
                    className="mono whitespace-nowrap text-ink2"
                    title="What it is told, and where a slow indicator is thought to be"
                  >
                    told <b className="text-ink">{short(now[0])}</b> · shows {short(now[1])}
                    {now[2] > 0.05 && Math.abs(now[0] - now[1]) > 0.01 * Math.abs(now[0])
                      ? ` · there in ${now[2].toFixed(1)} s`
                      : ' · there'}
                  </span>
                )}
              </div>
              {open === v.signal && (
                <div className="flex flex-col gap-1 py-1 pl-[128px]">
                  <ExpressionField
                    binding={freeBinding(`${row.id} ${sending.message} ${v.signal}`)}
                    use="choice"
                    label={`Value of ${v.signal}`}
                    value={v.value}
                    emptyMeans="always 0"
                    take={(value) => setValue(v.signal, `is ${value ?? 'always 0'}`, { value: value ?? '' })}
                  />
                  <Slow
                    slow={v.slow}
                    unit={signal?.unit ?? ''}
                    take={(s) => setValue(v.signal, 'moves slowly', { slow: s })}
                  />
                </div>
              )}
            </li>
          )
        })}
      </ul>
    </section>
  )
}

const short = (x: number): string => formatNumber(Number(x.toPrecision(4)))

/** How the indicator behind a signal moves, if that takes its time. */
const Slow = ({
  slow,
  unit,
  take,
}: {
  slow: Slowness | undefined
  unit: string
  take: (slow: Slowness | undefined) => void
}) => {
  const set = (more: Slowness) => {
    const next = { ...slow, ...more }
    take(next.perS === undefined && next.lagS === undefined ? undefined : next)
  }
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-ink2">it moves by at most</span>
      <NumberField
        label=""
        name="Most in a second"
        unit={`${unit}/s`}
        value={slow?.perS}
        least={0.001}
        most={1e9}
        none={{ shown: 'any', clear: () => set({ perS: undefined }) }}
        take={(perS) => set({ perS })}
      />
      <span className="text-ink2">and settles within</span>
      <NumberField
        label=""
        name="Time to settle"
        unit="s"
        narrow
        value={slow?.lagS}
        least={0.01}
        most={60}
        none={{ shown: '0', clear: () => set({ lagS: undefined }) }}
        take={(lagS) => set({ lagS })}
      />
    </div>
  )
}

const Choice = ({
  label,
  words,
  value,
  choices,
  take,
}: {
  label: string
  words: string
  value: string
  choices: readonly string[]
  take: (value: string) => void
}) => (
  <label className="flex items-center gap-1.5">
    <span className="text-ink2">{words}</span>
    <select
      aria-label={label}
      className="h-[24px] max-w-[92px] py-0"
      value={value}
      onChange={(e) => take(e.target.value)}
    >
      <option value="">nothing</option>
      {choices.map((c) => (
        <option key={c}>{c}</option>
      ))}
    </select>
  </label>
)

'use client'
import { useEffect } from 'react'
import { checks, type DeviceDescription, lineEnds } from '@/core/device-line/description'
import { deviceFindings } from '@/core/device-line/device-findings'
import { OwnSheet, OwnSheetName } from '../connections/own-sheet'
import { beginRaw } from '../connections/raw-store'
import { SheetFoot } from '../connections/sheet-foot'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { Segments } from '../primitives/segments'
import { editDescription, hasDescription, type WithDescription } from './device-edit'
import { HeardValues } from './heard-values'
import { LineNow } from './line-now'
import { ReadingSide } from './reading-side'
import { SentValues } from './sent-values'

/** What goes to a device of one’s own, what comes back, and the program that reads it there. */
export const DeviceSheet = () => (
  <OwnSheet of="description" title={(name) => `What goes to ${name ?? 'a device'}`} has={hasDescription}>
    {(row) => <Device key={row.id} row={row} />}
  </OwnSheet>
)

const Device = ({ row }: { row: WithDescription }) => {
  const hub = useStore((s) => s.hub)
  const status = useStore((s) => s.status?.connections.find((c) => c.id === row.id))
  const { description } = row.settings
  useEffect(() => {
    beginRaw(row.id)
    if (hub === 'up') sayToHub({ say: 'raw', connection: row.id })
    return () => {
      sayToHub({ say: 'raw', connection: null })
      beginRaw(null)
    }
  }, [row.id, hub])
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line pb-2 text-[12px]">
        <OwnSheetName row={row} />
        <span className={status?.state === 'up' ? 'text-live' : 'text-fault'}>
          {status?.state === 'up' ? `open on ${status.address}` : (status?.problem ?? 'switched off')}
        </span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-4 pt-2 text-[12px]">
        <div className="flex min-h-0 flex-col gap-3 overflow-y-auto pr-1">
          <Form row={row} />
          <SentValues row={row} />
          <HeardValues row={row} />
        </div>
        <div className="flex min-h-0 flex-col gap-3">
          <LineNow row={row} />
          <ReadingSide row={row} />
        </div>
      </div>
      <SheetFoot odd={[...(status?.odd ?? []), ...deviceFindings(description)]} />
    </>
  )
}

const formWords = { line: 'lines of text', packet: 'packets of bytes' } as const
const endWords: Readonly<Record<string, string>> = {
  '\n': 'line feed',
  '\r\n': 'return and line feed',
  '\r': 'return',
}
const checkWords = {
  none: 'no check',
  xor: 'xor of all bytes',
  sum: 'sum of all bytes',
  'crc-16': 'CRC-16',
} as const
const whenWords = { changed: 'when something has changed', always: 'always' } as const
const noLetters = (t: string): string | null =>
  /^[^A-Za-z0-9.+\-\r\n]*$/.test(t) && t.length <= 4
    ? null
    : 'up to four signs, no letters, digits, point or sign'

/** How lines or packets are made, whatever stands in them. */
const Form = ({ row }: { row: WithDescription }) => {
  const { description: d } = row.settings
  const put = (sentence: string, more: Partial<DeviceDescription>) =>
    editDescription(row.id, sentence, (is) => ({ ...is, ...more }))
  return (
    <section aria-label="How it is sent" className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
      <Segments
        label="Form"
        words={formWords}
        is={d.form}
        choose={(form) => put(formWords[form], { form })}
      />
      {d.form === 'line' && (
        <>
          <span className="flex items-center gap-1.5">
            <span className="text-ink2">begins</span>
            <TextField
              label="In front of the first value"
              width={44}
              value={d.begins}
              objection={noLetters}
              take={(begins) => put(`begins with ${begins || 'nothing'}`, { begins })}
            />
          </span>
          <span className="flex items-center gap-1.5">
            <span className="text-ink2">between</span>
            <TextField
              label="Between values"
              width={44}
              value={d.separator}
              objection={(t) => (t === '' ? 'values need something between them' : noLetters(t))}
              take={(separator) => put(`${separator} between values`, { separator })}
            />
          </span>
          <select
            aria-label="End of a line"
            className="h-[24px] py-0"
            value={d.ends}
            onChange={(e) =>
              put(`ends with ${endWords[e.target.value]}`, {
                ends: e.target.value as DeviceDescription['ends'],
              })
            }
          >
            {lineEnds.map((e) => (
              <option key={e} value={e}>
                {endWords[e]}
              </option>
            ))}
          </select>
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={d.named}
              onChange={(e) =>
                put(e.target.checked ? 'with names' : 'without names', { named: e.target.checked })
              }
            />
            with names
          </label>
        </>
      )}
      <select
        aria-label="Check"
        className="h-[24px] py-0"
        value={d.check}
        onChange={(e) =>
          put(checkWords[e.target.value as keyof typeof checkWords], {
            check: e.target.value as DeviceDescription['check'],
          })
        }
      >
        {checks.map((c) => (
          <option key={c} value={c}>
            {checkWords[c]}
          </option>
        ))}
      </select>
      <label
        className="flex items-center gap-1"
        title="Four digits by which both ends notice when they no longer fit"
      >
        <input
          type="checkbox"
          checked={d.marked}
          onChange={(e) =>
            put(e.target.checked ? 'with its fingerprint' : 'without fingerprint', {
              marked: e.target.checked,
            })
          }
        />
        with fingerprint
      </label>
      <NumberField
        label="at most"
        name="Times a second"
        unit="/s"
        narrow
        value={d.hz}
        least={0.1}
        most={100}
        take={(hz) => put(`${hz} times a second`, { hz })}
      />
      <select
        aria-label="When it is sent"
        className="h-[24px] py-0"
        value={d.when}
        onChange={(e) =>
          put(whenWords[e.target.value as keyof typeof whenWords], {
            when: e.target.value as DeviceDescription['when'],
          })
        }
      >
        {Object.entries(whenWords).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </section>
  )
}

'use client'
import { changePacket, removePacket } from '@/core/datagrams/change-layout'
import { type FieldTypeName, fieldTypeNames, fieldTypes } from '@/core/datagrams/field-type'
import { type DatagramPacket, MOST_BYTES } from '@/core/datagrams/layout'
import type { LayoutFinding } from '@/core/datagrams/layout-findings'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { editLayout, type WithLayout } from './layout-edit'
import { typeNames } from './type-words'

const wholeTypes = fieldTypeNames.filter((t) => fieldTypes[t].isWhole && fieldTypes[t].bytes <= 4)

/** One packet of a layout, and what is wrong with it. */
export interface PacketProps {
  readonly row: WithLayout
  readonly at: number
  readonly packet: DatagramPacket
  readonly findings: readonly LayoutFinding[]
  readonly removed: () => void
}

/** What a packet is called, how long it is, by what it is known, and where it goes. */
export const PacketForm = ({ row, at, packet, findings, removed }: PacketProps) => {
  const put = (sentence: string, changed: Partial<DatagramPacket>) =>
    editLayout(row.id, `${packet.name}: ${sentence}`, (l) => changePacket(l, at, changed))
  const numbers = packet.fields.filter((f) => f.as !== 'text' && f.count === undefined)
  return (
    <section
      aria-label={`The packet ${packet.name}`}
      className="flex flex-wrap items-center gap-x-3 gap-y-1.5"
    >
      <TextField
        label="Name of the packet"
        width={110}
        value={packet.name}
        objection={(t) => (t.trim() === '' ? 'a name is needed' : null)}
        take={(name) => put(`called ${name.trim()}`, { name: name.trim() })}
      />
      <NumberField
        label=""
        name="Length of the packet"
        unit="bytes"
        value={packet.bytes}
        least={1}
        most={MOST_BYTES}
        take={(bytes) => put(`${bytes} bytes`, { bytes: Math.round(bytes) })}
      />
      {!packet.send && (
        <label className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={packet.longer ?? false}
            onChange={(e) =>
              put(e.target.checked ? 'or longer' : 'just that long', {
                longer: e.target.checked || undefined,
              })
            }
          />
          or longer
        </label>
      )}
      <Tell packet={packet} put={put} />
      {!packet.send && (
        <label className="flex items-center gap-1.5">
          <span className="text-ink2">only grows</span>
          <select
            aria-label="The field that only grows"
            title="What comes late or twice is known by it, and left out"
            className="h-[24px] max-w-[120px] py-0"
            value={packet.grows ?? ''}
            onChange={(e) =>
              put(`${e.target.value || 'nothing'} only grows`, { grows: e.target.value || undefined })
            }
          >
            <option value="">nothing</option>
            {numbers.map((f) => (
              <option key={f.name}>{f.name}</option>
            ))}
          </select>
        </label>
      )}
      {packet.send && <Sending packet={packet} put={put} />}
      <button
        type="button"
        className="btn"
        onClick={() => {
          editLayout(row.id, `removed the packet ${packet.name}`, (l) => removePacket(l, at))
          removed()
        }}
      >
        Remove
      </button>
      {findings.map((f) => (
        <p key={f.message} className="basis-full text-warn">
          {f.message}
        </p>
      ))}
    </section>
  )
}

type Put = (sentence: string, changed: Partial<DatagramPacket>) => void

/** The number by which it is told from other packets. */
const Tell = ({ packet, put }: { packet: DatagramPacket; put: Put }) => {
  const { tell } = packet
  if (!tell)
    return (
      <button
        type="button"
        className="btn"
        title="Packets of one length are told apart by a number in them"
        onClick={() => put('told by a number', { tell: { at: 0, as: 'u8', is: 1 } })}
      >
        Told by a number …
      </button>
    )
  const change = (more: Partial<typeof tell>) => put('told by a number', { tell: { ...tell, ...more } })
  return (
    <span className="flex items-center gap-1.5">
      <span className="text-ink2">where byte</span>
      <NumberField
        label=""
        name="Byte that tells the packet"
        unit=""
        narrow
        value={tell.at}
        least={0}
        most={packet.bytes - 1}
        take={(at) => change({ at: Math.round(at) })}
      />
      <select
        aria-label="Kind of the number that tells the packet"
        className="h-[24px] py-0"
        value={tell.as}
        onChange={(e) => change({ as: e.target.value as FieldTypeName })}
      >
        {wholeTypes.map((t) => (
          <option key={t} value={t}>
            {typeNames[t]}
          </option>
        ))}
      </select>
      <span className="text-ink2">is</span>
      <NumberField
        label=""
        name="Number that tells the packet"
        unit=""
        narrow
        value={tell.is}
        least={-(2 ** 31)}
        most={2 ** 32 - 1}
        take={(is) => change({ is: Math.round(is) })}
      />
      <button
        type="button"
        className="btn"
        aria-label="Not told by a number"
        onClick={() => put('told by its length', { tell: undefined })}
      >
        ×
      </button>
    </span>
  )
}

const whens = { changed: 'when something has changed', always: 'always' } as const

/** Where a packet that is sent goes, how often, and when. */
const Sending = ({ packet, put }: { packet: DatagramPacket; put: Put }) => {
  const { send } = packet
  if (!send) return null
  const change = (more: Partial<typeof send>) => put('where it goes', { send: { ...send, ...more } })
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      <span className="text-ink2">to</span>
      <TextField
        label="Computer to which it goes"
        width={112}
        value={send.host}
        objection={(t) =>
          /^[\p{L}\p{N}._:%-]+$/u.test(t.trim()) ? null : 'that is no name or address of a computer'
        }
        take={(host) => change({ host: host.trim() })}
      />
      <NumberField
        label="port"
        name="Port to which it goes"
        unit=""
        value={send.port}
        least={1}
        most={65_535}
        take={(port) => change({ port: Math.round(port) })}
      />
      <NumberField
        label="at"
        name="Times a second"
        unit="/s"
        narrow
        value={send.hz}
        least={0.1}
        most={200}
        take={(hz) => change({ hz })}
      />
      <select
        aria-label="When it is sent"
        className="h-[24px] py-0"
        value={send.when}
        onChange={(e) => change({ when: e.target.value as keyof typeof whens })}
      >
        {Object.entries(whens).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </span>
  )
}

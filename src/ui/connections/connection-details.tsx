'use client'
import { useState } from 'react'
import { boardModels } from '@/core/catalogue/boards'
import { type ConnectionSettings, connectionKind } from '@/core/connections/connections'
import type { ConnectionField } from '@/core/connections/kind'
import type { ConnectionStatus } from '@/core/live/feed'
import { changeRow, removeRow } from '@/core/rig/edit'
import { connectionsOf } from '@/core/rig/rig'
import type { ConnectionRow } from '@/core/rig/rows'
import { TruckSeat } from '../datagrams/truck-seat'
import { TextField } from '../editors/text-field'
import { DrawFound } from '../harness/draw-found'
import { edit } from '../live/edits'
import { type OwnSheetOf, useStore } from '../live/store'
import { KeysNow } from './keys-now'
import { RawView } from './raw-view'

/** Connections with more to them than a few fields have a sheet of their own. */
const ownSheets = [
  { of: 'layout', words: 'Layout', is: (s) => 'layout' in s },
  { of: 'description', words: 'What goes to it', is: (s) => 'description' in s },
  { of: 'bus', words: 'Messages', is: (s) => 'database' in s },
  {
    of: 'controller',
    words: 'What can be worked on it',
    is: (s) => s.kind === 'controller' || s.kind === 'simulated controller',
  },
] as const satisfies readonly {
  readonly of: OwnSheetOf
  readonly words: string
  readonly is: (settings: ConnectionSettings) => boolean
}[]

type Settings = Readonly<Record<string, unknown>>

/** The settings of one connection, and what goes over it. */
export const ConnectionDetails = ({
  row,
  status,
}: {
  row: ConnectionRow
  status: ConnectionStatus | undefined
}) => {
  const [raw, setRaw] = useState(false)
  const kind = connectionKind(row.settings.kind)
  const own = ownSheets.find((s) => s.is(row.settings))
  const names = new Set(connectionsOf(useStore((s) => s.rig)).map((r) => r.name))
  const rename = (name: string) =>
    edit(`Called a connection ${name.trim()}`, [changeRow('connection', row, { ...row, name: name.trim() })])
  const set = (field: ConnectionField, value: unknown) =>
    edit(`${row.name}: ${field.label.toLowerCase()} ${String(value) || 'empty'}`, [
      changeRow('connection', row, {
        ...row,
        settings: { ...row.settings, [field.key]: value } as ConnectionRow['settings'],
      }),
    ])
  return (
    <section
      aria-label={`The connection ${row.name}`}
      className="grid min-h-0 flex-1 grid-cols-[310px_minmax(0,1fr)] gap-4 border-t-2 border-line pt-2.5"
    >
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div tabIndex={0} className="min-h-0 overflow-y-auto pr-1">
        <h3 className="font-bold">{row.name}</h3>
        <p className="pb-2 text-ink2">{kind.summary}</p>
        <div className="grid grid-cols-[92px_minmax(0,1fr)] items-center gap-x-2 gap-y-1.5">
          <span className="text-ink2">Name</span>
          <TextField
            label="Name of the connection"
            value={row.name}
            width={196}
            objection={(t) =>
              t.trim() === ''
                ? 'a name is needed'
                : names.has(t.trim())
                  ? 'another connection has this name'
                  : null
            }
            take={rename}
          />
          {kind.fields.map((field) => (
            <Field key={field.key} field={field} row={row} set={(value) => set(field, value)} />
          ))}
        </div>
        <div className="flex flex-wrap gap-1.5 pt-3">
          {own && (
            <button
              type="button"
              className="btn"
              data-strong="true"
              onClick={() => useStore.setState({ connectionsAt: null, ownSheet: { of: own.of, id: row.id } })}
            >
              {own.words}
            </button>
          )}
          {!raw && (
            <button
              type="button"
              className="btn"
              data-strong={own === undefined}
              onClick={() => setRaw(true)}
            >
              Raw view
            </button>
          )}
          {status?.identity && status.state === 'up' && (
            <Undrawn identity={status.identity} model={status.who} />
          )}
          <button
            type="button"
            className="btn"
            onClick={() => {
              edit(`Removed the connection ${row.name}`, [removeRow('connection', row)])
              useStore.setState({ connectionsAt: '' })
            }}
          >
            Remove
          </button>
        </div>
        {status && status.odd.length > 0 && (
          <ul className="pt-2 text-warn">
            {status.odd.map((o) => (
              <li key={o}>{o}</li>
            ))}
          </ul>
        )}
      </div>
      {raw ? (
        <RawView row={row} status={status} close={() => setRaw(false)} />
      ) : (
        <div className="min-h-0 overflow-y-auto pt-1">
          {row.settings.kind === 'simulated truck' && <TruckSeat connection={row.id} />}
          {row.settings.kind === 'virtual keys' && <KeysNow prefix={row.settings.prefix} />}
          <p className="pt-1 text-ink2">
            Raw view shows every frame and line that goes over this connection, as bytes and in words, and
            costs nothing while it is closed.
          </p>
        </div>
      )}
    </section>
  )
}

/** A board that answers here and is drawn nowhere can be drawn at once. */
const Undrawn = ({ identity, model }: { identity: string; model: string }) => {
  const isDrawn = useStore((s) => Object.values(s.rig.board).some((b) => b.identity === identity))
  return isDrawn ? null : <DrawFound identity={identity} model={model} />
}

const Field = ({
  field,
  row,
  set,
}: {
  field: ConnectionField
  row: ConnectionRow
  set: (value: unknown) => void
}) => {
  const value = (row.settings as Settings)[field.key]
  const kind = connectionKind(row.settings.kind)
  const objection = (text: string): string | null => {
    const to = field.as === 'port number' ? Number(text) : text
    const read = kind.settings.safeParse({ ...row.settings, [field.key]: to })
    return read.success ? null : (read.error.issues[0]?.message ?? 'this will not do')
  }
  return (
    <>
      <span className="text-ink2">{field.label}</span>
      <span className="min-w-0">
        {field.as === 'choice' || field.as === 'board model' ? (
          <Choice field={field} value={value} set={set} />
        ) : (
          <TypedField field={field} value={String(value ?? '')} objection={objection} set={set} />
        )}
      </span>
    </>
  )
}

const Choice = ({
  field,
  value,
  set,
}: {
  field: ConnectionField
  value: unknown
  set: (value: unknown) => void
}) => {
  const choices = field.as === 'board model' ? boardModels.map((m) => m.name) : (field.choices ?? [])
  const is = (value ?? choices[0]) as string
  const all = choices.includes(is) ? choices : [is, ...choices]
  return (
    <select
      aria-label={field.label}
      title={field.hint}
      className="h-[24px] w-[196px] py-0"
      value={String(is)}
      onChange={(e) => set(all.find((c) => String(c) === e.target.value))}
    >
      {all.map((c) => (
        <option key={c} value={String(c)}>
          {typeof c === 'number' ? `${c.toLocaleString('en-GB')}${field.unit ? ` ${field.unit}` : ''}` : c}
        </option>
      ))}
    </select>
  )
}

/** What is typed is taken when it will do; else it stays with the reason below it. */
const TypedField = ({
  field,
  value,
  objection,
  set,
}: {
  field: ConnectionField
  value: string
  objection: (text: string) => string | null
  set: (value: unknown) => void
}) => {
  const [text, setText] = useState(value)
  const [seen, setSeen] = useState(value)
  const ports = useStore((s) => s.status?.found) ?? []
  if (seen !== value) {
    setSeen(value)
    setText(value)
  }
  const problem = text === value ? null : objection(text)
  const settle = () => {
    if (problem === null && text !== value) set(field.as === 'port number' ? Number(text) : text.trim())
  }
  const listId = `ports-for-${field.key}`
  return (
    <>
      <input
        className="mono w-[196px] text-[12px]"
        aria-label={field.label}
        aria-invalid={problem !== null}
        spellCheck={false}
        list={field.as === 'serial port' ? listId : undefined}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={settle}
        onKeyDown={(e) => {
          if (e.key === 'Enter') settle()
          if (e.key !== 'Escape' || text === value) return
          // What was typed goes, not the sheet that it was typed in.
          e.stopPropagation()
          e.preventDefault()
          setText(value)
        }}
      />
      {field.as === 'serial port' && (
        <datalist id={listId}>
          {ports.map((p) => (
            <option key={p.path} value={p.path} />
          ))}
        </datalist>
      )}
      {problem === null ? (
        <span className="block text-[11px] leading-[14px] text-ink2">{field.hint}</span>
      ) : (
        <span role="alert" className="block text-[11px] leading-[14px] text-warn">
          {problem}
        </span>
      )}
    </>
  )
}

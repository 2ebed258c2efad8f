'use client'
import { changeField, fieldNames } from '@/core/datagrams/change-layout'
import { type FieldTypeName, fieldTypeNames, fieldTypes } from '@/core/datagrams/field-type'
import { bytesOfOne, type DatagramField, type DatagramPacket, MOST_BYTES } from '@/core/datagrams/layout'
import type { LayoutFinding } from '@/core/datagrams/layout-findings'
import { ExpressionField } from '../editors/expression-field'
import { freeBinding } from '../editors/free-binding'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { UnitList } from '../editors/unit-list'
import { editLayout, type WithLayout } from './layout-edit'
import { typeNames } from './type-words'

const NAME = /^[\p{L}_][\p{L}\p{N}_.]*$/u
const UNITS = 'units-of-fields'

/** Everything that is said of one field. */
export const FieldForm = ({
  row,
  at,
  packet,
  field,
  findings,
  renamed,
  remove,
}: {
  row: WithLayout
  at: number
  packet: DatagramPacket
  field: DatagramField
  findings: readonly LayoutFinding[]
  renamed: (name: string) => void
  remove: () => void
}) => {
  const { layout } = row.settings
  const put = (sentence: string, changed: Partial<DatagramField>) =>
    editLayout(row.id, `${field.name}: ${sentence}`, (l) => {
      const was = l.packets[at]?.fields.find((f) => f.name === field.name)
      return was ? changeField(l, at, was, tidy({ ...was, ...changed })) : l
    })
  const isText = field.as === 'text'
  const isWhole = field.as !== 'text' && fieldTypes[field.as].isWhole
  return (
    <section aria-label={`The field ${field.name}`} className="shrink-0 border border-line p-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <TextField
          label="Name of the field"
          width={170}
          value={field.name}
          objection={(t) =>
            !NAME.test(t.trim())
              ? 'a name begins with a letter and has letters, digits, _ and . only'
              : fieldNames(layout, field).has(t.trim())
                ? 'another field has this name'
                : null
          }
          take={(name) => {
            put(`called ${name.trim()}`, { name: name.trim() })
            renamed(name.trim())
          }}
        />
        <NumberField
          label="at byte"
          name="Byte at which it begins"
          unit=""
          narrow
          value={field.at}
          least={0}
          most={MOST_BYTES - 1}
          take={(n) => put(`at byte ${n}`, { at: Math.round(n) })}
        />
        <select
          aria-label="How it is kept"
          className="h-[24px] py-0"
          value={field.as}
          onChange={(e) =>
            put(typeNames[e.target.value as FieldTypeName], { as: e.target.value as DatagramField['as'] })
          }
        >
          {[...fieldTypeNames, 'text' as const].map((t) => (
            <option key={t} value={t}>
              {typeNames[t]}
            </option>
          ))}
        </select>
        {!isText && bytesOfOne(field) > 1 && (
          <select
            aria-label="Order of its bytes"
            className="h-[24px] py-0"
            value={field.order ?? ''}
            onChange={(e) =>
              put('order of bytes', { order: (e.target.value || undefined) as DatagramField['order'] })
            }
          >
            <option value="">order as the layout</option>
            <option value="little">low byte first</option>
            <option value="big">high byte first</option>
          </select>
        )}
        <NumberField
          label={isText ? 'room' : 'in a row'}
          name={isText ? 'Bytes of the text' : 'Values in a row'}
          unit={isText ? 'bytes' : ''}
          narrow
          value={field.count ?? (isText ? 1 : undefined)}
          least={1}
          most={512}
          none={{ shown: '1', clear: () => put('one value', { count: undefined }) }}
          take={(n) => put(isText ? `${n} bytes` : `${n} in a row`, { count: Math.round(n) })}
        />
        <button type="button" className="btn ml-auto" onClick={remove}>
          Remove
        </button>
      </div>
      {!isText && (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 pt-1.5">
          {isWhole && <Bits field={field} put={put} />}
          <NumberField
            label="times"
            name="Scale"
            unit=""
            value={field.scale}
            least={-1e12}
            most={1e12}
            none={{ shown: '1', clear: () => put('no scale', { scale: undefined }) }}
            take={(scale) => put(`times ${scale}`, { scale: scale === 0 ? undefined : scale })}
          />
          <NumberField
            label="plus"
            name="Added"
            unit=""
            value={field.add}
            least={-1e12}
            most={1e12}
            none={{ shown: '0', clear: () => put('nothing added', { add: undefined }) }}
            take={(add) => put(`plus ${add}`, { add })}
          />
          <span className="flex items-center gap-1.5">
            <span className="text-ink2">unit</span>
            <TextField
              label="Unit"
              width={64}
              list={UNITS}
              value={field.unit ?? ''}
              take={(t) => put(`in ${t.trim() || 'no unit'}`, { unit: t.trim().slice(0, 24) || undefined })}
            />
          </span>
          <UnitList id={UNITS} />
          {!packet.send && <Range field={field} put={put} />}
        </div>
      )}
      <div className="flex items-center gap-x-3 gap-y-1.5 pt-1.5">
        {packet.send ? (
          <div className="min-w-0 flex-1">
            <span className="text-ink2">what goes there</span>
            <ExpressionField
              key={field.name}
              binding={freeBinding(`${row.id} ${field.name}`)}
              use="choice"
              label={`Value of ${field.name}`}
              value={field.value ?? ''}
              emptyMeans={null}
              focus={false}
              take={(value) => put('another value', { value: value ?? undefined })}
            />
          </div>
        ) : (
          <>
            <TextField
              label="What it is"
              placeholder="what it is, in words"
              width={260}
              value={field.description ?? ''}
              take={(t) => put('in words', { description: t.trim().slice(0, 300) || undefined })}
            />
            {isWhole && (
              <TextField
                label="Words for 0, 1, 2 …"
                placeholder="words for 0, 1, 2: off, on"
                width={220}
                value={field.choices?.join(', ') ?? ''}
                take={(t) =>
                  put('words for its values', {
                    choices: t.trim() === '' ? undefined : t.split(',').map((w) => w.trim().slice(0, 80)),
                  })
                }
              />
            )}
          </>
        )}
      </div>
      {findings.map((f) => (
        <p key={f.message} className="pt-1 text-warn">
          {f.message}
        </p>
      ))}
    </section>
  )
}

/** Without what makes no sense for how it is kept now. */
const tidy = (f: DatagramField): DatagramField => {
  const { scale, add, bits, order, ...rest } = f
  if (f.as === 'text') return rest
  return { ...f, bits: fieldTypes[f.as].isWhole ? bits : undefined }
}

type Put = (sentence: string, changed: Partial<DatagramField>) => void

const Bits = ({ field, put }: { field: DatagramField; put: Put }) => {
  const { bits } = field
  const room = bytesOfOne(field) * 8
  if (!bits)
    return (
      <button type="button" className="btn" onClick={() => put('bit 0', { bits: { from: 0, width: 1 } })}>
        Only some bits …
      </button>
    )
  return (
    <span className="flex items-center gap-1.5">
      <NumberField
        label="bit"
        name="First bit"
        unit=""
        narrow
        value={bits.from}
        least={0}
        most={room - 1}
        take={(from) => put(`from bit ${from}`, { bits: { ...bits, from: Math.round(from) } })}
      />
      <NumberField
        label="width"
        name="Bits"
        unit=""
        narrow
        value={bits.width}
        least={1}
        most={room - bits.from}
        take={(width) => put(`${width} bits`, { bits: { ...bits, width: Math.round(width) } })}
      />
      <button
        type="button"
        className="btn"
        aria-label="All bits"
        onClick={() => put('all bits', { bits: undefined })}
      >
        ×
      </button>
    </span>
  )
}

const Range = ({ field, put }: { field: DatagramField; put: Put }) => {
  const { range } = field
  const set = (least: number, most: number) =>
    least < most && put(`${least} to ${most}`, { range: [least, most] })
  const clear = () => put('no range', { range: undefined })
  return (
    <span className="flex items-center gap-1.5">
      <NumberField
        label="from"
        name="Least"
        unit=""
        narrow
        value={range?.[0]}
        least={-1e12}
        most={range?.[1] ?? 1e12}
        none={{ shown: '…', clear }}
        take={(least) => set(least, range?.[1] ?? least + 1)}
      />
      <NumberField
        label="to"
        name="Most"
        unit=""
        narrow
        value={range?.[1]}
        least={range?.[0] ?? -1e12}
        most={1e12}
        none={{ shown: '…', clear }}
        take={(most) => set(range?.[0] ?? Math.min(0, most - 1), most)}
      />
    </span>
  )
}

'use client'
import { elementKind } from '@/core/elements/elements'
import { changeRow, sameValue } from '@/core/rig/edit'
import { pagesOf, type Rig } from '@/core/rig/rig'
import type { ElementRow } from '@/core/rig/rows'
import { unitNamed } from '@/core/signal/unit'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { UnitList } from '../editors/unit-list'
import { edit } from '../live/edits'
import { withSettings } from './change'
import { ColourField } from './colour-field'
import { type ElementField, fieldsOf } from './element-fields'
import { Follows } from './follow-editor'
import { BandsForm, ChoicesForm, PointsForm, RangesForm, StopsForm } from './list-forms'
import { NeedleFaceField } from './needle-face-field'
import { PictureField } from './picture-field'
import { TouchForm } from './touch-form'

const FAR = 1e9

/** One element: what it is called, where it lies, what it follows, how it looks. */
export const ElementForm = ({ rig, row }: { rig: Rig; row: ElementRow }) => {
  const { settings } = row
  const put = (words: string, to: Partial<ElementRow>) =>
    edit(`Changed ${words} of “${row.name}”`, [changeRow('element', row, { ...row, ...to })])
  const place = (key: 'x' | 'y' | 'width' | 'height' | 'angle', label: string, unit = 'px') => (
    <NumberField
      label={label}
      name={`${key} of it`}
      unit={unit}
      narrow
      value={row[key]}
      least={key === 'width' || key === 'height' ? 0 : key === 'angle' ? -360 : -5000}
      most={key === 'angle' ? 360 : 9000}
      take={(n) => put(key, { [key]: n })}
    />
  )
  return (
    <section aria-label="Element" className="flex flex-col gap-1.5">
      <div className="flex items-center gap-2">
        <TextField
          label="Name of the element"
          width={168}
          value={row.name}
          objection={(t) => (t.trim() === '' ? 'An element needs a name.' : null)}
          take={(t) => put('the name', { name: t.trim() })}
        />
        <span className="cap truncate">{elementKind(settings).word}</span>
      </div>
      <div className="flex flex-wrap gap-x-3 gap-y-1">
        {place('x', 'x')}
        {place('y', 'y')}
        {place('width', 'w')}
        {place('height', 'h')}
        {place('angle', 'turned', '°')}
      </div>
      <label className="flex items-center gap-1.5 text-[12px]">
        <span className="text-ink2">on</span>
        <select
          aria-label="Page of it"
          className="flex-1"
          value={row.pageId ?? ''}
          onChange={(e) => put('the page', { pageId: e.target.value || null })}
        >
          <option value="">every page</option>
          {pagesOf(rig, row.screenId).map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      </label>
      {settings.kind === 'touch' && <TouchForm rig={rig} row={row} settings={settings} />}
      <Follows key={row.id} row={row} />
      <div className="form-lines flex flex-col gap-1.5 border-t border-line pt-1.5 text-[12px]">
        <b>Looks</b>
        {fieldsOf(settings).map((f) => (
          <Field key={`${f.as} ${f.key}`} rows={[row]} field={f} />
        ))}
      </div>
    </section>
  )
}

/** What all of several elements have, to be changed at once. */
export const ManyElements = ({ rows }: { rows: readonly ElementRow[] }) => {
  const [first, ...others] = rows
  if (!first) return null
  const isSimple = (f: ElementField) => simple.has(f.as)
  const shared = fieldsOf(first.settings).filter(
    (f) =>
      isSimple(f) && others.every((o) => fieldsOf(o.settings).some((g) => g.as === f.as && g.key === f.key)),
  )
  if (shared.length === 0) return null
  return (
    <section
      aria-label="All of them"
      className="form-lines flex flex-col gap-1.5 border-t border-line pt-1.5 text-[12px]"
    >
      <b>All of them</b>
      {shared.map((f) => (
        <Field key={`${f.as} ${f.key}`} rows={rows} field={f} />
      ))}
    </section>
  )
}

const simple: ReadonlySet<ElementField['as']> = new Set([
  'number',
  'words',
  'yes',
  'choice',
  'colour',
  'unit',
])

/** One setting of one element, or of several at once; where they differ, nothing stands there until something is typed. */
const Field = ({ rows, field }: { rows: readonly ElementRow[]; field: ElementField }) => {
  const { key, label } = field
  const of = (row: ElementRow) => (row.settings as unknown as Readonly<Record<string, unknown>>)[key]
  const [row] = rows
  if (!row) return null
  const value = of(row)
  const differs = rows.some((r) => !sameValue(of(r), value))
  const take = (to: unknown) =>
    edit(
      `Changed “${label}” of ${rows.length === 1 ? `“${row.name}”` : `${rows.length} elements`}`,
      rows.map((r) => withSettings(r, { [key]: to })),
    )
  const several = differs ? 'differs' : undefined
  switch (field.as) {
    case 'number': {
      const { unit = '', least = -FAR, most = FAR, none } = field
      return (
        <NumberField
          {...{ label, unit, least, most, take }}
          value={value === null || differs ? undefined : (value as number)}
          {...(none === undefined && !differs
            ? {}
            : { none: { shown: several ?? none ?? '', clear: () => none !== undefined && take(null) } })}
        />
      )
    }
    case 'words':
      return (
        // biome-ignore lint/a11y/noLabelWithoutControl: the field within names itself
        <label className="flex items-center gap-1.5">
          <span className="text-ink2">{label}</span>
          <TextField
            label={label}
            width={150}
            value={differs ? '' : (value as string)}
            placeholder={several ?? ''}
            take={take}
          />
        </label>
      )
    case 'yes':
      return (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={value === true && !differs}
            onChange={(e) => take(e.target.checked)}
          />
          {label}
        </label>
      )
    case 'choice':
      return (
        <label className="flex items-center gap-1.5">
          <span className="text-ink2">{label}</span>
          <select value={differs ? '' : (value as string)} onChange={(e) => take(e.target.value)}>
            {differs && <option value="">differs</option>}
            {field.choices.map(([id, word]) => (
              <option key={id} value={id}>
                {word}
              </option>
            ))}
          </select>
        </label>
      )
    case 'colour':
      return (
        <div className="flex items-center justify-between gap-1.5">
          <span className="text-ink2">{label}</span>
          <ColourField
            label={label}
            value={value as string | null}
            {...(field.none === undefined ? {} : { none: field.none })}
            take={take}
          />
        </div>
      )
    case 'unit':
      return (
        // biome-ignore lint/a11y/noLabelWithoutControl: the field within names itself
        <label className="flex items-center gap-1.5">
          <span className="text-ink2">{label}</span>
          <TextField
            label="Unit it is shown in"
            width={84}
            placeholder={several ?? 'as it comes'}
            list="element-units"
            value={differs ? '' : ((value as string | null) ?? '')}
            objection={(t) => (t === '' || unitNamed(t) ? null : `No unit is called “${t}”.`)}
            take={(t) => take(unitNamed(t)?.symbol ?? null)}
          />
          <UnitList id="element-units" />
        </label>
      )
    case 'picture':
      return <PictureField row={row} />
    case 'face':
      return <NeedleFaceField row={row} />
    default:
      return (
        <fieldset className="flex flex-col gap-1 border-t border-hair pt-1.5" aria-label={label}>
          {field.as !== 'ranges' && <span className="text-ink2">{label}</span>}
          <List field={field} value={value} take={take} />
        </fieldset>
      )
  }
}

const List = ({
  field,
  value,
  take,
}: {
  field: ElementField
  value: unknown
  take: (to: unknown) => void
}) => {
  switch (field.as) {
    case 'stops':
      return <StopsForm value={value as never} take={take} />
    case 'ranges':
      return <RangesForm value={value as never} take={take} />
    case 'bands':
      return <BandsForm value={value as never} take={take} />
    case 'choices':
      return <ChoicesForm value={value as never} take={take} />
    case 'points':
      return <PointsForm value={value as never} take={take} />
    default:
      return null
  }
}

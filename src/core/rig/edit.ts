import { copyOfTable, type Rig, rowsOf } from './rig'
import { type RowOf, type TableName, tableNames, tables, tableWords } from './rows'

type Fields = Readonly<Record<string, unknown>>

/** One row added, removed or changed. A change holds only the fields that differ, before and after. */
export type Change =
  | { readonly op: 'add'; readonly table: TableName; readonly id: string; readonly row: Fields }
  | { readonly op: 'remove'; readonly table: TableName; readonly id: string; readonly row: Fields }
  | {
      readonly op: 'change'
      readonly table: TableName
      readonly id: string
      readonly before: Fields
      readonly after: Fields
    }

/** An edit as plain data. History, undo, live tabs and conflict notices all rest on this one type. */
export type Diff = readonly Change[]

/** Why an edit cannot be applied: the row it speaks of is not as the edit believes. */
export interface Conflict {
  readonly table: TableName
  readonly id: string
  readonly message: string
}

export const sameValue = (a: unknown, b: unknown): boolean => {
  if (Object.is(a, b)) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) !== Array.isArray(b)) return false
  const left = a as Fields
  const right = b as Fields
  const keys = new Set([...Object.keys(left), ...Object.keys(right)])
  for (const key of keys) if (!sameValue(left[key], right[key])) return false
  return true
}

/** The change that turns one row into another, or null where they are the same. */
export const changeRow = <T extends TableName>(table: T, before: RowOf<T>, after: RowOf<T>): Change | null =>
  differing(table, before.id, before as Fields, after as Fields)

export const addRow = <T extends TableName>(table: T, row: RowOf<T>): Change => ({
  op: 'add',
  table,
  id: row.id,
  row: row as Fields,
})

export const removeRow = <T extends TableName>(table: T, row: RowOf<T>): Change => ({
  op: 'remove',
  table,
  id: row.id,
  row: row as Fields,
})

/** The diff that makes a whole rig out of nothing. */
export const rigAsDiff = (rig: Rig): Diff =>
  tableNames.flatMap((t) => rowsOf(rig, t).map((row) => addRow(t, row)))

const invertChange = (c: Change): Change => {
  switch (c.op) {
    case 'add':
      return { ...c, op: 'remove' }
    case 'remove':
      return { ...c, op: 'add' }
    case 'change':
      return { ...c, before: c.after, after: c.before }
  }
}

/** The diff that takes back exactly what this one did. */
export const invert = (diff: Diff): Diff => diff.map(invertChange).reverse()

/** One diff with the effect of all of them in turn; changes that cancel out vanish. */
export const squash = (diffs: readonly Diff[]): Diff => {
  const merged = new Map<string, Change>()
  for (const c of diffs.flat()) {
    const key = `${c.table}/${c.id}`
    const earlier = merged.get(key)
    const joined = earlier ? join(earlier, c) : c
    if (joined) merged.set(key, joined)
    else merged.delete(key)
  }
  return inOrder([...merged.values()])
}

const join = (a: Change, b: Change): Change | null => {
  if (a.op === 'add' && b.op === 'remove') return null
  if (a.op === 'add' && b.op === 'change') return { ...a, row: { ...a.row, ...b.after } }
  if (a.op === 'change' && b.op === 'remove') return { ...b, row: { ...b.row, ...a.before } }
  if (a.op === 'remove' && b.op === 'add') return differing(a.table, a.id, a.row, b.row)
  if (a.op === 'change' && b.op === 'change')
    return differing(a.table, a.id, { ...b.before, ...a.before }, { ...a.after, ...b.after })
  throw new Error(`${a.op} then ${b.op} of one row cannot be`)
}

const differing = (table: TableName, id: string, before: Fields, after: Fields): Change | null => {
  const from: Record<string, unknown> = {}
  const to: Record<string, unknown> = {}
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    if (sameValue(before[key], after[key])) continue
    from[key] = before[key]
    to[key] = after[key]
  }
  return Object.keys(to).length === 0 ? null : { op: 'change', table, id, before: from, after: to }
}

/** Changes in an order that never breaks a reference: removals from the leaves, then additions from the root. */
export const inOrder = (diff: Diff): Diff => {
  const rank = (c: Change) => {
    const depth = tableNames.indexOf(c.table)
    return c.op === 'remove' ? -1000 - depth : c.op === 'add' ? depth : 1000 + depth
  }
  return [...diff].sort((a, b) => rank(a) - rank(b))
}

const isFields = (x: unknown): x is Fields => typeof x === 'object' && x !== null && !Array.isArray(x)

/** What stands in the way of a change that was made against values which have changed since. */
const CLASH = Symbol('clash')

/**
 * A value that was changed from `before` to `after` by one and stands at `now` through another: what only one of them
 * has changed is taken from that one, field by field also within settings. Where both changed the same, it is a clash.
 */
const merged = (before: unknown, after: unknown, now: unknown): unknown => {
  if (sameValue(now, before)) return after
  if (sameValue(after, before) || sameValue(now, after)) return now
  if (!isFields(before) || !isFields(after) || !isFields(now)) return CLASH
  const result: Record<string, unknown> = {}
  for (const key of new Set([...Object.keys(now), ...Object.keys(after), ...Object.keys(before)])) {
    const value = merged(before[key], after[key], now[key])
    if (value === CLASH) return CLASH
    if (value !== undefined) result[key] = value
  }
  return result
}

/**
 * The same edit against the rig as it is now: what others have changed meanwhile in other fields stays. The caller has
 * asked `conflicts` first.
 */
export const rebased = (rig: Rig, diff: Diff): Diff =>
  diff.map((c) => {
    const row = rig[c.table][c.id] as Fields | undefined
    if (c.op !== 'change' || !row) return c
    const before: Record<string, unknown> = {}
    const after: Record<string, unknown> = {}
    for (const key of Object.keys(c.after)) {
      const value = merged(c.before[key], c.after[key], row[key])
      before[key] = row[key]
      after[key] = value === CLASH ? c.after[key] : value
    }
    return { ...c, before, after }
  })

const rowName = (row: Fields | undefined): string => {
  const label = row?.name ?? row?.id
  return typeof label === 'string' ? `“${label}”` : 'it'
}

/** Whether a field can be changed as the edit wants, whatever others have done to the row. */
const fits = (c: Extract<Change, { op: 'change' }>, key: string, row: Fields): boolean =>
  merged(c.before[key], c.after[key], row[key]) !== CLASH

/** What stands against applying the diff to this rig, in sentences; empty when nothing does. */
export const conflicts = (rig: Rig, diff: Diff): Conflict[] => {
  const found: Conflict[] = []
  for (const c of diff) {
    const row = rig[c.table][c.id] as Fields | undefined
    const say = (message: string) => found.push({ table: c.table, id: c.id, message })
    const word = tableWords[c.table]
    if (c.op === 'add') {
      if (row) say(`The ${word} ${rowName(row)} is already there.`)
    } else if (!row) {
      say(`The ${word} ${rowName(c.op === 'remove' ? c.row : { id: c.id })} was removed meanwhile.`)
    } else {
      const expected = c.op === 'remove' ? c.row : c.before
      for (const key of Object.keys(expected)) {
        if (c.op === 'remove' ? sameValue(row[key], expected[key]) : fits(c, key, row)) continue
        say(`The ${word} ${rowName(row)} was changed meanwhile (${key}).`)
        break
      }
    }
  }
  return found
}

/** Applies a diff without looking back: the caller has asked `conflicts` first. Untouched rows are shared. */
export const apply = (rig: Rig, diff: Diff): Rig => {
  const next: Record<TableName, Record<string, unknown>> = { ...rig } as never
  const copied = new Set<TableName>()
  for (const c of diff) {
    if (!copied.has(c.table)) {
      next[c.table] = copyOfTable(next[c.table])
      copied.add(c.table)
    }
    const rows = next[c.table]
    if (c.op === 'add') rows[c.id] = c.row
    else if (c.op === 'remove') delete rows[c.id]
    else rows[c.id] = { ...(rows[c.id] as Fields), ...c.after }
  }
  return next as unknown as Rig
}

/** Rows after the diff that their schema refuses, each with a sentence naming row and field. */
export const invalidRows = (after: Rig, diff: Diff): Conflict[] => {
  const found: Conflict[] = []
  for (const c of diff) {
    if (c.op === 'remove') continue
    const row = after[c.table][c.id]
    const checked = tables[c.table].safeParse(row)
    if (checked.success) continue
    const first = checked.error.issues[0]
    found.push({
      table: c.table,
      id: c.id,
      message: `The ${tableWords[c.table]} ${rowName(row as Fields)} is not valid: ${first?.path.join('.') || 'row'}: ${first?.message ?? 'unknown'}.`,
    })
  }
  return found
}

import { addRow, type Change, changeRow, removeRow } from '../../rig/edit'
import { type Rig, rowsOf } from '../../rig/rig'
import { type PurchaseRow, tables } from '../../rig/rows'
import { purchaseKey } from './parts-list'
import { type ListKind, type ListRead, readList, shortened } from './read-list'

const partsList: ListKind = {
  name: 'parts list',
  isOne: (has) => has('what') && has('value') && ['note', 'link', 'price'].some(has),
  must: '“what”, “value”, and “note”, “link” or “price”',
}

/** A price as people write it: a comma or a point before the cents, money before or behind it. Null for none. */
const priceOf = (cell: string): number | null | undefined => {
  const text = cell.replace(/[^\d.,-]/g, '')
  if (text === '') return cell === '' ? null : undefined
  const cents = /[.,](\d{1,2})$/.exec(text)?.[0] ?? ''
  const whole = text.slice(0, text.length - cents.length).replace(/[.,]/g, '')
  const price = Number(`${whole}${cents.replace(',', '.')}`)
  return Number.isFinite(price) && price >= 0 ? price : undefined
}

/**
 * Reads a parts list back: notes, links and prices, by what a thing is and its value. Counts are the rig's own. Lines of
 * things that are no longer in the rig are kept, since they may come back. A file that is not such a list is refused
 * whole, with a sentence why.
 */
export const readPartsList = (
  rig: Rig,
  text: string,
  newId: () => string,
): ListRead | { readonly problem: string } => {
  const read = readList(text, partsList)
  if ('problem' in read) return read
  const known = new Map(rowsOf(rig, 'purchase').map((p) => [purchaseKey(p.what, p.value), p]))
  const changes: Change[] = []
  const left: string[] = []
  const seen = new Set<string>()
  for (const [line, cell] of read.lines) {
    const [what, value] = [cell('what') ?? '', cell('value') ?? '']
    const say = (why: string) => left.push(`line ${line}: ${why}`)
    if (what === '') continue
    const key = purchaseKey(what, value)
    if (seen.has(key)) {
      say(`${what} comes twice`)
      continue
    }
    seen.add(key)
    const before = known.get(key)
    const price = priceOf(cell('price') ?? `${before?.price ?? ''}`)
    if (price === undefined) {
      say(`“${cell('price')}” is no price`)
      continue
    }
    const after: PurchaseRow = {
      ...{ id: before?.id ?? newId(), what, value, price },
      note: cell('note') ?? before?.note ?? '',
      link: cell('link') ?? before?.link ?? '',
    }
    const checked = tables.purchase.safeParse(after)
    if (!checked.success) {
      const issue = checked.error.issues[0]
      say(`${issue?.path.join('.') ?? 'it'}: ${issue?.message ?? 'cannot be taken'}`)
      continue
    }
    const change = changeFor(before, checked.data)
    if (change) changes.push(change)
  }
  return { changes, left: shortened(left) }
}

/** A line of which nothing is noted any more is not kept. */
const changeFor = (before: PurchaseRow | undefined, after: PurchaseRow): Change | null => {
  const isEmpty = after.note === '' && after.link === '' && after.price === null
  if (before) return isEmpty ? removeRow('purchase', before) : changeRow('purchase', before, after)
  return isEmpty ? null : addRow('purchase', after)
}

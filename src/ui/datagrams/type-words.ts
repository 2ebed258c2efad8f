import type { FieldTypeName } from '@/core/datagrams/field-type'
import type { DatagramField } from '@/core/datagrams/layout'

/** How numbers are kept, short enough for a row. */
export const typeNames: Readonly<Record<FieldTypeName | 'text', string>> = {
  ...{ u8: 'whole 8', i8: 'whole ±8', u16: 'whole 16', i16: 'whole ±16', u32: 'whole 32', i32: 'whole ±32' },
  ...{ u64: 'whole 64', i64: 'whole ±64', f32: 'float 32', f64: 'float 64', text: 'text' },
}

/** How a field is kept, in a few words. */
export const typeWords = ({ as, bits, count }: Pick<DatagramField, 'as' | 'bits' | 'count'>): string => {
  if (as === 'text') return `text of ${count ?? 1}`
  if (bits)
    return bits.width === 1 ? `bit ${bits.from}` : `bits ${bits.from} to ${bits.from + bits.width - 1}`
  return count === undefined ? typeNames[as] : `${count} × ${typeNames[as]}`
}

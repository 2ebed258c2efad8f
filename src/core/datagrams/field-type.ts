/** One way to keep a number in bytes: how many, how it is read and written, and what it can hold. */
export interface FieldType {
  readonly bytes: number
  /** As builders say it. */
  readonly words: string
  /** Whole numbers can be taken apart into bits; floats cannot. */
  readonly isWhole: boolean
  readonly least: number
  readonly most: number
  readonly read: (view: DataView, at: number, little: boolean) => number
  /** Writes a number that it can hold. */
  readonly write: (view: DataView, at: number, value: number, little: boolean) => void
}

const whole = (
  bits: number,
  signed: boolean,
  read: FieldType['read'],
  write: FieldType['write'],
): FieldType => ({
  bytes: bits / 8,
  words: `whole, ${bits} bits${signed ? ', with sign' : ''}`,
  isWhole: true,
  least: signed ? -(2 ** (bits - 1)) : 0,
  most: 2 ** (signed ? bits - 1 : bits) - 1,
  read,
  write,
})

const LARGEST_32 = 3.4028234663852886e38

/**
 * Every number type of a datagram. The floats are those of IEEE 754. Of whole numbers of 64 bits those beyond 2^53 lose their
 * last digits, as all numbers here do.
 */
export const fieldTypes = {
  u8: whole(
    8,
    false,
    (v, at) => v.getUint8(at),
    (v, at, x) => v.setUint8(at, x),
  ),
  i8: whole(
    8,
    true,
    (v, at) => v.getInt8(at),
    (v, at, x) => v.setInt8(at, x),
  ),
  u16: whole(
    16,
    false,
    (v, at, l) => v.getUint16(at, l),
    (v, at, x, l) => v.setUint16(at, x, l),
  ),
  i16: whole(
    16,
    true,
    (v, at, l) => v.getInt16(at, l),
    (v, at, x, l) => v.setInt16(at, x, l),
  ),
  u32: whole(
    32,
    false,
    (v, at, l) => v.getUint32(at, l),
    (v, at, x, l) => v.setUint32(at, x, l),
  ),
  i32: whole(
    32,
    true,
    (v, at, l) => v.getInt32(at, l),
    (v, at, x, l) => v.setInt32(at, x, l),
  ),
  u64: whole(
    64,
    false,
    (v, at, l) => Number(v.getBigUint64(at, l)),
    (v, at, x, l) => v.setBigUint64(at, BigInt(x), l),
  ),
  i64: whole(
    64,
    true,
    (v, at, l) => Number(v.getBigInt64(at, l)),
    (v, at, x, l) => v.setBigInt64(at, BigInt(x), l),
  ),
  f32: {
    ...{ bytes: 4, words: 'float, 32 bits', isWhole: false, least: -LARGEST_32, most: LARGEST_32 },
    read: (v, at, l) => v.getFloat32(at, l),
    write: (v, at, x, l) => v.setFloat32(at, x, l),
  },
  f64: {
    ...{
      bytes: 8,
      words: 'float, 64 bits',
      isWhole: false,
      least: -Number.MAX_VALUE,
      most: Number.MAX_VALUE,
    },
    read: (v, at, l) => v.getFloat64(at, l),
    write: (v, at, x, l) => v.setFloat64(at, x, l),
  },
} as const satisfies Record<string, FieldType>

export type FieldTypeName = keyof typeof fieldTypes
export const fieldTypeNames = Object.keys(fieldTypes) as FieldTypeName[]

/** The number of a type that is nearest to this one: whole where the type is, and within what it holds. */
export const nearest = (type: FieldType, value: number): number => {
  const within = Math.min(type.most, Math.max(type.least, type.isWhole ? Math.round(value) : value))
  // 2^64 - 1 is no number here; the next below that is.
  return type.bytes === 8 && type.isWhole && within >= type.most ? type.most - 2 ** 11 : within
}

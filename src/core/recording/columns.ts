import { ByteReader, ByteWriter } from './bytes'

/*
 * What one value was, again and again, in as few bytes as compression can make of them. Simulators tell decimals, or 32-bit
 * floats; both are kept exactly as what they are: decimals as steps between whole numbers, floats as bits that differ from
 * those before. Bytes of one rank lie side by side, for those are alike.
 */

/** Kinds 0 to 9 are decimals with so many places; then 32-bit floats and whole ones. */
const MOST_PLACES = 9
const FLOAT = 10
const DOUBLE = 11
const MOST_WHOLE = 2 ** 50
const POWERS = Array.from({ length: MOST_PLACES + 1 }, (_, i) => 10 ** i)

/** How many streams a set of columns is written to: kinds, and bytes by their rank. */
const RANKS = 8

const isScaled = (value: number, power: number): boolean => {
  const whole = Math.round(value * power)
  return Math.abs(whole) < MOST_WHOLE && whole / power === value && !Object.is(value, -0)
}

const every = (values: ArrayLike<number>, holds: (value: number) => boolean): boolean => {
  for (let i = 0; i < values.length; i++) if (!holds(values[i] as number)) return false
  return true
}

const kindOf = (values: ArrayLike<number>): number => {
  let places = 0
  let floats = true
  for (let i = 0; i < values.length; i++) {
    const value = values[i] as number
    while (places <= MOST_PLACES && !isScaled(value, POWERS[places] as number)) places++
    floats &&= Object.is(Math.fround(value), value)
    if (places > MOST_PLACES && !floats) return DOUBLE
  }
  // What had fewer places, and is large, may not have that many.
  const power = POWERS[places]
  if (power !== undefined && every(values, (value) => isScaled(value, power))) return places
  return floats ? FLOAT : DOUBLE
}

const scratch = new DataView(new ArrayBuffer(8))

/** Writes columns of numbers, NaN among them, each after the other. */
export class ColumnWriter {
  private readonly kinds = new ByteWriter()
  private readonly ranks = Array.from({ length: RANKS }, () => new ByteWriter())

  write(values: ArrayLike<number>): void {
    const kind = kindOf(values)
    this.kinds.byte(kind)
    if (kind === FLOAT) this.bits(values, 4)
    else if (kind === DOUBLE) this.bits(values, 8)
    else this.steps(values, POWERS[kind] as number)
  }

  private steps(values: ArrayLike<number>, power: number): void {
    const [low, high] = this.ranks as [ByteWriter, ByteWriter]
    let before = 0
    for (let i = 0; i < values.length; i++) {
      const whole = Math.round((values[i] as number) * power)
      const step = whole - before
      before = whole
      // Small steps either way are small numbers.
      const folded = step < 0 ? -2 * step - 1 : 2 * step
      low.byte(folded % 0x100)
      high.whole(Math.floor(folded / 0x100))
    }
  }

  private bits(values: ArrayLike<number>, bytes: 4 | 8): void {
    const before = new Uint8Array(bytes)
    for (let i = 0; i < values.length; i++) {
      if (bytes === 4) scratch.setFloat32(0, values[i] as number)
      else scratch.setFloat64(0, values[i] as number)
      for (let k = 0; k < bytes; k++) {
        const byte = scratch.getUint8(k)
        this.ranks[k]?.byte(byte ^ (before[k] as number))
        before[k] = byte
      }
    }
  }

  /** All streams, each with its length in front. */
  done(to: ByteWriter): void {
    for (const stream of [this.kinds, ...this.ranks]) {
      to.whole(stream.length)
      to.raw(stream.done())
    }
  }
}

/** Reads what a `ColumnWriter` wrote, column by column; each has to be asked for as long as it was. */
export class ColumnReader {
  private readonly kinds: ByteReader
  private readonly ranks: readonly ByteReader[]

  constructor(from: ByteReader) {
    const stream = () => new ByteReader(from.raw(from.whole()))
    this.kinds = stream()
    this.ranks = Array.from({ length: RANKS }, stream)
  }

  read(length: number): Float64Array {
    const values = new Float64Array(length)
    const kind = this.kinds.byte()
    if (kind === FLOAT) this.bits(values, 4)
    else if (kind === DOUBLE) this.bits(values, 8)
    else this.steps(values, kind)
    return values
  }

  private steps(values: Float64Array, kind: number): void {
    const power = POWERS[kind]
    if (power === undefined) throw new Error(`it has numbers of kind ${kind}, which nobody knows`)
    const [low, high] = this.ranks as [ByteReader, ByteReader]
    let before = 0
    for (let i = 0; i < values.length; i++) {
      const folded = low.byte() + high.whole() * 0x100
      before += folded % 2 === 1 ? -(folded + 1) / 2 : folded / 2
      values[i] = before / power
    }
  }

  private bits(values: Float64Array, bytes: 4 | 8): void {
    const before = new Uint8Array(bytes)
    for (let i = 0; i < values.length; i++) {
      for (let k = 0; k < bytes; k++) {
        const byte = (before[k] as number) ^ (this.ranks[k] as ByteReader).byte()
        before[k] = byte
        scratch.setUint8(k, byte)
      }
      values[i] = bytes === 4 ? scratch.getFloat32(0) : scratch.getFloat64(0)
    }
  }
}

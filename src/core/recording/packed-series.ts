/** What a value was over a recording: each time, from where it begins to count, with the value from then on; NaN is absent. */
export interface RecordedSeries {
  readonly name: string
  readonly times: Float64Array<ArrayBuffer>
  readonly values: Float64Array<ArrayBuffer>
}

/** Series as bytes: a line of JSON that says how many there are of each, filled up to eight bytes, then all times and values. */
export const packSeries = (series: readonly RecordedSeries[]): Uint8Array => {
  const head = JSON.stringify(series.map(({ name, times }) => ({ name, count: times.length })))
  const bytes = new TextEncoder().encode(`${head}\n`)
  const begin = Math.ceil(bytes.length / 8) * 8
  const packed = new Uint8Array(begin + series.reduce((sum, s) => sum + 16 * s.times.length, 0))
  packed.set(bytes)
  let at = begin
  for (const { times, values } of series)
    for (const { buffer, byteOffset, byteLength } of [times, values]) {
      packed.set(new Uint8Array(buffer, byteOffset, byteLength), at)
      at += byteLength
    }
  return packed
}

export const unpackSeries = (packed: ArrayBuffer): RecordedSeries[] => {
  const bytes = new Uint8Array(packed)
  const end = bytes.indexOf(10)
  const head = JSON.parse(new TextDecoder().decode(bytes.subarray(0, end))) as {
    name: string
    count: number
  }[]
  let at = Math.ceil((end + 1) / 8) * 8
  return head.map(({ name, count }) => {
    const [times, values] = [
      new Float64Array(packed, at, count),
      new Float64Array(packed, at + 8 * count, count),
    ]
    at += 16 * count
    return { name, times, values }
  })
}

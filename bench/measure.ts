/** One line of the bench: ours, and for a comparison ours divided by the reference and the most that may be. */
export interface Line {
  readonly name: string
  readonly value: number
  readonly unit: string
  readonly ratio?: number
  readonly limit?: number
}

export const print = (line: Line): void => {
  const round = (x: number) => Number(x.toPrecision(4))
  const { ratio } = line
  process.stdout.write(
    `${JSON.stringify({ ...line, value: round(line.value), ...(ratio === undefined ? {} : { ratio: round(ratio) }) })}\n`,
  )
}

export const median = (values: readonly number[]): number => quantile(values, 0.5)

export const quantile = (values: readonly number[], q: number): number => {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? Number.NaN
}

/** Runs two things in turn, several times, and gives the median time of each in milliseconds. */
export const inTurn = (
  ours: () => void,
  reference: () => void,
  rounds: number,
): { ours: number; reference: number } => {
  const timed = (work: () => void): number => {
    const start = performance.now()
    work()
    return performance.now() - start
  }
  for (let i = 0; i < 5; i++) {
    ours()
    reference()
  }
  const a: number[] = []
  const b: number[] = []
  for (let i = 0; i < rounds; i++) {
    a.push(timed(ours))
    b.push(timed(reference))
  }
  return { ours: median(a), reference: median(b) }
}

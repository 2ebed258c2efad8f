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

export const medianRatio = (ours: readonly number[], reference: readonly number[]): number =>
  median(ours.map((o, i) => o / (reference[i] as number)))

/**
 * Runs two things in turn, several times. Gives the median time of each in milliseconds, and the median of the rounds'
 * ratios: both of a round met the same machine, however that changes from round to round.
 */
export const inTurn = (
  ours: () => void,
  reference: () => void,
  rounds: number,
): { ours: number; reference: number; ratio: number } => {
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
  return { ours: median(a), reference: median(b), ratio: medianRatio(a, b) }
}

/** Milliseconds of a core that this process takes while something is done. */
export const coreMs = async (work: () => void | Promise<void>): Promise<number> => {
  const began = process.cpuUsage()
  await work()
  const { user, system } = process.cpuUsage(began)
  return (user + system) / 1000
}

/** Prints what share of a core something takes, against the most that it may of a quiet one, in the same run. */
export const printShare = async (
  name: string,
  ours: number,
  seconds: number,
  share: number,
): Promise<void> => {
  const quiet = await coreMs(() => quietMs(seconds * 1000 * share))
  print({
    name: `${name}, with their sender, against ${share * 100}% of a quiet core`,
    value: ours / (seconds * 1000),
    unit: 'of a core',
    ratio: ours / quiet,
    limit: 1,
  })
}

/** Turns of a loop that does sums, which a quiet core of this kind goes through in a millisecond. */
const TURNS_A_MS = 1_000_000

/**
 * Work whose time on a quiet core is known. What is to take so many milliseconds at most is compared with that much of
 * it in the same run: a machine that is busy, or slower, is so for both.
 */
export const quietMs = (ms: number): void => {
  const turns = (ms * TURNS_A_MS) | 0
  let x = 1
  for (let i = 0; i < turns; i++) x = (Math.imul(x, 1_103_515_245) + 12_345) | 0
  if (x === 42) process.stdout.write('')
}

/** How much longer work takes at this moment than on a quiet core: what is known in plain time or shares is held against that. */
export const slownessNow = async (): Promise<number> => (await coreMs(() => quietMs(300))) / 300

/** The same as text, for a page in a browser. */
export const quietMsInPage = `(ms) => {
  const turns = (ms * ${TURNS_A_MS}) | 0
  let x = 1
  for (let i = 0; i < turns; i++) x = (Math.imul(x, 1103515245) + 12345) | 0
  return x
}`

import type { OutgoingValues } from '../src/hub/outgoing-values'
import type { SourceClient, SourceEvents } from '../src/hub/source-client'

/** Listens to a source in place of the hub: what it told, by name, and what it said of itself. */
export class SourceEar {
  readonly told: Record<string, unknown> = {}
  readonly said: string[] = []

  /** What the source is given; `described` is what is done when it has told its names. */
  events(client: () => SourceClient, described: () => void = () => {}): SourceEvents {
    return {
      described: () => {
        this.said.push('described')
        described()
      },
      up: (up) => this.said.push(up ? 'up' : 'away'),
      quiet: (quiet) => this.said.push(quiet ? 'quiet' : 'again'),
      frame: (indexes, values) => {
        for (const [k, i] of indexes.entries())
          this.told[client().catalogue?.variables[i]?.name ?? ''] = values[k]
      },
      answer: (_, problem) => this.said.push(String(problem)),
    }
  }
}

/** What is to be sent, as a table that the test changes; null while nothing flows. */
export const sending =
  (now: () => Readonly<Record<string, number | string | null>> | null): OutgoingValues =>
  () => {
    const values = now()
    return values === null ? null : (key) => ({ value: values[key] ?? null, problem: null })
  }

const EVERY_MS = 20

/** The longest that everything else in this process has had to wait while something was done, in milliseconds. */
export const longestWait = async (work: () => Promise<void>): Promise<number> => {
  let late = 0
  let due = performance.now() + EVERY_MS
  const timer = setInterval(() => {
    late = Math.max(late, performance.now() - due)
    due = performance.now() + EVERY_MS
  }, EVERY_MS)
  await work()
  clearInterval(timer)
  return late
}

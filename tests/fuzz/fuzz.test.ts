import { createHash } from 'node:crypto'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { doors } from './doors'
import { endThread } from './reader-thread'

/** How long each door is tried at. All of them together take less than a minute where nothing else is said. */
const MS = Number(process.env.CLAVIK_FUZZ_MS ?? 1500)
const folder = fileURLToPath(new URL('found', import.meta.url))

/** What was found earlier: it is tried first, for ever. */
const found = readdirSync(folder)
  .filter((f) => f.endsWith('.json'))
  .map((f) => JSON.parse(readFileSync(join(folder, f), 'utf8')) as { door: string; input: string })

const written = (input: unknown): string =>
  input instanceof Uint8Array ? JSON.stringify({ bytes: [...input] }) : JSON.stringify(input)

const read = (text: string): unknown => {
  const value = JSON.parse(text) as unknown
  const bytes = (value as { bytes?: number[] } | null)?.bytes
  return Array.isArray(bytes) ? Uint8Array.from(bytes) : value
}

const keep = (name: string, input: unknown): void => {
  const text = written(input)
  const mark = createHash('sha256').update(text).digest('hex').slice(0, 10)
  mkdirSync(folder, { recursive: true })
  writeFileSync(
    join(folder, `${name.replaceAll(' ', '-')}-${mark}.json`),
    `${JSON.stringify({ door: name, input: text }, null, 2)}\n`,
  )
}

afterAll(() => endThread())

describe.each(doors)('the door for $name', ({ name, input, pass }) => {
  it.each(found.filter((f) => f.door === name))('stands what was found earlier: $input', async (f) => {
    await pass(read(f.input))
  })

  it(
    'stands whatever comes',
    async () => {
      const tried = fc.asyncProperty(input, async (given) => {
        await pass(given)
      })
      const result = await fc.check(tried, {
        numRuns: Number.MAX_SAFE_INTEGER,
        interruptAfterTimeLimit: MS,
        markInterruptAsFailure: false,
        ...(process.env.CLAVIK_FUZZ_SEED ? { seed: Number(process.env.CLAVIK_FUZZ_SEED) } : {}),
      })
      // On a busy machine the time may be over before the first one is through: that one is seen to its end.
      const isOnlyOver = result.failed && result.counterexample === null
      if (isOnlyOver) await fc.assert(tried, { numRuns: 1 })
      if (result.failed && result.counterexample) keep(name, result.counterexample[0])
      expect(result.failed && !isOnlyOver ? fc.defaultReportMessage(result) : null).toBeNull()
    },
    MS * 4 + 60_000,
  )
})

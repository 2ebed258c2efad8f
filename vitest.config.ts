import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

const src = fileURLToPath(new URL('./src', import.meta.url))

/** Those that take longest, longest first: whoever begins last is not to be waited for. */
const long = [
  'calibrate',
  'recordings',
  'wires',
  'chip',
  'scope',
  'first-session',
  'recovery',
  'rigs',
  'crafts-and',
]

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => {
      const at = long.findIndex((l) => moduleId.includes(`/${l}`) && moduleId.endsWith('.e2e.ts'))
      return at < 0 ? long.length : at
    }
    return (await super.sort(files)).sort((a, b) => place(a) - place(b))
  }
}

export default defineConfig({
  resolve: { alias: { '@': src } },
  test: {
    sequence: { sequencer: LongestFirst },
    projects: [
      // No test is timed: a slow machine only takes longer.
      {
        extends: true,
        test: {
          name: 'unit',
          include: ['src/**/*.test.{ts,tsx}', 'tests/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
          // Files of one worker share what they import; some only wait, and a third worker uses their time.
          isolate: false,
          maxWorkers: 3,
        },
      },
      {
        extends: true,
        test: {
          name: 'end to end',
          include: ['tests/**/*.e2e.ts'],
          testTimeout: 180_000,
          hookTimeout: 240_000,
          // All share a browser; those that end nothing use one application in turn. Two files run side by side: hands
          // and contacts go by real time, and a machine that is never idle has none to spare. What fell is run again alone.
          globalSetup: 'tests/the-browser.ts',
          setupFiles: 'tests/share-grounds.ts',
          isolate: false,
          maxWorkers: process.env.TESTS_ALONE ? 1 : 2,
        },
      },
    ],
  },
})

import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

/** Tests that run the boards’ program on emulated chips: nothing of them waits, so they take whatever others leave. */
const onChips = ['firmware*', 'chip-instructions'].map((name) => `tests/${name}.test.ts`)

const src = fileURLToPath(new URL('./src', import.meta.url))

export default defineConfig({
  resolve: { alias: { '@': src } },
  test: {
    projects: [
      // No test is timed: a slow machine only takes longer.
      {
        extends: true,
        test: {
          name: 'unit',
          include: ['src/**/*.test.{ts,tsx}', 'tests/**/*.test.ts'],
          exclude: onChips,
          testTimeout: 60_000,
          hookTimeout: 120_000,
          maxWorkers: 2,
        },
      },
      {
        extends: true,
        test: {
          name: 'emulated chips',
          include: onChips,
          testTimeout: 600_000,
          hookTimeout: 600_000,
          maxWorkers: 2,
        },
      },
      {
        extends: true,
        test: {
          name: 'end to end',
          include: ['tests/**/*.e2e.ts'],
          testTimeout: 60_000,
          hookTimeout: 180_000,
          // Each file has an application of its own; two run side by side.
          maxWorkers: 2,
        },
      },
    ],
  },
})

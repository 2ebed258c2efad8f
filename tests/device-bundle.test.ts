import { execFileSync } from 'node:child_process'
import { parse } from 'acorn'
import { expect, it } from 'vitest'
import { deviceBundle } from '../src/supervise/build'

const text = execFileSync('node_modules/.bin/esbuild', [...deviceBundle], {
  encoding: 'utf8',
  maxBuffer: 1e8,
})

it('what devices run is written as browsers of five years ago read it', () => {
  expect(() => parse(text, { ecmaVersion: 2022, sourceType: 'script' })).not.toThrow()
  // Safari learnt to look behind in 2023.
  expect(text).not.toMatch(/\(\?<[=!]/)
})

it('is small enough for a slow one, and holds neither the interface nor schemas', () => {
  expect(text.length).toBeLessThan(300_000)
  expect(text).not.toMatch(/react|zustand|ZodError/i)
})

import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'
import { notices } from '../tools/notices'

const root = fileURLToPath(new URL('..', import.meta.url))
const rows = readFileSync(`${root}/docs/promises.md`, 'utf8')
  .split('\n')
  .flatMap((line) => {
    const [, promise, file, test] = line.split('|').map((cell) => cell.trim())
    return file?.startsWith('`') && test ? [{ promise, file: file.slice(1, -1), test }] : []
  })

it('finds the promises', () => {
  expect(rows.length).toBeGreaterThan(25)
})

it.each(rows)('$promise: held by a test that is there', ({ file, test }) => {
  const source = readFileSync(`${root}/${file}`, 'utf8')
  expect(source.replaceAll('\\’', '’')).toContain(`'${test}'`)
})

it('names every package that runs with Clavik, on its own terms', () => {
  expect(readFileSync(`${root}/NOTICES.txt`, 'utf8')).toBe(notices(root))
})

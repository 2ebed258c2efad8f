import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { buildSync } from 'esbuild'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

const root = fileURLToPath(new URL('..', import.meta.url))
let folder = ''

beforeAll(() => {
  // Within the project, where its packages are found.
  folder = mkdtempSync(join(root, 'build', 'bench-test-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Runs a file of this project as a program of its own, without any runner of tests. */
const alone = (entry: string, ...args: string[]) => {
  const outfile = join(folder, 'alone.mjs')
  buildSync({
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'silent',
  })
  // Nothing that the runner of these tests has set.
  const { PATH, HOME, NODE_ENV } = process.env
  const env = { PATH, HOME, NODE_ENV, TMPDIR: tmpdir() }
  return spawnSync(process.execPath, [outfile, ...args], { cwd: root, env, encoding: 'utf8' })
}

describe('the benches', () => {
  it('load as a program of their own, and say which there are', () => {
    const { status, stderr } = alone(join(root, 'bench/run.ts'), 'no such bench')
    expect(stderr).toContain('There is no bench no such bench; there are frame,')
    expect(status).toBe(2)
  })

  it('have a browser and a folder of their own, and leave nothing of either', () => {
    const script = join(folder, 'script.ts')
    writeFileSync(
      script,
      `import { App } from ${JSON.stringify(join(root, 'tests/app.ts'))}
       import { Bench } from ${JSON.stringify(join(root, 'tests/browser.ts'))}
       import { leaveGrounds } from ${JSON.stringify(join(root, 'tests/grounds.ts'))}
       const app = await App.make()
       const bench = await Bench.open('about:blank')
       const sum = await bench.page.evaluate(() => 20 + 22)
       await bench.close()
       await leaveGrounds()
       console.log(JSON.stringify({ dataDir: app.dataDir, sum }))
       process.exit(0)`,
    )
    const { stdout, stderr } = alone(script)
    expect(stderr).toBe('')
    const told = JSON.parse(stdout) as { dataDir: string; sum: number }
    expect(told.sum).toBe(42)
    expect(existsSync(join(told.dataDir, '..'))).toBe(false)
  })
})

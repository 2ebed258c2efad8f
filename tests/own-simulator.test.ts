import { execFile, spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'
import { afterAll, describe, expect, it } from 'vitest'
import { Doing } from '../src/hub/doing'
import { Hub } from '../src/hub/hub'
import { MemoryFile } from '../src/hub/memory'
import { freePort, until } from './app'
import { MemoryShelf } from './memory-shelf'
import { onPorts, smallRig } from './rigs'

const folder = mkdtempSync(join(tmpdir(), 'clavik-own-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Starts a program and waits for its first words. */
const start = async (command: string, ...args: string[]) => {
  const child = spawn(command, args)
  let out = ''
  child.stdout.on('data', (b) => {
    out += String(b)
  })
  await until('it answers', () => out !== '')
  return child
}

const check = (port: number): Promise<{ code: number; out: string }> =>
  new Promise((resolve) =>
    execFile('bash', ['bin/check-simulator', `127.0.0.1:${port}`, '--event', 'skiff.stop'], (error, out) =>
      resolve({ code: error ? Number(error.code) : 0, out }),
    ),
  )

describe.concurrent('programs that somebody else may write', { timeout: 180_000 }, () => {
  it('the ten lines of the README are a simulator that Clavik takes values from', async () => {
    const text = readFileSync('README.md', 'utf8')
    const lines = /```python\n([\s\S]*?)```/.exec(text)?.[1] ?? ''
    expect(lines.trim().split('\n')).toHaveLength(10)
    const port = await freePort()
    writeFileSync(join(folder, 'ten.py'), lines.replace('47800', String(port)))
    const program = spawn('python3', [join(folder, 'ten.py')])
    const settings = { hand: 1, secret: '', look: async () => [], shelf: new MemoryShelf() }
    const hub = new Hub(settings, new MemoryFile(folder), new Doing(folder))
    hub.takeLoaded({ id: 'rig', rig: onPorts(smallRig({}), port, []), revision: 1, setAside: [] })
    hub.open()
    try {
      await until('it is up', () => hub.status().connections[0]?.state === 'up')
      expect(hub.status().connections[0]).toMatchObject({ who: 'Mine', problem: null, odd: [] })
      await until('its values come', () => Number(hub.engine.variables.read(0)) > 50)
    } finally {
      hub.close()
      program.kill()
    }
  })

  // Their rates go by the clock on the wall, which a loaded machine does not keep up with.
  it('the adapter in Python passes the check', { retry: 2 }, async () => {
    const port = await freePort()
    const program = await start('python3', 'adapters/python/adapter.py', String(port))
    const { code, out } = await check(port)
    program.kill()
    expect(out).toContain(' right, 0 wrong, 0 missing, 0 not tried')
    expect(code).toBe(0)
  })

  it('the adapter in TypeScript passes the check', { retry: 2 }, async () => {
    const outfile = join(folder, 'adapter.mjs')
    await build({ entryPoints: ['adapters/typescript/adapter.ts'], platform: 'node', format: 'esm', outfile })
    const port = await freePort()
    const program = await start(process.execPath, outfile, String(port))
    const { code, out } = await check(port)
    program.kill()
    expect(out).toContain(' right, 0 wrong, 0 missing, 0 not tried')
    expect(code).toBe(0)
  })

  it('the check says that nobody answers, and how it is called', async () => {
    const port = await freePort()
    expect((await check(port)).code).toBe(2)
    const { code, out } = await new Promise<{ code: number; out: string }>((resolve) =>
      execFile('bash', ['bin/check-board'], (error, _, err) =>
        resolve({ code: Number(error?.code), out: err }),
      ),
    )
    expect(code).toBe(2)
    expect(out).toContain('Usage: bin/check-board')
  })
})

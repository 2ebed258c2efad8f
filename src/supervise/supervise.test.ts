import { execFile, spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { until } from '../../tests/app'
import { takeLock } from './lock'
import { readOptions } from './options'
import { freePorts, mustBeFree } from './ports'
import { Kept } from './process'
import { inWords, PlainProblem } from './say'

describe('the options of bin/start', () => {
  it('have defaults', () => {
    expect(readOptions([], '/home/me/clavik')).toEqual({
      port: 4310,
      dataDir: '/home/me/clavik/.data',
      portFolders: [],
      lan: false,
      fresh: false,
      throwaway: false,
    })
  })
  it('are read', () => {
    expect(readOptions(['--port', '80', '--fresh', '--data', '/x'], '/')).toMatchObject({
      port: 80,
      dataDir: '/x',
      fresh: true,
    })
  })
  it.each([
    [['--port', 'blue'], '--port takes a number from 1 to 65535.'],
    [['--port'], '--port takes a number'],
    [['--data'], '--data takes a folder.'],
    [['--colour'], 'There is no option --colour.'],
  ])('%j are refused in a sentence', (args, words) => {
    expect(() => readOptions(args, '/')).toThrow(words)
  })
})

describe('ports', () => {
  it('that are free are all different', async () => {
    const ports = await freePorts(20)
    expect(new Set(ports).size).toBe(20)
  })
  it('are none that the system gives to whoever calls out before they are bound', async () => {
    const [from] = readFileSync('/proc/sys/net/ipv4/ip_local_port_range', 'utf8').split('\t').map(Number)
    expect(Math.max(...(await freePorts(100)))).toBeLessThan(from as number)
  })
  it('are those that are left, and where none is that is a sentence', async () => {
    const [first] = (await freePorts(1)) as [number]
    const server = createServer()
    await new Promise<void>((resolve) => server.listen(first, '127.0.0.1', resolve))
    await expect(freePorts(1, first, 1)).rejects.toThrow('in use')
    expect(await freePorts(1, first, 4)).not.toContain(first)
    server.close()
  })
  it('that are taken are named', async () => {
    const server = createServer()
    const port = await new Promise<number>((resolve) => {
      server.listen(0, '127.0.0.1', () => resolve((server.address() as { port: number }).port))
    })
    await expect(mustBeFree(port)).rejects.toThrow(`Port ${port} is in use`)
    server.close()
  })
})

describe('an error in words', () => {
  it.each([
    [
      Object.assign(new Error('x'), { code: 'ENOSPC', path: '/d/f' }),
      'The disk is full (/d/f); free some space and start again.',
    ],
    [
      Object.assign(new Error('x'), { code: 'EACCES', path: '/d' }),
      'Not allowed to write /d; choose another with --data.',
    ],
    [new PlainProblem('Just so.'), 'Just so.'],
  ])('%s', (error, words) => {
    expect(inWords(error)).toBe(words)
  })
})

describe('a lock', () => {
  let folder: string
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'clavik-lock-'))
  })
  afterEach(() => rmSync(folder, { recursive: true, force: true }))

  /** Another process that takes the lock `times` times, each time adding one to a number that only its holder may touch. */
  const counting = (times: number) => `
    const { readFileSync, writeFileSync } = require('node:fs')
    const { takeLock } = require(${JSON.stringify(join(folder, 'lock.cjs'))})
    const file = ${JSON.stringify(join(folder, 'n'))}
    for (let left = ${times}; left > 0; ) {
      const lock = takeLock(${JSON.stringify(join(folder, 'lock'))}, 'counting')
      if ('holder' in lock) continue
      writeFileSync(file, String(Number(readFileSync(file, 'utf8')) + 1))
      lock.giveUp()
      left--
    } // counting`

  it('is held by one of many that ask at the same time', async () => {
    writeFileSync(join(folder, 'n'), '0')
    const { outputFiles } = await build({
      entryPoints: ['src/supervise/lock.ts'],
      bundle: true,
      platform: 'node',
      format: 'cjs',
      write: false,
    })
    writeFileSync(join(folder, 'lock.cjs'), outputFiles[0]?.text ?? '')
    const ended = await Promise.all(
      [1, 2, 3].map(
        () =>
          new Promise((resolve) => {
            spawn(process.execPath, ['-e', counting(300)], { stdio: 'inherit' }).on('close', resolve)
          }),
      ),
    )
    expect(ended).toEqual([0, 0, 0])
    expect(readFileSync(join(folder, 'n'), 'utf8')).toBe('900')
    expect(readdirSync(folder).sort()).toEqual(['lock.cjs', 'n'])
  })
  it.each([
    ['of a process that is gone', '999999999'],
    ['of another program, that has its number now', String(process.ppid)],
    ['that says nothing', ''],
  ])('%s counts for nothing', (_, text) => {
    writeFileSync(join(folder, 'lock'), text)
    expect(takeLock(join(folder, 'lock'), 'no such program')).toHaveProperty('giveUp')
    expect(readFileSync(join(folder, 'lock'), 'utf8')).toBe(String(process.pid))
  })
})

describe('a command', () => {
  it('is whole, however many begin it at once after a change', async () => {
    const usage = () =>
      new Promise<string>((resolve) => {
        execFile('bash', ['bin/rig', 'list', '--no-such-option'], (_, __, said) => resolve(said))
      })
    utimesSync('package-lock.json', new Date(), new Date())
    const said = await Promise.all(Array.from({ length: 8 }, usage))
    expect(new Set(said).size).toBe(1)
    expect(said[0]).toContain('--no-such-option')
  })
})

describe('a process that is kept', () => {
  let dir: string
  let kept: Kept
  let started: number[]
  const keep = (script: string) => {
    kept = new Kept({
      name: 'thing',
      command: process.execPath,
      args: ['-e', script],
      readyWhen: 'ready',
      logFile: join(dir, 'thing.log'),
      started: () => started.push(Date.now()),
    })
    return kept
  }
  beforeEach(() => {
    dir = mkdtempSync(join(tmpdir(), 'clavik-kept-'))
    started = []
  })
  afterEach(async () => {
    await kept.stop()
    rmSync(dir, { recursive: true, force: true })
  })

  it('is ready when it says so, and its words are kept', async () => {
    await keep("console.log('ready'); setInterval(() => {}, 1000)").start()
    await until('its log is written', () => readFileSync(join(dir, 'thing.log'), 'utf8').includes('ready'))
  })
  it('is started again when it dies, after a pause that grows', async () => {
    await keep("console.log('ready'); setTimeout(() => process.exit(3), 20)").start()
    await until('it was started four times', () => started.length >= 4, 10_000)
    const gaps = started.slice(1).map((t, i) => t - (started[i] ?? 0))
    // At least so long: a machine that is busy only makes them longer.
    for (const [i, pauseMs] of [250, 500, 1000].entries()) expect(gaps[i]).toBeGreaterThan(pauseMs - 10)
  })
  it('is given up, with its last words, when it dies before it was ever ready', async () => {
    await expect(keep("console.error('no such thing'); process.exit(1)").start()).rejects.toThrow(
      'thing did not start: no such thing',
    )
    expect(started).toHaveLength(1)
  })
  it('stays down once it is stopped', async () => {
    await keep("console.log('ready'); setInterval(() => {}, 1000)").start()
    await kept.stop()
    await new Promise((resolve) => setTimeout(resolve, 600))
    expect(started).toHaveLength(1)
    expect(kept.pid).toBeUndefined()
  })
})

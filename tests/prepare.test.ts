import { type ChildProcess, spawn } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { until } from './app'

let home: string
let begun: ChildProcess | null = null
beforeEach(() => {
  home = mkdtempSync(join(tmpdir(), 'clavik-prepare-'))
  mkdirSync(join(home, 'bin'))
  mkdirSync(join(home, 'fake'))
  cpSync('bin/prepare', join(home, 'bin/prepare'))
  writeFileSync(join(home, 'package-lock.json'), '{}')
  // Whoever may not install asks this one first.
  program('sudo', 'while [[ "$1" == -* ]]; do shift; done; exec "$@"')
})
afterEach(() => {
  begun?.kill('SIGKILL')
  rmSync(home, { recursive: true, force: true })
})

/** A program that stands for another of this name, and notes what it does. */
const program = (name: string, script: string): void =>
  writeFileSync(join(home, 'fake', name), `#!/usr/bin/env bash\n${script}\n`, { mode: 0o755 })
const noted = (): string[] =>
  existsSync(join(home, 'log')) ? readFileSync(join(home, 'log'), 'utf8').trim().split('\n') : []

/** One that begins, leaves a half, and takes it back slowly when it is stopped. */
const slow = (name: string): string =>
  `trap 'sleep 0.4; echo ${name} took it back >>log; exit 1' INT TERM
   mkdir -p node_modules; touch node_modules/half; echo ${name} began >>log
   for ((i = 0; i < 600; i++)); do sleep 0.1; done; echo ${name} ended >>log`

const prepare = (): Promise<{ code: number | null; said: string }> =>
  new Promise((resolve) => {
    const child = spawn('bash', ['bin/prepare', 'no-such-package:/no/such/program'], {
      cwd: home,
      env: { ...process.env, PATH: `${join(home, 'fake')}:${process.env.PATH}` },
    })
    begun = child
    let said = ''
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (bytes: Buffer) => {
        said += bytes.toString()
      })
    child.on('close', (code) => resolve({ code, said }))
  })

it('what is installed side by side is stopped whole, and a half of it is begun anew', async () => {
  program('npm', slow('npm'))
  program('apt-get', slow('apt'))
  const stopped = prepare()
  await until('both have begun', () => noted().length === 2)
  begun?.kill('SIGINT')
  expect((await stopped).code).toBe(130)
  // Not before both have taken back what they had begun: the next start must not meet it.
  expect(noted().slice(2).sort()).toEqual(['apt took it back', 'npm took it back'])

  program('npm', 'ls node_modules >>log 2>&1; mkdir -p node_modules; echo npm whole >>log')
  program('apt-get', 'echo apt "$1" >>log')
  rmSync(join(home, 'log'))
  expect((await prepare()).code).toBe(0)
  expect(noted()).not.toContain('half')
  expect(noted()).toEqual(expect.arrayContaining(['npm whole', 'apt update', 'apt install']))

  rmSync(join(home, 'log'))
  expect((await prepare()).code).toBe(0)
  expect(noted().some((n) => n.startsWith('npm'))).toBe(false)
})

it('one that fails stops the other, and says why', async () => {
  program('npm', slow('npm'))
  program('apt-get', 'while [ ! -f log ]; do sleep 0.05; done; echo "E: Unable to locate package"; exit 100')
  const { code, said } = await prepare()
  expect(code).toBe(1)
  expect(said).toContain('E: Unable to locate package')
  expect(said).toContain(
    'Could not install no-such-package; are Debian’s packages reachable?'.replace('’', "'"),
  )
  expect(noted()).toEqual(['npm began', 'npm took it back'])
})

it('a full disk is said in a sentence', async () => {
  program('npm', 'echo "npm error code ENOSPC"; exit 1')
  program('apt-get', 'exit 0')
  const { code, said } = await prepare()
  expect(code).toBe(1)
  expect(said).toContain('The disk is full; free some space and start again.')
  expect(existsSync(join(home, 'node_modules/.clavik-lock'))).toBe(false)
})

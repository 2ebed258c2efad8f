import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { takeLock } from './lock'
import { PlainProblem, say } from './say'

/** What the built application depends on. */
const sources = [
  'src',
  'demo',
  'tools/write-mail-run.ts',
  'package-lock.json',
  'next.config.ts',
  'postcss.config.mjs',
  'tsconfig.json',
]

const filesBelow = (path: string): string[] => {
  if (!existsSync(path)) return []
  try {
    return readdirSync(path, { withFileTypes: true, recursive: true })
      .filter((e) => e.isFile() && !/\.test\.tsx?$/.test(e.name))
      .map((e) => join(e.parentPath, e.name))
      .sort()
  } catch {
    return [path]
  }
}

const stampOf = (root: string): string => {
  const hash = createHash('sha256')
  for (const source of sources) {
    for (const file of filesBelow(join(root, source)))
      hash.update(file.slice(root.length)).update(readFileSync(file))
  }
  return hash.digest('hex')
}

/** Runs a command of a package, or a bundle by its path. */
const run = async (root: string, name: string, command: string, args: readonly string[]): Promise<void> => {
  const env = { ...process.env, NODE_ENV: 'production' as const, NEXT_TELEMETRY_DISABLED: '1' }
  const [program, first] = command.endsWith('.mjs')
    ? [process.execPath, [join(root, command)]]
    : [join(root, 'node_modules/.bin', command), []]
  const child = spawn(program, [...first, ...args], { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] })
  const end = () => child.kill()
  process.once('exit', end)
  let output = ''
  for (const stream of [child.stdout, child.stderr])
    stream.setEncoding('utf8').on('data', (text: string) => {
      output += text
    })
  const status = await new Promise<number | null>((resolve) => {
    child.on('error', (error) => {
      output += error.message
    })
    child.on('close', resolve)
  })
  process.off('exit', end)
  if (status === 0) return
  const why = /ENOSPC|No space left/.test(output)
    ? 'the disk is full'
    : `\n${output.trim().split('\n').slice(-25).join('\n')}`
  throw new PlainProblem(`${name} could not be built: ${why}`)
}

/** How what devices run is built: devices that hang behind a panel are seldom new. */
const oldBrowsers: readonly string[] = [
  '--bundle',
  '--minify',
  '--format=iife',
  '--alias:zod=./src/screen/no-schemas.ts',
  '--target=chrome90,firefox90,safari14.1',
  '--log-level=error',
]

export const deviceBundle: readonly string[] = ['screen-device=src/screen/device.ts', ...oldBrowsers]
export const partsBundle: readonly string[] = [
  'screen-parts=src/ui/screens/device-parts.tsx',
  '--jsx=automatic',
  '--define:process.env.NODE_ENV="production"',
  ...oldBrowsers,
]

/** Whether what is built is what these sources give. */
const isBuilt = (root: string, stamp: string): boolean => {
  const file = join(root, 'build/stamp')
  return existsSync(file) && readFileSync(file, 'utf8') === stamp && existsSync(join(root, '.next/BUILD_ID'))
}

/** Builds what changed since the last time; nothing when nothing did. Where another start builds just now, that is waited for. */
export const buildIfNeeded = async (root: string): Promise<void> => {
  const stamp = stampOf(root)
  if (isBuilt(root, stamp)) return
  mkdirSync(join(root, 'build'), { recursive: true })
  for (let waits = 0; ; waits++) {
    const lock = takeLock(join(root, 'build/building'), '.mjs')
    if ('giveUp' in lock) {
      try {
        if (!isBuilt(root, stamp)) await build(root, stamp)
      } finally {
        lock.giveUp()
      }
      return
    }
    if (waits === 0) say(`Process ${lock.holder} is building already; waiting for it …`)
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
}

const build = async (root: string, stamp: string): Promise<void> => {
  say('Building (about half a minute, only when something changed) …')
  const bundle = [
    '--bundle',
    '--platform=node',
    '--format=esm',
    '--packages=external',
    '--sourcemap',
    '--log-level=warning',
    '--outdir=build',
    '--out-extension:.js=.mjs',
  ]
  await run(root, 'Hub, stand-ins and web', 'esbuild', [
    'hub=src/hub/main.ts',
    'recordings=src/hub/recordings/keep.ts',
    'standins=src/standins/main.ts',
    'web=src/web/main.ts',
    'plate-reader=src/web/plate-reader.ts',
    'rig-reader=src/web/rig-reader.ts',
    'paper-maker=src/web/paper-maker.ts',
    'recording-work=src/web/recording-work.ts',
    'write-mail-run=tools/write-mail-run.ts',
    ...bundle,
  ])
  await run(root, 'The page of screens', 'esbuild', [...deviceBundle, '--outdir=build'])
  await run(root, 'The parts of screens', 'esbuild', [...partsBundle, '--outdir=build'])
  await run(root, 'The recording of the demo', 'build/write-mail-run.mjs', ['build/mail-run.json'])
  await run(root, 'The interface', 'next', ['build'])
  writeFileSync(join(root, 'build/stamp'), stamp)
}

import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
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
const run = (root: string, name: string, command: string, args: readonly string[]): void => {
  const env = { ...process.env, NODE_ENV: 'production' as const, NEXT_TELEMETRY_DISABLED: '1' }
  const [program, first] = command.endsWith('.mjs')
    ? [process.execPath, [join(root, command)]]
    : [join(root, 'node_modules/.bin', command), []]
  const done = spawnSync(program, [...first, ...args], { cwd: root, encoding: 'utf8', env })
  if (done.status === 0) return
  const output = `${done.stdout}\n${done.stderr}`
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

/** Builds what changed since the last time; nothing when nothing did. */
export const buildIfNeeded = (root: string): void => {
  const stampFile = join(root, 'build', 'stamp')
  const stamp = stampOf(root)
  if (
    existsSync(stampFile) &&
    readFileSync(stampFile, 'utf8') === stamp &&
    existsSync(join(root, '.next/BUILD_ID'))
  )
    return
  say('Building (about half a minute, only when something changed) …')
  mkdirSync(join(root, 'build'), { recursive: true })
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
  run(root, 'Hub, stand-ins and web', 'esbuild', [
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
  run(root, 'The page of screens', 'esbuild', [...deviceBundle, '--outdir=build'])
  run(root, 'The parts of screens', 'esbuild', [...partsBundle, '--outdir=build'])
  run(root, 'The recording of the demo', 'build/write-mail-run.mjs', ['build/mail-run.json'])
  run(root, 'The interface', 'next', ['build'])
  writeFileSync(stampFile, stamp)
}

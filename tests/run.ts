import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { buildIfNeeded } from '../src/supervise/build'

const reports = '.reports'
/** If more files of the browser's fail, it is not the machine. */
const MOST_AGAIN = 6
let passed = 0
let failed = 0

const run = (
  command: string,
  args: readonly string[],
  more: Record<string, string> = {},
): Promise<{ code: number; output: string }> =>
  new Promise((resolve) => {
    const child = spawn(`node_modules/.bin/${command}`, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...more },
    })
    let output = ''
    const hear = (bytes: Buffer) => {
      output += bytes.toString()
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.on('close', (code) => resolve({ code: code ?? 1, output }))
  })

/** Builds the application; what else there is to prove is proven without it, if that fails. */
const build = async (): Promise<void> => {
  try {
    await buildIfNeeded(process.cwd())
  } catch (error) {
    failed++
    process.stdout.write(`build: FAILED\n${error}\n`)
  }
}

/** A check that passes or fails as a whole. */
const check = async (name: string, command: string, args: readonly string[]): Promise<void> => {
  const { code, output } = await run(command, args)
  if (code === 0) passed++
  else failed++
  process.stdout.write(code === 0 ? `${name}: ok\n` : `${name}: FAILED\n${output}\n`)
}

interface Report {
  readonly testResults: readonly {
    readonly name: string
    readonly status: string
    readonly message: string
    readonly assertionResults: readonly {
      readonly status: string
      readonly fullName: string
      readonly failureMessages: readonly string[]
    }[]
  }[]
}

/** What came of one file of tests. A file that could not run counts as one failure. */
interface Outcome {
  readonly file: string
  readonly good: number
  readonly failures: readonly string[]
}

/** Runs a project of tests, or some files of it one after another, and reads the runner's own report. */
const outcomes = async (project: string, files: readonly string[] = []): Promise<Outcome[]> => {
  const report = `${reports}/${project.replaceAll(' ', '-')}${files.length > 0 ? '-again' : ''}.json`
  const args = ['run', '--project', project, '--reporter=json', `--outputFile=${report}`, ...files]
  const { output } = await run('vitest', args, files.length > 0 ? { TESTS_ALONE: 'yes' } : {})
  try {
    return (JSON.parse(readFileSync(report, 'utf8')) as Report).testResults.map((suite) => {
      const failures = suite.assertionResults
        .filter((t) => t.status === 'failed')
        .map((t) => `${t.fullName}\n${t.failureMessages.join('\n').slice(0, 6000)}`)
      return {
        file: suite.name,
        good: suite.assertionResults.filter((t) => t.status === 'passed').length,
        failures:
          suite.status === 'failed' && failures.length === 0 ? [`${suite.name}\n${suite.message}`] : failures,
      }
    })
  } catch {
    return [{ file: project, good: 0, failures: [output] }]
  }
}

/**
 * A project of tests. Where browser, hub and boards share a loaded machine, a few files that failed are run once
 * more, one by one; what then passes is said by name as unsteady, with what it said, so that it is looked for and not lost.
 */
const tests = async (name: string, project: string, again = 0): Promise<void> => {
  const first = await outcomes(project)
  const fell = first.filter((o) => o.failures.length > 0)
  const repeats = fell.length > 0 && fell.length <= again
  for (const { failures } of fell)
    for (const f of failures) process.stdout.write(`${repeats ? 'failed once: ' : 'FAILED '}${f}\n`)
  const second = repeats
    ? await outcomes(
        project,
        fell.map((o) => o.file),
      )
    : []
  for (const { file, failures } of second) {
    if (failures.length === 0) process.stdout.write(`UNSTEADY ${file}: passed only when run again, alone\n`)
    for (const f of failures) process.stdout.write(`FAILED ${f}\n`)
  }
  const last = repeats ? [...first.filter((o) => o.failures.length === 0), ...second] : first
  const good = last.reduce((n, o) => n + o.good, 0)
  const bad = last.reduce((n, o) => n + o.failures.length, 0)
  passed += good
  failed += good === 0 && bad === 0 ? 1 : bad
  process.stdout.write(`${name}: ${good} passed, ${bad} failed\n`)
}

rmSync(reports, { recursive: true, force: true })
mkdirSync(reports)
// What needs no application runs while it is built; the browser waits for it, and has the machine for itself.
await Promise.all([
  tests('unit', 'unit'),
  // Some of the types come with what is built.
  build().then(() => check('types', '../typescript-native/bin/tsc', ['--noEmit'])),
  check('lint and format', 'biome', ['ci', '--error-on-warnings', '--colors=off', '.']),
  check('import directions', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'src']),
])
await tests('end to end', 'end to end', MOST_AGAIN)
process.stdout.write(`${passed} passed, ${failed} failed\n`)
process.exitCode = failed === 0 ? 0 : 1

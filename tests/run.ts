import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { buildIfNeeded } from '../src/supervise/build'

const reports = '.reports'
let passed = 0
let failed = 0

const run = (command: string, args: readonly string[]): Promise<{ code: number; output: string }> =>
  new Promise((resolve) => {
    const child = spawn(`node_modules/.bin/${command}`, args, { stdio: ['ignore', 'pipe', 'pipe'] })
    let output = ''
    const hear = (bytes: Buffer) => {
      output += bytes.toString()
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.on('close', (code) => resolve({ code: code ?? 1, output }))
  })

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

/** A project of tests, counted from the runner's own report. A file that could not run counts as one failure. */
const tests = async (name: string, project: string): Promise<void> => {
  const file = `${reports}/${project.replaceAll(' ', '-')}.json`
  const { output } = await run('vitest', [
    'run',
    '--project',
    project,
    '--reporter=json',
    `--outputFile=${file}`,
  ])
  let good = 0
  let bad = 0
  try {
    const report = JSON.parse(readFileSync(file, 'utf8')) as Report
    for (const suite of report.testResults) {
      const failures = suite.assertionResults.filter((t) => t.status === 'failed')
      good += suite.assertionResults.filter((t) => t.status === 'passed').length
      bad += failures.length
      for (const t of failures)
        process.stdout.write(`FAILED ${t.fullName}\n${t.failureMessages.join('\n').slice(0, 6000)}\n`)
      if (suite.status === 'failed' && failures.length === 0) {
        bad++
        process.stdout.write(`FAILED ${suite.name}\n${suite.message}\n`)
      }
    }
  } catch {
    bad++
    process.stdout.write(`${output}\n`)
  }
  if (good === 0 && bad === 0) bad++
  passed += good
  failed += bad
  process.stdout.write(`${name}: ${good} passed, ${bad} failed\n`)
}

rmSync(reports, { recursive: true, force: true })
mkdirSync(reports)
buildIfNeeded(process.cwd())
await Promise.all([
  check('types', 'tsc', ['--noEmit']),
  check('lint and format', 'biome', ['ci', '--error-on-warnings', '--colors=off', '.']),
  check('import directions', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'src']),
])
await tests('unit', 'unit')
await tests('end to end', 'end to end')
process.stdout.write(`${passed} passed, ${failed} failed\n`)
process.exitCode = failed === 0 ? 0 : 1

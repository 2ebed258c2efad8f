import { Findings, findingLine } from '../check/findings'

/** Runs a check, tells each finding as it comes, and ends with how many there were; the exit code says whether all is well. */
export const runCheck = async (check: (findings: Findings) => Promise<void>): Promise<void> => {
  const findings = new Findings((f) => void process.stdout.write(`${findingLine(f)}\n`))
  try {
    await check(findings)
    process.stdout.write(`${findings.summary}\n`)
    process.exitCode = findings.isSound ? 0 : 1
  } catch (error) {
    process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`)
    process.exitCode = 2
  }
  // Whatever of the other end still hangs on is let go.
  process.exit()
}

/** What was asked for cannot be understood. */
export const usage = (words: string): never => {
  process.stderr.write(`${words}\n`)
  process.exit(2)
}

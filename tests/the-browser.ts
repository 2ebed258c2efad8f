import { existsSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { type Grounds, launch, makeFolder } from './grounds'

declare module 'vitest' {
  interface ProvidedContext extends Grounds {}
}

const LONGEST_END_MS = 20_000

/** Asks an application to end that was lent to the last of the files, or was left by one that fell. */
const endApp = (dataDir: string): void => {
  try {
    const { supervisor } = JSON.parse(readFileSync(join(dataDir, 'processes.json'), 'utf8')) as {
      supervisor: number
    }
    if (existsSync(join(dataDir, 'lock'))) process.kill(supervisor, 'SIGINT')
  } catch {
    // It is no application's folder, or has ended already.
  }
}

/**
 * Starts one real browser for all files of tests, each of which opens a context of its own in it that shares nothing; and
 * makes the folder for their applications, which may still be ending when the last test is over.
 */
export default async (project: TestProject): Promise<() => Promise<void>> => {
  const folder = makeFolder()
  const browser = await launch(folder)
  project.provide('chromium', browser.wsEndpoint())
  project.provide('folder', folder)
  return async () => {
    await browser.close()
    for (const app of readdirSync(folder)) endApp(join(folder, app))
    const isRunning = () => readdirSync(folder).some((f) => existsSync(join(folder, f, 'lock')))
    for (const end = Date.now() + LONGEST_END_MS; isRunning() && Date.now() < end; )
      await new Promise((resolve) => setTimeout(resolve, 100))
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
  }
}

import { existsSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { type Grounds, launch, makeFolder } from './grounds'

declare module 'vitest' {
  interface ProvidedContext extends Grounds {}
}

const LONGEST_END_MS = 20_000

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
    const isRunning = () => readdirSync(folder).some((f) => existsSync(join(folder, f, 'lock')))
    for (const end = Date.now() + LONGEST_END_MS; isRunning() && Date.now() < end; )
      await new Promise((resolve) => setTimeout(resolve, 100))
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
  }
}

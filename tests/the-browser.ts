import { chmodSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer from 'puppeteer-core'
import type { TestProject } from 'vitest/node'

declare module 'vitest' {
  interface ProvidedContext {
    /** Where the browser that all files share is spoken with. */
    readonly chromium: string
    /** Where applications keep their data. */
    readonly folder: string
  }
}

const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // Each window would load pages of the browser's own for its address bar, which costs as much as Clavik's.
  '--disable-features=WebUIOmniboxPopup,WebUIOmniboxAimPopup,WebUIOmniboxFullPopup',
]

const LONGEST_END_MS = 20_000

/**
 * Starts one real browser for all files of tests, each of which opens a context of its own in it that shares nothing; and
 * makes the folder for their applications, which may still be ending when the last test is over.
 */
export default async (project: TestProject): Promise<() => Promise<void>> => {
  const folder = mkdtempSync(join(tmpdir(), 'clavik-test-'))
  // The database's own user passes through to its data.
  chmodSync(folder, 0o711)
  const browser = await puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    headless: true,
    userDataDir: join(folder, 'browser'),
    args: flags,
  })
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

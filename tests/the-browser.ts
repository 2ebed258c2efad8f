import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer from 'puppeteer-core'
import type { TestProject } from 'vitest/node'

declare module 'vitest' {
  interface ProvidedContext {
    /** Where the browser that all files share is spoken with. */
    readonly chromium: string
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
]

/** Starts one real browser for all files of tests; each opens a context of its own in it, which shares nothing. */
export default async (project: TestProject): Promise<() => Promise<void>> => {
  const profile = mkdtempSync(join(tmpdir(), 'clavik-browser-'))
  const browser = await puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    headless: true,
    userDataDir: profile,
    args: flags,
  })
  project.provide('chromium', browser.wsEndpoint())
  return async () => {
    await browser.close()
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 })
  }
}

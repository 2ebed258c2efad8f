import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer, { type Browser } from 'puppeteer-core'

/** What all files of tests share. */
export interface Grounds {
  /** Where the browser is spoken with. */
  readonly chromium: string
  /** Where applications keep their data. */
  readonly folder: string
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

/** A folder through which the database's own user passes to its data. */
export const makeFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'clavik-test-'))
  chmodSync(folder, 0o711)
  return folder
}

/** A real browser, with what it keeps in such a folder. */
export const launch = (folder: string): Promise<Browser> =>
  puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    headless: true,
    userDataDir: join(folder, 'browser'),
    args: flags,
    defaultViewport: null,
  })

let shared: Grounds | null = null
let ownFolder: string | null = null
let browser: Promise<Browser> | null = null

/** Those that a runner has made for all its files; whoever runs without one, as a bench does, has its own. */
export const share = (grounds: Grounds): void => {
  shared = grounds
}

export const folderForData = (): string => {
  if (shared) return shared.folder
  ownFolder ??= makeFolder()
  return ownFolder
}

export const theBrowser = (): Promise<Browser> => {
  browser ??= shared
    ? puppeteer.connect({ browserWSEndpoint: shared.chromium, defaultViewport: null })
    : launch(folderForData())
  return browser
}

/** Ends a browser of one's own, and removes what was kept. */
export const leaveGrounds = async (): Promise<void> => {
  if (shared) return
  await (await browser)?.close()
  if (ownFolder !== null) rmSync(ownFolder, { recursive: true, force: true, maxRetries: 5 })
  browser = null
  ownFolder = null
}

import { linkSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'

/** Whether a process runs that was begun as this program: its number alone may have been given to another since. */
export const isRunning = (pid: number, program: string): boolean => {
  try {
    process.kill(pid, 0)
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(program)
  } catch {
    return false
  }
}

/** A lock that was taken, with how it is given up; or the process that holds it. */
export type Lock = { readonly giveUp: () => void } | { readonly holder: number }

/** What stands in a file; null where there is none any more. */
const textOf = (file: string): string | null => {
  try {
    return readFileSync(file, 'utf8')
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null
    throw error
  }
}

/** Whether this was done; not, where what it is done to has been there or gone already. */
const done = (act: () => void): boolean => {
  try {
    act()
    return true
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    if (code === 'EEXIST' || code === 'ENOENT') return false
    throw error
  }
}

/** Takes away what a holder that is gone has left; if another has taken the lock just then, it gets it back. */
const clear = (file: string, left: string, aside: string): void => {
  if (!done(() => renameSync(file, aside))) return
  if (textOf(aside) !== left) done(() => linkSync(aside, file))
  rmSync(aside, { force: true })
}

/** Takes a lock that is a file with the number of its holder. One whose holder, a program of that name, is gone counts for nothing. */
export const takeLock = (file: string, program: string): Lock => {
  const mine = `${file}.${process.pid}`
  writeFileSync(mine, String(process.pid))
  try {
    for (;;) {
      // Put there by one of two that come at the same moment, never by both, and never without its number.
      if (done(() => linkSync(mine, file))) return { giveUp: () => rmSync(file, { force: true }) }
      const text = textOf(file)
      if (text === null) continue
      const holder = Number(text) || 0
      if (holder > 0 && holder !== process.pid && isRunning(holder, program)) return { holder }
      clear(file, text, `${mine}.left`)
    }
  } finally {
    rmSync(mine, { force: true })
  }
}

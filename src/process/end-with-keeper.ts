import { fstatSync } from 'node:fs'

/** Whether somebody holds the other end of this process's input; a terminal, or nothing at all, is no keeper. */
const hasKeeper = (): boolean => {
  try {
    const input = fstatSync(0)
    return input.isFIFO() || input.isSocket()
  } catch {
    return false
  }
}

/** Ends a process when the one that keeps it is gone: the end of its input is the end of its keeper, however that came. */
export const endWithKeeper = (stop: () => void): void => {
  if (!hasKeeper()) return
  const { stdin } = process
  stdin.on('end', stop)
  stdin.on('error', stop)
  stdin.resume()
  // It is listened to, but keeps nobody from ending.
  ;(stdin as unknown as { unref?: () => void }).unref?.()
}

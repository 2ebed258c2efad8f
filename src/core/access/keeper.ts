/**
 * Ends a process when the one that keeps it is gone: the end of its input is the end of its keeper, however that came.
 * Without a keeper (a terminal, a test) nothing happens.
 */
export const endWithKeeper = (stop: () => void): void => {
  const { stdin } = process
  if (stdin.isTTY) return
  stdin.on('end', stop)
  stdin.on('error', stop)
  stdin.resume()
  // It is listened to, but keeps nobody from ending.
  ;(stdin as unknown as { unref?: () => void }).unref?.()
}

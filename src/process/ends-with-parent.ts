import { spawnSync } from 'node:child_process'

/**
 * A command that the kernel ends with the given signal when whoever started it is gone, for programs of others that have
 * no ear for their keeper. Where the system has no such thing, the command as it is.
 */
export const endsWithParent = (
  signal: 'INT' | 'KILL',
  command: string,
  args: readonly string[],
): readonly [string, string[]] => {
  const tried = spawnSync('setpriv', ['--pdeathsig', signal, 'true'])
  return tried.status === 0 ? ['setpriv', ['--pdeathsig', signal, command, ...args]] : [command, [...args]]
}

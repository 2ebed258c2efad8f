/** Something a person has to know or do, in one plain sentence. */
export class PlainProblem extends Error {}

export const say = (text: string): void => {
  process.stdout.write(`${text}\n`)
}

/** An error as one plain sentence. */
export const inWords = (error: unknown): string => {
  if (error instanceof PlainProblem) return error.message
  const { code, message, path } = error as NodeJS.ErrnoException
  if (code === 'ENOSPC')
    return `The disk is full${path ? ` (${path})` : ''}; free some space and start again.`
  if (code === 'EACCES' || code === 'EPERM')
    return `Not allowed to write ${path ?? 'the data folder'}; choose another with --data.`
  return message ?? String(error)
}

import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

/** A file of this project by its path in it, from wherever what runs was put. */
export const ofProject = (path: string): string => {
  let folder = dirname(fileURLToPath(import.meta.url))
  while (!existsSync(join(folder, path))) {
    const above = dirname(folder)
    if (above === folder) throw new Error(`${path} is not there`)
    folder = above
  }
  return join(folder, path)
}

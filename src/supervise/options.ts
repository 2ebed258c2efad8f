import { resolve } from 'node:path'
import { PlainProblem } from './say'

export interface Options {
  readonly port: number
  readonly dataDir: string
  readonly fresh: boolean
  /** A database that is thrown away afterwards need not survive a power cut. */
  readonly throwaway: boolean
  /** Where serial ports are looked for beside the system's own. */
  readonly portFolders: readonly string[]
  /** Paired devices in the house may show screens. */
  readonly lan: boolean
}

const usage = 'Usage: bin/start [--port 4310] [--data DIR] [--ports DIR] [--fresh] [--lan]'

export const readOptions = (args: readonly string[], root: string): Options => {
  let port = 4310
  let dataDir = resolve(root, '.data')
  let fresh = false
  let throwaway = false
  let lan = false
  const portFolders: string[] = []
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]
    if (arg === '--port') {
      port = Number(args[++i])
      if (!Number.isInteger(port) || port < 1 || port > 65535)
        throw new PlainProblem(`--port takes a number from 1 to 65535. ${usage}`)
    } else if (arg === '--data') {
      const dir = args[++i]
      if (!dir) throw new PlainProblem(`--data takes a folder. ${usage}`)
      dataDir = resolve(dir)
    } else if (arg === '--ports') {
      const dir = args[++i]
      if (!dir) throw new PlainProblem(`--ports takes a folder in which serial ports are. ${usage}`)
      portFolders.push(resolve(dir))
    } else if (arg === '--fresh') fresh = true
    else if (arg === '--throwaway') throwaway = true
    else if (arg === '--lan') lan = true
    else throw new PlainProblem(`There is no option ${arg}. ${usage}`)
  }
  return { port, dataDir, fresh, throwaway, portFolders, lan }
}

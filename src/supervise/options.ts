import { resolve } from 'node:path'
import { PlainProblem } from './say'

export interface Options {
  readonly port: number
  readonly dataDir: string
  readonly fresh: boolean
  /** A database that is thrown away afterwards need not survive a power cut. */
  readonly throwaway: boolean
}

const usage = 'Usage: bin/start [--port 4310] [--data DIR] [--fresh]'

export const readOptions = (args: readonly string[], root: string): Options => {
  let port = 4310
  let dataDir = resolve(root, '.data')
  let fresh = false
  let throwaway = false
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
    } else if (arg === '--fresh') fresh = true
    else if (arg === '--throwaway') throwaway = true
    else throw new PlainProblem(`There is no option ${arg}. ${usage}`)
  }
  return { port, dataDir, fresh, throwaway }
}

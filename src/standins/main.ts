import { readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import { endWithKeeper } from '../process/end-with-keeper'
import { type Memories, serveStandins } from './standin-server'

const settings = z.object({
  dataDir: z.string(),
  handPort: z.number().int(),
  secret: z.string(),
})

const given = settings.parse(JSON.parse(process.env.CLAVIK_STANDINS ?? '{}'))
const file = join(given.dataDir, 'standins.json')

/** What the boards hold in their own memory, as a real board would through a power cut. */
const remembered = (): Memories => {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Memories
  } catch {
    return {}
  }
}

let kept = ''
const keep = (memories: Memories) => {
  const text = JSON.stringify(memories)
  if (text === kept) return
  try {
    writeFileSync(`${file}.new`, text)
    renameSync(`${file}.new`, file)
    kept = text
  } catch (error) {
    process.stderr.write(`stand-ins: cannot keep what the boards hold: ${(error as Error).message}\n`)
  }
}

const server = serveStandins({ port: given.handPort, secret: given.secret }, remembered(), keep)
server.on('error', (error) => {
  process.stderr.write(`stand-ins: ${error.message}\n`)
  process.exit(1)
})
process.on('uncaughtException', (error) => {
  process.stderr.write(`stand-ins: unexpected, going on: ${error.stack}\n`)
})
process.on('SIGTERM', () => process.exit(0))
process.on('SIGINT', () => process.exit(0))
endWithKeeper(() => process.exit(0))
process.stdout.write('stand-ins ready\n')

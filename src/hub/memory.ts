import { readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { emptyRig, type Rig } from '../core/rig/rig'
import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'

/** What the hub keeps by itself, so that a cockpit comes up as it was even while the database is away. */
export interface Memory {
  armed: boolean
  /** What each proven binding's proof rested on. */
  proven: Record<string, string>
  rig: { id: string; rig: Rig; revision: number; setAside: readonly string[] } | null
  catalogue: SimulatorCatalogue | null
}

const fresh = (): Memory => ({ armed: true, proven: {}, rig: null, catalogue: null })

/** The hub's small file. Writing is put off a little and never fails a flight. */
export class MemoryFile {
  readonly memory: Memory
  private readonly file: string
  private timer: NodeJS.Timeout | null = null

  constructor(dataDir: string) {
    this.file = join(dataDir, 'hub.json')
    this.memory = this.read()
  }

  private read(): Memory {
    try {
      const memory = { ...fresh(), ...(JSON.parse(readFileSync(this.file, 'utf8')) as Partial<Memory>) }
      // A rig kept by an older Clavik lacks the tables that came later.
      if (memory.rig) memory.rig = { ...memory.rig, rig: { ...emptyRig(), ...memory.rig.rig } }
      return memory
    } catch {
      return fresh()
    }
  }

  keep(): void {
    this.timer ??= setTimeout(() => this.write(), 300)
  }

  write(): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    try {
      writeFileSync(`${this.file}.new`, JSON.stringify(this.memory))
      renameSync(`${this.file}.new`, this.file)
    } catch (error) {
      process.stderr.write(`hub: cannot keep its state: ${(error as Error).message}\n`)
    }
  }
}

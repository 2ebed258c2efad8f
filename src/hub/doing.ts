import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import type { Diff } from '../core/rig/edit'
import { compiledTables } from './kept-rig'

const note = z.object({
  sentence: z.string(),
  /** What it touched of that which is compiled. */
  ids: z.array(z.string()),
  /** How often the hub has ended while it did this. */
  times: z.number().int(),
})
type Note = z.infer<typeof note>

/**
 * What the hub is taking in just now, in a small file: when the process ends or hangs meanwhile, the next one knows what
 * it was. Done once, it may have been chance; done again, it is set aside.
 */
export class Doing {
  private readonly file: string
  private left: Note | null

  constructor(dataDir: string) {
    this.file = join(dataDir, 'hub.doing')
    this.left = this.read()
    if (this.left) this.write({ ...this.left, times: this.left.times + 1 })
  }

  private read(): Note | null {
    try {
      return note.parse(JSON.parse(readFileSync(this.file, 'utf8')))
    } catch {
      return null
    }
  }

  private write(what: Note): void {
    try {
      writeFileSync(this.file, JSON.stringify(what))
    } catch {
      // A full disk must not keep an edit from being taken.
    }
  }

  /** Rows that are left out because the hub ended more than once while it took them in, and the sentence for it. */
  get setAside(): { readonly ids: ReadonlySet<string>; readonly message: string } | null {
    const { left } = this
    if (!left || left.times < 1) return null
    return {
      ids: new Set(left.ids),
      message: `The hub stopped twice while it took in “${left.sentence}”; what that changed is left out and the rest runs. Change or undo it, and it is tried again.`,
    }
  }

  /** Does some work; if the process ends meanwhile, it is known what it was. */
  during(sentence: string, diff: Diff, work: () => void): void {
    const ids = diff.filter((c) => compiledTables.includes(c.table)).map((c) => c.id)
    // What was left out is touched again: it is tried again.
    if (this.left?.ids.some((id) => ids.includes(id))) this.left = null
    if (ids.length === 0) {
      work()
      return
    }
    this.write({ sentence, ids, times: 0 })
    work()
    if (this.left) this.write(this.left)
    else this.done()
  }

  private done(): void {
    rmSync(this.file, { force: true })
  }

  /** All has been taken in that was there at the start. */
  started(): void {
    if (this.setAside === null) {
      this.left = null
      this.done()
    } else if (this.left) this.write(this.left)
  }
}

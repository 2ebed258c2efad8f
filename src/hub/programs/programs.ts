import type { ProgramState } from '../../core/programs/programs'
import type { Trouble } from '../lines/line'
import { type FoundChip, probe } from './probe'
import { type WriteStep, writeProgram } from './write'

/** How long a board has to say hello after its program was written: it starts anew, and so may its port. */
const START_MS = 8000

export interface ProgramSurroundings {
  /** Takes a port from whoever has it; what is given back lets them have it again. */
  readonly take: (path: string) => () => void
  /** Asks who answers on a port. */
  readonly ask: (path: string) => void
  /** Whether a board has answered on a port. */
  readonly answers: (path: string) => boolean
  readonly changed: () => void
}

/** What asks a chip and writes to it; others in tests. */
export interface Tools {
  readonly probe: (path: string) => Promise<FoundChip | Trouble>
  readonly write: (
    path: string,
    found: FoundChip,
    progress: (at: WriteStep, share: number) => void,
  ) => Promise<Trouble | null>
}

/** Programs that are being written to boards, one at a time on each port. */
export class Programs {
  private readonly states = new Map<string, ProgramState>()

  constructor(
    private readonly around: ProgramSurroundings,
    private readonly tools: Tools = { probe, write: writeProgram },
  ) {}

  stateOf(path: string): ProgramState | null {
    return this.states.get(path) ?? null
  }

  /** Whether a port is in the hands of whoever writes. */
  isBusy(path: string): boolean {
    const at = this.states.get(path)?.at
    return at === 'asking' || at === 'writing' || at === 'verifying'
  }

  private be(path: string, state: ProgramState): void {
    this.states.set(path, state)
    this.around.changed()
  }

  /** What came of it has been read; or the port is gone. */
  forget(path: string): void {
    if (!this.isBusy(path) && this.states.delete(path)) this.around.changed()
  }

  async load(path: string): Promise<void> {
    const at = this.states.get(path)?.at
    if (this.isBusy(path) || at === 'starting') return
    this.be(path, { at: 'asking' })
    const giveBack = this.around.take(path)
    const failed = (chip: string | null, { problem, cure }: Trouble) => {
      const now = this.states.get(path)?.at
      const during = now === 'writing' || now === 'verifying' || now === 'starting' ? now : 'asking'
      this.be(path, { at: 'failed', during, chip, problem, cure: cure ?? 'Try again.' })
    }
    try {
      const found = await this.tools.probe(path)
      if ('problem' in found) {
        failed(null, found)
        return
      }
      const chip = found.chip.name
      this.be(path, { at: 'writing', chip, share: 0 })
      const problem = await this.tools.write(path, found, (step, share) =>
        this.be(path, { at: step, chip, share }),
      )
      if (problem) {
        failed(chip, problem)
        return
      }
      this.be(path, { at: 'starting', chip })
      giveBack()
      await this.waitFor(path, chip)
    } catch (error) {
      failed(null, { problem: `it could not be written: ${(error as Error).message}`, cure: 'Try again.' })
    } finally {
      giveBack()
    }
  }

  private async waitFor(path: string, chip: string): Promise<void> {
    for (const end = performance.now() + START_MS; performance.now() < end; ) {
      this.around.ask(path)
      await new Promise((resolve) => setTimeout(resolve, 100))
      if (!this.around.answers(path)) continue
      this.be(path, { at: 'done', chip })
      return
    }
    this.be(path, {
      at: 'failed',
      during: 'starting',
      chip,
      problem: 'it was written and read back, but does not answer',
      cure: 'Press its reset button, or pull the cable out and plug it in, and ask it.',
    })
  }
}

import type { Standing, What } from './moment'

/** How everything stands, as moments pass. */
export class StandingNow {
  private armed: boolean
  private craftSet: string | null
  private readonly up: Set<number>
  private readonly quiet: Set<number>
  private readonly boards: Set<string>
  private readonly controls: Map<string, Standing['controls'][number]>

  constructor({ armed, craftSet = null, up, quiet, boards, controls }: Standing) {
    this.armed = armed
    this.craftSet = craftSet
    this.up = new Set(up)
    this.quiet = new Set(quiet)
    this.boards = new Set(boards)
    this.controls = new Map(controls.map((c) => [JSON.stringify([c[0], c[1]]), c]))
  }

  take(m: What): void {
    switch (m.is) {
      case 'report':
        this.controls.set(JSON.stringify([m.partId, m.aspectId]), [m.partId, m.aspectId, m.value])
        break
      case 'source':
        put(this.up, m.source, m.up)
        break
      case 'quiet':
        put(this.quiet, m.source, m.quiet)
        break
      case 'board':
        put(this.boards, m.boardId, m.up)
        break
      case 'arm':
        this.armed = m.armed
        break
      case 'craft set':
        this.craftSet = m.set
        break
    }
  }

  now(): Standing {
    return {
      armed: this.armed,
      ...(this.craftSet === null ? {} : { craftSet: this.craftSet }),
      up: [...this.up],
      quiet: [...this.quiet],
      boards: [...this.boards],
      controls: [...this.controls.values()],
    }
  }
}

const put = <T>(set: Set<T>, member: T, is: boolean): void => {
  if (is) set.add(member)
  else set.delete(member)
}

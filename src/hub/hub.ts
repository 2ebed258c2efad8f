import { Engine } from '../core/engine/engine'
import type { Effect, Input } from '../core/engine/input'
import { partsTouched } from '../core/engine/parts-touched'
import { wantedConfiguration } from '../core/harness/configuration'
import { BLANK, emptyConfiguration } from '../core/harness/slot'
import type { FromHub, Status, ToHub } from '../core/live/feed'
import { apply } from '../core/rig/edit'
import { emptyRig, type Rig } from '../core/rig/rig'
import type { HistoryEntry } from '../store/edit-store'
import type { LoadedRig } from '../store/rig-store'
import { BoardClient } from './board-client'
import type { BoardTalk } from './board-talk'
import type { Doing } from './doing'
import { DrawnBoards } from './drawn-boards'
import { Feed } from './feed'
import { HandClient } from './hand-client'
import { HubStatus } from './hub-status'
import { soundRows, without } from './kept-rig'
import type { MemoryFile } from './memory'
import { operate } from './operate'
import { Proofs } from './proofs'
import { hangingOf, resolder } from './resolder'
import { SimulatorClient } from './simulator-client'
import type { Tab } from './tab'

export interface HubPorts {
  readonly craft: number
  readonly hand: number
  /** What the stand-ins ask for before they let anybody's hands on. */
  readonly secret: string
  readonly boards: readonly number[]
}

const now = () => performance.now()
/** A check that comes so late was kept from running, with all that it would have noticed. */
const LATE_MS = 500

/** Owns everything that must be quick: links, engine, live feed. It works on when the database or a tab is gone. */
export class Hub {
  readonly engine = new Engine()
  readonly simulator: SimulatorClient
  readonly boards: BoardClient[]
  readonly hands: HandClient
  database: 'up' | 'down' = 'down'
  private rigId: string | null = null
  private revision = 0
  private setAside: readonly string[] = []
  private rowsAside: readonly string[] = []
  /** The rig as it is drawn; the engine's may lack what is set aside. */
  private whole: Rig = emptyRig()
  private readonly tabs = new Set<Tab>()
  private toldStatus = ''
  private readonly feed: Feed
  private readonly statusOf: HubStatus
  private wake: NodeJS.Timeout | null = null
  private wakeAt = Number.POSITIVE_INFINITY
  private readonly ticks: NodeJS.Timeout[] = []
  private checkedAt = now()
  private readonly drawnBoards: DrawnBoards
  private readonly proofs: Proofs

  constructor(
    ports: HubPorts,
    private readonly file: MemoryFile,
    private readonly doing: Doing,
  ) {
    const { memory } = file
    this.simulator = new SimulatorClient(ports.craft, {
      described: (catalogue) => {
        memory.catalogue = catalogue
        file.keep()
        this.step({ is: 'catalogue', catalogue })
        this.subscribe(true)
        this.tell({ say: 'catalogue', catalogue })
        for (const tab of this.tabs) tab.missed = true
      },
      up: (up) => {
        this.step({ is: 'simulator', up })
        this.tellStatus()
      },
      quiet: (quiet) => this.step({ is: 'quiet', quiet }),
      frame: (indexes, values) => this.step({ is: 'frame', indexes, values }),
      answer: (request, problem) => this.step({ is: 'answer', request, problem }),
    })
    this.boards = ports.boards.map((port) => this.clientOn(port))
    this.hands = new HandClient(
      ports.hand,
      ports.secret,
      () => this.drawnBoards.solderAnew(this.engine.rig),
      (identity, port) => this.simulatedOn(identity, port),
    )
    this.drawnBoards = new DrawnBoards(this.boards, this.hands)
    this.proofs = new Proofs(file)
    this.feed = new Feed(this.engine, this.hands)
    this.statusOf = new HubStatus(this.engine, this.simulator, this.boards, this.hands)
    if (memory.catalogue) this.step({ is: 'catalogue', catalogue: memory.catalogue })
    this.takeKept()
    this.step({ is: 'arm', armed: memory.armed })
  }

  /** Begins with what it had kept. Whatever is wrong with that is no reason not to start: it is left out, and named. */
  private takeKept(): void {
    const { memory } = this.file
    if (!memory.rig) return
    const { id, rig, revision, setAside } = memory.rig
    try {
      const sound = soundRows(rig)
      this.takeWhole(id, sound.rig, revision, [...setAside, ...sound.left])
    } catch (error) {
      process.stderr.write(`hub: the rig it had kept cannot be taken: ${(error as Error).stack}\n`)
      memory.rig = null
      this.setAside = [
        `The rig that the hub had kept cannot be taken (${(error as Error).message}); it waits for that of the database.`,
      ]
    }
  }

  /** A board that may answer on this port, and what comes of what it says. */
  private clientOn(port: number): BoardClient {
    return new BoardClient(port, {
      changed: (board) => this.boardChanged(board),
      report: (board, slot, value) => {
        const boardId = this.drawnBoards.drawn(board.identity)
        if (boardId === null) return
        this.tellOperated(boardId, slot, value)
        this.step({ is: 'report', boardId, slot, value })
      },
      shown: (board, shown) => {
        const boardId = this.drawnBoards.drawn(board.identity)
        if (boardId !== null) this.step({ is: 'shown', boardId, shown })
      },
      drawn: (board) => this.drawnBoards.drawn(board.identity) !== null,
    })
  }

  /** A simulated board has come on a port, or one has been put away. */
  private simulatedOn(identity: string, port: number): void {
    if (port === 0) {
      const gone = this.boards.find((b) => b.identity === identity)
      if (!gone) return
      this.boards.splice(this.boards.indexOf(gone), 1)
      gone.close()
      gone.lost('it has been put away')
    } else if (!this.boards.some((b) => b.port === port)) {
      const client = this.clientOn(port)
      this.boards.push(client)
      client.open()
    }
    this.tellStatus()
  }

  open(): void {
    this.simulator.open()
    for (const b of this.boards) b.open()
    this.hands.open()
    this.ticks.push(
      setInterval(() => this.check(), 100),
      setInterval(() => this.feed.run(this.tabs), 33),
    )
  }

  close(): void {
    for (const t of this.ticks) clearInterval(t)
    if (this.wake) clearTimeout(this.wake)
    this.simulator.close()
    for (const b of this.boards) b.close()
    this.hands.close()
    this.file.write()
  }

  // --- engine -------------------------------------------------------------------------------------------------

  private step(input: Input): void {
    this.carryOut(this.engine.step(input, now()))
  }

  private carryOut(effects: readonly Effect[]): void {
    for (const e of effects) {
      switch (e.is) {
        case 'set':
          this.simulator.set(e.request, e.variable, e.value)
          break
        case 'event':
          this.simulator.event(e.request, e.event, e.value)
          break
        case 'output':
          this.drawnBoards.client(e.boardId)?.outputs(e.outputs, e.batch)
          break
        case 'proven':
          this.prove(e.bindingId)
          break
        case 'wake':
          this.planWake(e.at)
          break
      }
    }
  }

  private planWake(at: number): void {
    if (this.wake && this.wakeAt <= at) return
    if (this.wake) clearTimeout(this.wake)
    this.wakeAt = at
    this.wake = setTimeout(
      () => {
        this.wake = null
        this.step({ is: 'time' })
      },
      Math.max(0, at - now()),
    )
  }

  private prove(bindingId: string): void {
    if (this.proofs.note(this.engine.rig, bindingId))
      this.tell({ say: 'proof', proof: { [bindingId]: 'proven' } })
  }

  // --- rig ----------------------------------------------------------------------------------------------------

  takeLoaded(loaded: LoadedRig): void {
    // Another cockpit: what this one holds is let go, and nothing flows until the builder says so.
    if (this.rigId !== null && this.rigId !== loaded.id) this.arm(false)
    const setAside = loaded.setAside.map((s) => s.message)
    this.takeWhole(loaded.id, loaded.rig, loaded.revision, setAside)
    this.doing.started()
    this.remember()
  }

  /** Lets everything flow, or lets go of it; kept for the next start. */
  private arm(armed: boolean): void {
    this.file.memory.armed = armed
    this.file.keep()
    this.step({ is: 'arm', armed })
    this.tellStatus()
  }

  private takeWhole(rigId: string, rig: Rig, revision: number, setAside: readonly string[]): void {
    this.rigId = rigId
    this.revision = revision
    this.whole = rig
    const left = this.doing.setAside
    this.rowsAside = setAside
    this.setAside = left ? [...setAside, left.message] : setAside
    this.step({ is: 'rig', rig: without(rig, left?.ids ?? new Set()), diff: null })
    this.drawnBoards.match(rig)
    this.drawnBoards.solder(rig)
    this.subscribe(false)
    for (const b of this.boards) if (b.up) this.boardChanged(b)
    this.tell(this.rigMessage())
    this.tell({ say: 'proof', proof: this.proofs.of(rig) })
  }

  takeEdit(entry: HistoryEntry): void {
    if (this.doing.setAside !== null) {
      // Something is left out: what is to be tried again is tried with the whole.
      this.doing.during(entry.sentence, entry.diff, () =>
        this.takeWhole(this.rigId ?? '', apply(this.whole, entry.diff), entry.revision, this.rowsAside),
      )
      this.remember()
      return
    }
    this.doing.during(entry.sentence, entry.diff, () => this.takeEditIn(entry))
  }

  private takeEditIn(entry: HistoryEntry): void {
    const before = this.engine.rig
    const after = apply(before, entry.diff)
    this.whole = after
    const touched = partsTouched(before, after, entry.diff)
    const hung = hangingOf(this.engine, touched ?? [])
    this.revision = entry.revision
    this.step({ is: 'rig', rig: after, diff: entry.diff })
    if (entry.diff.some((c) => c.table === 'board')) this.drawnBoards.match(after)
    if (entry.diff.some((c) => c.table === 'lead' || c.table === 'expander' || c.table === 'board')) {
      this.drawnBoards.solder(after)
      resolder(this.hands, hung, hangingOf(this.engine, touched ?? []))
    }
    this.subscribe(false)
    const { editId, sentence, diff, revision } = entry
    this.tell({ say: 'edit', revision, editId, sentence, diff })
    this.tell({ say: 'proof', proof: this.proofs.of(after, touched) })
    if (diff.some((c) => c.table === 'board')) for (const b of this.boards) if (b.up) this.boardChanged(b)
    this.tellStatus()
    this.remember()
  }

  private remember(): void {
    if (this.rigId === null) return
    const rig = this.whole
    this.file.memory.rig = { id: this.rigId, rig, revision: this.revision, setAside: this.setAside }
    this.file.keep()
  }

  private rigMessage(): FromHub {
    return {
      say: 'rig',
      rigId: this.rigId,
      rig: this.whole,
      revision: this.revision,
      setAside: this.setAside,
    }
  }

  // --- boards -------------------------------------------------------------------------------------------------

  private boardChanged(client: BoardTalk): void {
    this.drawnBoards.match(this.engine.rig)
    const boardId = this.drawnBoards.drawn(client.identity)
    if (boardId !== null) {
      this.step({
        is: 'board',
        boardId,
        up: client.up,
        loaded: client.up ? client.holds : emptyConfiguration,
        boot: client.boot ?? 0,
        bytesPerS: client.limits?.bytesPerS ?? 0,
      })
      // A board that holds nothing yet has nothing to lose: it is loaded without asking.
      if (client.up && client.fingerprint === BLANK) void this.load(boardId)
    }
    this.tellStatus()
  }

  /** Takes tabs that follow to the part that was operated; what a board tells when it comes back is no operation. */
  private tellOperated(boardId: string, slot: number, value: number): void {
    const seat = this.engine.boards.get(boardId)?.owners.get(slot)
    if (seat?.is !== 'control' || seat.raw === null || seat.raw === value) return
    const partId = seat.unit.part.id
    for (const tab of this.tabs) if (tab.follows) tab.send({ say: 'operated', partId })
  }

  private async load(boardId: string): Promise<void> {
    const client = this.drawnBoards.client(boardId)
    const name = this.engine.rig.board[boardId]?.name ?? 'The board'
    if (!client) {
      this.tell({ say: 'problem', message: `${name} is not connected; nothing was loaded.` })
      return
    }
    const wanted = wantedConfiguration(this.engine.rig, boardId)
    if (wanted.slots.length === 0 && client.fingerprint === BLANK) return
    const problem = await client.load(wanted)
    if (problem !== null) {
      this.tell({
        say: 'problem',
        message: `${name} was not loaded: ${problem}. It keeps what it held before.`,
      })
    }
    this.tellStatus()
  }

  // --- status and feed ----------------------------------------------------------------------------------------

  private check(): void {
    const t = now()
    const late = t - this.checkedAt > LATE_MS
    this.checkedAt = t
    if (late) {
      this.simulator.excuse(t)
      for (const b of this.boards) b.excuse(t)
    }
    this.simulator.check(t)
    for (const b of this.boards) b.check(t)
    this.tellStatus()
  }

  status(): Status {
    return this.statusOf.now(this.database)
  }

  private tellStatus(): void {
    const status = this.status()
    const text = JSON.stringify(status)
    if (text === this.toldStatus) return
    this.toldStatus = text
    this.tell({ say: 'status', status })
  }

  private tell(message: FromHub): void {
    const text = JSON.stringify(message)
    for (const tab of this.tabs) tab.line.send(text)
  }

  /** Asks the simulator for what is bound, or for everything while a tab looks at everything. */
  private subscribe(anew: boolean): void {
    const all = [...this.tabs].some((t) => t.watchesAll)
    this.simulator.subscribe(all ? 'all' : [...this.engine.variablesInUse()].sort((a, b) => a - b), anew)
  }

  join(tab: Tab): void {
    this.tabs.add(tab)
    tab.send(this.rigMessage())
    tab.send({ say: 'catalogue', catalogue: this.engine.variables.index.catalogue })
    tab.send({ say: 'status', status: this.status() })
    tab.send({ say: 'proof', proof: this.proofs.of(this.engine.rig) })
  }

  leave(tab: Tab): void {
    this.tabs.delete(tab)
    this.subscribe(false)
  }

  hear(tab: Tab, m: ToHub): void {
    switch (m.say) {
      case 'select':
        tab.selected = m.partId
        tab.toldTrace = ''
        if (m.partId !== null) tab.fresh.parts.add(m.partId)
        break
      case 'watch':
        tab.watchesAll = m.all
        tab.missed = true
        this.subscribe(false)
        break
      case 'show':
        tab.show(m.subject, m.parts)
        break
      case 'values':
        tab.showValues(m.names.flatMap((n) => this.engine.variables.index.variable.get(n) ?? []))
        break
      case 'agreements':
        tab.wantsAgreements = m.on
        tab.missed = true
        break
      case 'operate':
        this.complain(tab, operate(this.engine, this.hands, m.partId, m.aspectId, m.movement))
        break
      case 'arm':
        this.arm(m.armed)
        break
      case 'load':
        void this.load(m.boardId)
        break
      case 'exercise':
        this.step({ is: 'exercise', partIds: m.partIds, how: m.how })
        break
      case 'settle':
        this.step({ is: 'settle', partIds: m.partIds })
        break
      case 'simulate':
        if (!this.hands.up)
          this.complain(tab, 'The stand-ins are away, so nothing can be simulated just now.')
        else if (m.on) this.hands.send({ say: 'simulate', identity: m.identity, model: m.model })
        else this.hands.send({ say: 'put away', identity: m.identity })
        break
      case 'follow':
        tab.follows = m.on
        break
    }
  }

  private complain(tab: Tab, problem: string | null): void {
    if (problem !== null) tab.send({ say: 'problem', message: problem })
  }
}

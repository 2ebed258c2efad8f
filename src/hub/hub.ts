import { agreement } from '../core/engine/agreement'
import { Engine, partsTouched } from '../core/engine/engine'
import type { Effect, Input } from '../core/engine/input'
import { proofBasis } from '../core/engine/proof'
import { type TraceRow, trace } from '../core/engine/trace'
import { positionOf, type Unit } from '../core/engine/unit'
import { BLANK, differingParts, isWired, type Slot, wantedSlots } from '../core/harness/configuration'
import type { BoardStatus, FromHub, PartLive, ProofState, Status, ToHub } from '../core/live/feed'
import { apply } from '../core/rig/edit'
import { boardsOf, type Rig, rowsOf } from '../core/rig/rig'
import type { HistoryEntry } from '../store/edit-store'
import type { LoadedRig } from '../store/rig-store'
import { BoardClient } from './board-client'
import { HandClient } from './hand-client'
import type { MemoryFile } from './memory'
import { SimulatorClient } from './simulator-client'

export interface HubPorts {
  readonly craft: number
  readonly hand: number
  readonly boards: readonly number[]
}

/** One open tab, as the hub sees it. */
export interface Tab {
  readonly send: (message: FromHub) => void
  selected: string | null
  watchesAll: boolean
  watchesPaths: boolean
  toldParts: Map<string, string>
  toldTrace: string
  toldPaths: Map<string, string>
  toldValues: Map<number, number | string | null>
}

interface Comparison {
  readonly differing: readonly string[]
  readonly loaded: boolean
}
const nothingCompared: Comparison = { differing: [], loaded: false }

/** The table of all paths is told once in so many turns of the feed. */
const FEEDS_A_PATHS = 4

const now = () => performance.now()

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
  private readonly tabs = new Set<Tab>()
  private toldStatus = ''
  private feeds = 0
  private readonly compared = new Map<string, Comparison & { rig: Rig; slots: readonly Slot[] }>()
  private wake: NodeJS.Timeout | null = null
  private wakeAt = Number.POSITIVE_INFINITY
  private readonly ticks: NodeJS.Timeout[] = []

  constructor(
    ports: HubPorts,
    private readonly file: MemoryFile,
  ) {
    const { memory } = file
    this.simulator = new SimulatorClient(ports.craft, {
      described: (catalogue) => {
        memory.catalogue = catalogue
        file.keep()
        this.step({ is: 'catalogue', catalogue })
        this.subscribe(true)
        this.tell({ say: 'catalogue', catalogue })
        for (const tab of this.tabs) tab.toldValues.clear()
      },
      up: (up) => {
        this.step({ is: 'simulator', up })
        this.tellStatus()
      },
      frame: (indexes, values) => this.step({ is: 'frame', indexes, values }),
      answer: (request, problem) => this.step({ is: 'answer', request, problem }),
    })
    this.boards = ports.boards.map(
      (port) =>
        new BoardClient(port, {
          changed: (board) => this.boardChanged(board),
          report: (board, slot, value) => {
            const boardId = this.drawnBoard(board.identity)
            if (boardId !== null) this.step({ is: 'report', boardId, slot, value })
          },
        }),
    )
    this.hands = new HandClient(ports.hand, () => {})
    if (memory.catalogue) this.step({ is: 'catalogue', catalogue: memory.catalogue })
    if (memory.rig) this.takeWhole(memory.rig.id, memory.rig.rig, memory.rig.revision, memory.rig.setAside)
    this.step({ is: 'arm', armed: memory.armed })
  }

  open(): void {
    this.simulator.open()
    for (const b of this.boards) b.open()
    this.hands.open()
    this.ticks.push(
      setInterval(() => this.check(), 100),
      setInterval(() => this.feed(), 33),
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
          this.clientOf(e.boardId)?.outputs(e.outputs)
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
    const basis = proofBasis(this.engine.rig, bindingId)
    const { proven } = this.file.memory
    if (basis === null || proven[bindingId] === basis) return
    proven[bindingId] = basis
    this.file.keep()
    this.tell({ say: 'proof', proof: { [bindingId]: 'proven' } })
  }

  /** How far each binding of the given parts, or of all, is proven. */
  private proof(partIds: ReadonlySet<string> | null = null): Record<string, ProofState> {
    const { rig } = this.engine
    const { proven } = this.file.memory
    return Object.fromEntries(
      rowsOf(rig, 'binding')
        .filter((b) => partIds === null || partIds.has(b.partId))
        .map((b) => {
          const basis = proven[b.id]
          return [
            b.id,
            basis === undefined ? 'not yet' : basis === proofBasis(rig, b.id) ? 'proven' : 'changed since',
          ]
        }),
    )
  }

  // --- rig ----------------------------------------------------------------------------------------------------

  takeLoaded(loaded: LoadedRig): void {
    const setAside = loaded.setAside.map((s) => s.message)
    this.takeWhole(loaded.id, loaded.rig, loaded.revision, setAside)
    this.remember()
  }

  private takeWhole(rigId: string, rig: Rig, revision: number, setAside: readonly string[]): void {
    this.rigId = rigId
    this.revision = revision
    this.setAside = setAside
    this.step({ is: 'rig', rig, diff: null })
    this.subscribe(false)
    for (const b of this.boards) if (b.up) this.boardChanged(b)
    this.tell(this.rigMessage())
    this.tell({ say: 'proof', proof: this.proof() })
  }

  takeEdit(entry: HistoryEntry): void {
    const before = this.engine.rig
    const after = apply(before, entry.diff)
    this.revision = entry.revision
    this.step({ is: 'rig', rig: after, diff: entry.diff })
    this.subscribe(false)
    const { editId, sentence, diff, revision } = entry
    this.tell({ say: 'edit', revision, editId, sentence, diff })
    this.tell({ say: 'proof', proof: this.proof(partsTouched(before, after, diff)) })
    if (diff.some((c) => c.table === 'board')) for (const b of this.boards) if (b.up) this.boardChanged(b)
    this.tellStatus()
    this.remember()
  }

  private remember(): void {
    if (this.rigId === null) return
    const { rig } = this.engine
    this.file.memory.rig = { id: this.rigId, rig, revision: this.revision, setAside: this.setAside }
    this.file.keep()
  }

  private rigMessage(): FromHub {
    return {
      say: 'rig',
      rigId: this.rigId,
      rig: this.engine.rig,
      revision: this.revision,
      setAside: this.setAside,
    }
  }

  // --- boards -------------------------------------------------------------------------------------------------

  private drawnBoard(identity: string): string | null {
    return rowsOf(this.engine.rig, 'board').find((b) => b.identity === identity)?.id ?? null
  }

  private clientOf(boardId: string): BoardClient | undefined {
    const identity = this.engine.rig.board[boardId]?.identity
    return this.boards.find((b) => b.up && b.identity === identity)
  }

  private boardChanged(client: BoardClient): void {
    const boardId = this.drawnBoard(client.identity)
    if (boardId !== null) {
      this.step({ is: 'board', boardId, up: client.up, loaded: client.up ? client.slots : [] })
      // A board that holds nothing yet has nothing to lose: it is loaded without asking.
      if (client.up && client.fingerprint === BLANK) void this.load(boardId)
    }
    this.tellStatus()
  }

  private async load(boardId: string): Promise<void> {
    const client = this.clientOf(boardId)
    const name = this.engine.rig.board[boardId]?.name ?? 'The board'
    if (!client) {
      this.tell({ say: 'problem', message: `${name} is not connected; nothing was loaded.` })
      return
    }
    const slots = wantedSlots(this.engine.rig, boardId).map((w) => w.slot)
    if (slots.length === 0 && client.fingerprint === BLANK) return
    const problem = await client.load(slots)
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
    this.simulator.check(t)
    for (const b of this.boards) b.check(t)
    this.tellStatus()
  }

  status(): Status {
    const t = now()
    const drawn = boardsOf(this.engine.rig)
    const known = drawn.map((row) => {
      const client = this.boards.find((b) => b.identity === row.identity)
      return this.boardStatus(client, row.id, row.identity ?? '', row.name, row.model, t)
    })
    const strangers = this.boards
      .filter((b) => b.up && !drawn.some((row) => row.identity === b.identity))
      .map((b) => this.boardStatus(b, null, b.identity, 'A board nobody has drawn', b.model, t))
    // Something answers, but not as a board that could be known: it is named by its port.
    const noise = this.boards
      .filter((b) => !b.up && b.identity === '' && b.talking)
      .map((b) => this.boardStatus(b, null, `port ${b.port}`, `What answers on port ${b.port}`, '', t))
    const { craft, problem, up, rate } = this.simulator
    return {
      armed: this.engine.armed,
      database: this.database,
      standins: this.hands.up ? 'up' : 'down',
      simulator: { state: up ? 'up' : 'down', craft, rateHz: up ? rate.update(t) : 0, problem },
      boards: [...known, ...strangers, ...noise],
    }
  }

  private boardStatus(
    client: BoardClient | undefined,
    id: string | null,
    identity: string,
    name: string,
    model: string,
    t: number,
  ): BoardStatus {
    const up = client?.up ?? false
    const { differing, loaded } = up && client && id !== null ? this.comparison(client, id) : nothingCompared
    return {
      id,
      identity,
      name,
      model,
      state: up ? 'up' : 'down',
      problem: client?.problem ?? (up ? null : 'nobody with this identity has answered'),
      loaded,
      differing,
      loading: client?.loading ?? null,
      rateHz: up && client ? client.rate.update(t) : 0,
      bad: client?.bad ?? 0,
      simulated: this.hands.levels.has(identity),
    }
  }

  /** What a board holds against what is drawn, worked out once for each state of the two. */
  private comparison(client: BoardClient, boardId: string): Comparison {
    const { rig } = this.engine
    const known = this.compared.get(boardId)
    if (known && known.rig === rig && known.slots === client.slots) return known
    const differing = differingParts(rig, boardId, client.slots)
    const loaded = differing.length === 0 && client.slots.length === wantedSlots(rig, boardId).length
    const made = { rig, slots: client.slots, differing, loaded }
    this.compared.set(boardId, made)
    return made
  }

  private tellStatus(): void {
    const status = this.status()
    const text = JSON.stringify(status)
    if (text === this.toldStatus) return
    this.toldStatus = text
    this.tell({ say: 'status', status })
  }

  private tell(message: FromHub): void {
    for (const tab of this.tabs) tab.send(message)
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
    tab.send({ say: 'proof', proof: this.proof() })
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
        break
      case 'watch':
        tab.watchesAll = m.all
        tab.toldValues.clear()
        this.subscribe(false)
        break
      case 'paths':
        tab.watchesPaths = m.all
        tab.toldPaths.clear()
        break
      case 'operate':
        this.operate(tab, m.partId, m.position)
        break
      case 'arm':
        this.file.memory.armed = m.armed
        this.file.keep()
        this.step({ is: 'arm', armed: m.armed })
        this.tellStatus()
        break
      case 'load':
        void this.load(m.boardId)
        break
      case 'exercise':
        this.carryOut(this.engine.exercise(m.partIds, m.packed, now()))
        break
    }
  }

  /** Moves the contacts of a simulated part, as a finger on the panel would. */
  private operate(tab: Tab, partId: string, position: string): void {
    const unit = this.engine.units.get(partId)
    const goal = unit?.aspect?.positions.find((p) => p.id === position)
    if (!unit || !goal) return
    if (!isWired(unit.wiring)) {
      tab.send({ say: 'problem', message: `${unit.part.name} moves nothing: ${unit.wiring.message}.` })
      return
    }
    const identity = this.engine.rig.board[unit.wiring.boardId]?.identity ?? ''
    if (!this.hands.closed.has(identity)) {
      tab.send({
        say: 'problem',
        message: `${unit.part.name} cannot be moved on screen: its board is not a simulated one, or is away.`,
      })
      return
    }
    const { slot } = unit.wiring
    if (slot.kind !== 'contacts') return
    const contacts = slot.pins.map((pin, i) => ({
      pin,
      closed: goal.closes.includes(unit.terminals[i] ?? ''),
    }))
    // A contact opens before the next one closes.
    this.hands.move(
      identity,
      contacts.sort((a, b) => Number(a.closed) - Number(b.closed)),
    )
  }

  private handOf(unit: Unit): string | null {
    if (!unit.aspect || !isWired(unit.wiring) || unit.wiring.slot.kind !== 'contacts') return null
    const identity = this.engine.rig.board[unit.wiring.boardId]?.identity ?? ''
    const closed = this.hands.closed.get(identity)
    if (!closed) return null
    const bits = unit.wiring.slot.pins.reduce((b, pin, i) => b | (closed.has(pin) ? 1 << i : 0), 0)
    return positionOf(unit.aspect, unit.terminals, bits)
  }

  private levelOf(unit: Unit): number | null {
    if (!unit.lamp || !isWired(unit.wiring) || unit.wiring.slot.kind !== 'lamp') return null
    const identity = this.engine.rig.board[unit.wiring.boardId]?.identity ?? ''
    return this.hands.levels.get(identity)?.get(unit.wiring.slot.pin) ?? null
  }

  private partLive(unit: Unit): PartLive {
    const { panel, craft, agrees } = agreement(this.engine, unit)
    return {
      position: unit.position,
      hand: this.handOf(unit),
      packed: Math.max(0, unit.lamp?.shown ?? 0),
      level: this.levelOf(unit),
      panel,
      craft,
      agrees,
      exercised: unit.lamp?.exercise !== null && unit.lamp?.exercise !== undefined,
    }
  }

  /** Thirty times a second: to every tab, what changed for it. */
  private feed(): void {
    if (this.tabs.size === 0) return
    const parts = [...this.engine.units].map(([id, unit]) => {
      const live = this.partLive(unit)
      return { id, live, text: JSON.stringify(live) }
    })
    const used = this.engine.variablesInUse()
    this.feeds++
    for (const tab of this.tabs) {
      if (tab.watchesPaths && this.feeds % FEEDS_A_PATHS === 0) this.feedPaths(tab)
      this.feedParts(tab, parts)
      this.feedValues(tab, used)
      this.feedTrace(tab)
    }
  }

  private feedParts(tab: Tab, parts: readonly { id: string; live: PartLive; text: string }[]): void {
    const changed: Record<string, PartLive> = {}
    let any = false
    for (const { id, live, text } of parts) {
      if (tab.toldParts.get(id) === text) continue
      tab.toldParts.set(id, text)
      changed[id] = live
      any = true
    }
    if (any) tab.send({ say: 'parts', parts: changed })
  }

  private feedValues(tab: Tab, used: ReadonlySet<number>): void {
    const { variables } = this.engine
    const i: number[] = []
    const v: (number | string | null)[] = []
    const look = (slot: number) => {
      const value = variables.read(slot)
      if (tab.toldValues.get(slot) === value) return
      tab.toldValues.set(slot, value)
      i.push(slot)
      v.push(value)
    }
    if (tab.watchesAll) for (let slot = 0; slot < variables.numbers.length; slot++) look(slot)
    else for (const slot of used) look(slot)
    if (i.length > 0) tab.send({ say: 'values', i, v })
  }

  /** All paths, for the table of them: eight times a second is as fast as anybody reads one. */
  private feedPaths(tab: Tab): void {
    const changed: Record<string, readonly TraceRow[]> = {}
    let any = false
    for (const id of this.engine.units.keys()) {
      const rows = trace(this.engine, id)
      const text = JSON.stringify(rows)
      if (tab.toldPaths.get(id) === text) continue
      tab.toldPaths.set(id, text)
      changed[id] = rows
      any = true
    }
    if (any) tab.send({ say: 'paths', paths: changed })
  }

  private feedTrace(tab: Tab): void {
    if (tab.selected === null) return
    const rows = trace(this.engine, tab.selected)
    const text = JSON.stringify(rows)
    if (text === tab.toldTrace) return
    tab.toldTrace = text
    tab.send({ say: 'trace', partId: tab.selected, rows, now: now() })
  }
}

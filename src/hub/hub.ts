import type { Touched } from '../core/elements/touch'
import { Engine } from '../core/engine/engine'
import type { Effect, Input } from '../core/engine/input'
import { partsTouched } from '../core/engine/parts-touched'
import type { FromHub, Movement, Status, ToHub } from '../core/live/feed'
import { setInForce } from '../core/rig/craft-sets'
import { apply } from '../core/rig/edit'
import type { OwnWords } from '../core/rig/own-words'
import { emptyRig, type Rig } from '../core/rig/rig'
import { movementOf } from '../core/screens/touch'
import type { Millis } from '../core/units-of-measure'
import type { HistoryEntry } from '../store/edit-store'
import type { LoadedRig } from '../store/rig-store'
import type { BoardClient } from './board-client'
import type { BoardEvents } from './board-talk'
import { Connections } from './connections'
import { type LookForControllers, PluggedControllers } from './controllers/plugged-controllers'
import type { Doing } from './doing'
import { DrawnBoards } from './drawn-boards'
import { Drift } from './drift'
import { Feed } from './feed'
import { HandClient } from './hand-client'
import { craftsFlown, HubStatus } from './hub-status'
import { soundRows, without } from './kept-rig'
import { TouchLine } from './lines/touch-line'
import { LoadedBoards } from './loaded-boards'
import type { MemoryFile } from './memory'
import { operate } from './operate'
import { isOrder, type Ordered, obey } from './orders'
import { type LookForPorts, Ports } from './ports'
import { Probes } from './probes'
import { Programs } from './programs/programs'
import { Proofs } from './proofs'
import { Recordings } from './recordings/recordings'
import type { Shelf } from './recordings/shelf'
import { hangingOf, resolder } from './resolder'
import { Scope } from './scope/scope'
import { ScreenFeed } from './screens/screen-feed'
import { HubSources } from './sources'
import type { Tab } from './tab'
import { isOfWires, WireViews } from './wire-views'

export interface HubSettings {
  /** Where the stand-ins listen, and what they ask for before they let anybody's hands on. */
  readonly hand: number
  readonly secret: string
  /** How is looked for serial ports. */
  readonly look: LookForPorts
  /** How is looked for controllers; left out where there are none to be. */
  readonly lookForControllers?: LookForControllers
  /** Where recordings are kept. */
  readonly shelf: Shelf
}

const now = () => performance.now()

/** A check that comes so late was kept from running, with all that it would have noticed. */
const LATE_MS = 500

/** Owns everything that must be quick: links, engine, live feed. It works on when the database or a tab is gone. */
export class Hub {
  readonly engine = new Engine()
  readonly connections: Connections
  readonly hands: HandClient
  private readonly ports: Ports
  private readonly programs: Programs
  private readonly controllers: PluggedControllers
  private readonly wires: WireViews
  private readonly scope: Scope
  private readonly recordings: Recordings
  /** How far the engine's time is before the clock: a recording was played faster. */
  private ahead: Millis = 0
  database: 'up' | 'down' = 'down'
  private rigId: string | null = null
  private revision = 0
  private setAside: readonly string[] = []
  private readonly sources: HubSources
  private rowsAside: readonly string[] = []
  /** The rig as it is drawn; the engine's may lack what is set aside. */
  private whole: Rig = emptyRig()
  private readonly tabs = new Set<Tab>()
  private toldStatus = ''
  private readonly feed: Feed
  private readonly statusOf: HubStatus
  /** What orders of tabs act on. */
  private readonly ordered: Ordered
  private wake: NodeJS.Timeout | null = null
  private wakeAt = Number.POSITIVE_INFINITY
  private checks: NodeJS.Timeout | null = null
  private feeds: NodeJS.Timeout | null = null
  private checkedAt = now()
  private readonly drawnBoards: DrawnBoards
  private readonly loadedBoards: LoadedBoards
  private readonly proofs: Proofs
  private readonly probes: Probes
  private readonly drift = new Drift(this.engine)
  readonly screens = new ScreenFeed(this.engine)

  constructor(
    settings: HubSettings,
    private readonly file: MemoryFile,
    private readonly doing: Doing,
  ) {
    const { memory } = file
    this.hands = new HandClient(settings.hand, settings.secret, {
      opened: () => {
        this.connections.tellStandins(true)
        this.drawnBoards.solderAnew(this.engine.rig)
        this.probes.attendAnew()
      },
      moved: () => {
        this.drawnBoards.solder(this.engine.rig)
        this.connections.tryMissing()
      },
    })
    this.sources = new HubSources({
      engine: this.engine,
      file,
      connections: () => this.connections,
      recordings: () => this.recordings,
      scope: () => this.scope,
      step: (input, told) => this.step(input, told),
      changed: () => {
        this.scope.describe(now())
        this.tell(this.catalogueMessage())
        for (const tab of this.tabs) tab.missed = true
      },
      status: () => this.tellStatus(),
      sent: (event) => this.scope.sent(event, now()),
      wantsAll: () => this.wantsAll(),
    })
    const placeOf = (connection: string) => this.foundElsewhere(connection)
    this.connections = new Connections({
      hands: this.hands,
      serial: { placeOf },
      board: this.boardEvents(),
      rigId: () => this.rigId ?? '',
      source: (id) => this.sources.events(id),
      outgoing: (id) => () => (this.engine.armed ? (key) => this.engine.outgoing.now(id, key) : null),
      portOpened: () => this.connections.tellStandins(),
      controllerAt: (id) => this.controllers.placeOf(id),
    })
    this.ports = new Ports(settings.look, {
      isTaken: (path) => this.connections.hasPort(path, true),
      isWanted: (path) => this.connections.hasPort(path, false) || this.programs.isBusy(path),
      program: (path) => this.programs.stateOf(path),
      board: () => this.connections.tryMissing(),
      changed: (came, went) => {
        for (const path of went) this.programs.forget(path)
        if (came.length > 0) this.connections.tryMissing()
        this.tellStatus()
      },
    })
    this.controllers = new PluggedControllers(settings.lookForControllers ?? (async () => new Map()), {
      rows: () => this.connections.all,
      changed: () => {
        this.connections.tryMissing()
        this.tellStatus()
      },
    })
    this.programs = new Programs({
      take: (path) => {
        this.ports.leave(path)
        return this.connections.hold(path, () => this.engine.rig)
      },
      ask: (path) => this.ports.ask(path),
      answers: (path) => this.ports.answers(path) || this.connections.boardIsUpOn(path),
      changed: () => this.tellStatus(),
    })
    this.wires = new WireViews(this.connections, this.hands, () => this.engine.rig)
    this.drawnBoards = new DrawnBoards(() => this.connections.boards(), this.hands)
    this.loadedBoards = new LoadedBoards(this.engine, this.drawnBoards, file, {
      boards: () => this.connections.boards(),
      step: (input) => this.step(input),
      problem: (message) => this.tell({ say: 'problem', message }),
      changed: () => this.tellStatus(),
      hung: () => this.matchProbes(),
    })
    this.proofs = new Proofs(file)
    this.probes = new Probes(
      this.engine,
      {
        client: (boardId) => this.drawnBoards.client(boardId),
        attend: (identity, on) => this.hands.send({ say: 'attend', identity, on }),
        likeness: (identity) => this.hands.likenesses.get(identity),
      },
      this.drift,
    )
    this.feed = new Feed(this.engine, this.hands, () => this.recordings.hasHands)
    this.scope = new Scope(this.engine, {
      set: (request, variable, value) => this.sources.set(request, variable, value),
      event: (request, event, value) => this.sources.event(request, event, value),
    })
    this.recordings = new Recordings(settings.shelf, {
      engine: this.engine,
      now,
      time: () => this.time(),
      rigId: () => this.rigId,
      sources: () => this.sources.all,
      step: (input, at) => this.step(input, Number.NaN, at),
      tell: (message) => this.tell(message),
      operated: (partId) => this.scope.operated(this.tabs, partId, now()),
      marked: (words) => this.scope.marked(this.tabs, words, now()),
      began: () => this.sources.beginPlayed(),
      over: () => this.sources.hearAgain(),
      wants: () => this.subscribe(),
    })
    this.ordered = {
      engine: this.engine,
      boards: this.loadedBoards,
      ports: this.ports,
      probes: this.probes,
      programs: this.programs,
      recordings: this.recordings,
      scope: this.scope,
      screens: this.screens,
      step: (input) => this.step(input),
      arm: (armed) => this.arm(armed),
      chooseCraft: (choice) => {
        file.memory.craftChoice = choice
        file.keep()
        this.chooseCraftSet()
        this.tellStatus()
      },
      operate: (partId, aspectId, movement) => this.operate(partId, aspectId, movement),
      touch: (elementId, by) => this.touch(elementId, by),
      looks: () => this.subscribe(),
      statusChanged: () => this.tellStatus(),
      complain: (tab, problem) => this.complain(tab, problem),
    }
    this.statusOf = new HubStatus(
      this.engine,
      this.connections,
      this.drawnBoards,
      this.hands,
      this.ports,
      this.controllers,
    )
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

  /** What comes of what a board says. */
  private boardEvents(): BoardEvents {
    return {
      changed: (board) => this.loadedBoards.changed(board as BoardClient),
      report: (board, slot, value) => {
        const boardId = this.drawnBoards.drawn(board)
        if (boardId === null) return
        if (this.recordings.hasHands) {
          this.recordings.handMoved(boardId, slot, value)
          return
        }
        const operated = this.loadedBoards.operatedBy(boardId, slot, value)
        this.step({ is: 'report', boardId, slot, value })
        // What the hand did is on its way; whoever only looks on hears of it now.
        this.drift.reported(boardId, slot, value)
        if (operated !== null)
          for (const tab of this.tabs) if (tab.follows) tab.send({ say: 'operated', partId: operated })
        // Values that are played do not move because of a hand.
        if (operated !== null && !this.recordings.played) this.scope.operated(this.tabs, operated, now())
        if (operated !== null) this.recordings.operated(this.engine.rig.part[operated]?.name ?? '')
      },
      shown: (board, shown) => {
        const boardId = this.drawnBoards.drawn(board)
        // Nearly every heartbeat confirms what was confirmed before.
        if (boardId === null || (shown.is === 'confirmed' && !this.engine.waitsForWord(boardId))) return
        this.step({ is: 'shown', boardId, shown })
      },
      noted: (board, notes, left) => {
        const boardId = this.drawnBoards.drawn(board)
        if (boardId !== null) this.probes.take(boardId, notes, left)
      },
      drawn: (board) => this.drawnBoards.drawn(board) !== null,
    }
  }

  private catalogueMessage(): FromHub {
    const { index, places } = this.engine.variables
    return { say: 'catalogue', catalogue: index.catalogue, sources: places, untold: index.untold }
  }

  /** The builder says something else of the names of some craft. */
  takeWords(words: OwnWords): void {
    this.sources.takeWords(words)
  }

  // --- ports --------------------------------------------------------------------------------------------------

  /** The port on which the board of a connection was found, where nothing is plugged in as its settings say. */
  private foundElsewhere(connection: string): string | null {
    const row = this.engine.rig.connection[connection]
    if (row?.settings.kind !== 'board serial' || this.ports.isThere(row.settings.path)) return null
    const identity = this.file.memory.identities[connection]
    return identity === undefined ? null : this.ports.portOf(identity)
  }

  open(): void {
    this.hands.open()
    this.connections.open()
    this.ports.open()
    this.controllers.open()
    this.checks = setInterval(() => this.check(), 100)
  }

  /** Feeds the tabs while there are any. */
  private feedTabs(): void {
    if (this.tabs.size > 0)
      this.feeds ??= setInterval(() => {
        this.feed.run(this.tabs)
        this.wires.tell(this.tabs, now())
        this.scope.tell(this.tabs, now())
        this.recordings.tell()
        this.probes.tell()
      }, 33)
    else if (this.feeds) {
      clearInterval(this.feeds)
      this.feeds = null
    }
  }

  /** Ends it; resolves once what was recorded is kept. */
  async close(): Promise<void> {
    if (this.checks) clearInterval(this.checks)
    if (this.feeds) clearInterval(this.feeds)
    if (this.wake) clearTimeout(this.wake)
    this.recordings.close()
    const kept = this.recordings.end()
    this.ports.close()
    this.controllers.close()
    this.connections.close()
    this.hands.close()
    this.file.write()
    await kept
  }

  // --- engine -------------------------------------------------------------------------------------------------

  /** The engine's time now: the clock's, or that of the recording whose hands are played. */
  private time(): Millis {
    return this.recordings.time() ?? now() + this.ahead
  }

  /** The one seam through which the engine is told anything; `told` is a source's own time of a frame. */
  private step(input: Input, told = Number.NaN, at = this.time()): void {
    const t = now()
    if (input.is === 'frame') this.scope.frame(input.source, input.indexes, input.values, t)
    this.recordings.note(input, at, told)
    const effects = this.engine.step(input, at, t)
    this.recordings.ordered(effects)
    this.scope.ordered(this.tabs, effects)
    this.ahead = Math.max(this.ahead, at - t)
    this.carryOut(effects)
    this.screens.stepped()
  }

  private carryOut(effects: readonly Effect[]): void {
    for (const e of effects) {
      switch (e.is) {
        case 'set':
          this.sources.set(e.request, e.variable, e.value)
          break
        case 'event':
          this.sources.event(e.request, e.event, e.value)
          break
        case 'output':
          this.drawnBoards.client(e.boardId)?.outputs(e.outputs, e.batch)
          break
        case 'proven':
          this.prove(e.bindingId)
          break
        case 'wake':
          this.planWake()
          break
      }
    }
  }

  /** Wakes the engine when it wants that: by the clock, or, where a recording gives it its time, for its lines alone. */
  private planWake(): void {
    const at = this.recordings.hasHands
      ? this.engine.nextAt(true)
      : (this.engine.nextAt() ?? Number.POSITIVE_INFINITY) - this.ahead
    if (at === null || (this.wake && this.wakeAt <= at)) return
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
    if (this.rigId !== null && this.rigId !== loaded.id) {
      this.recordings.stop('another rig was opened')
      this.recordings.close()
      this.arm(false)
      // Connections of the same id are others there.
      this.file.memory.catalogues = {}
      this.file.memory.craftChoice = 'by craft'
      this.file.memory.identities = {}
    }
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

  /** Lets the craft set hold that is meant for what is flown now, or that was chosen by hand. */
  private chooseCraftSet(): void {
    // Hands that are played bring theirs along.
    if (this.recordings.hasHands) return
    const { craftChoice } = this.file.memory
    const crafts = craftsFlown(this.engine)
    // Whoever is away for a moment has not become another craft.
    if (crafts.length === 0 && craftChoice === 'by craft' && this.engine.craftSet !== null) return
    const set = setInForce(this.engine.rig, craftChoice, crafts)
    if (set === this.engine.craftSet) return
    this.step({ is: 'craft set', set })
    this.subscribe()
    for (const tab of this.tabs) tab.missed = true
  }

  private takeWhole(rigId: string, rig: Rig, revision: number, setAside: readonly string[]): void {
    this.rigId = rigId
    this.revision = revision
    this.whole = rig
    const left = this.doing.setAside
    this.rowsAside = setAside
    this.setAside = left ? [...setAside, left.message] : setAside
    this.step({ is: 'rig', rig: without(rig, left?.ids ?? new Set()), diff: null })
    this.connections.match(rig)
    this.wires.follow(this.tabs)
    this.sources.take()
    this.drawnBoards.match(rig)
    this.drawnBoards.solder(rig)
    this.subscribe()
    this.loadedBoards.allChanged()
    this.chooseCraftSet()
    this.matchProbes()
    this.screens.match()
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
    this.recordings.mark(entry.sentence, 'edit')
    const before = this.engine.rig
    const after = apply(before, entry.diff)
    this.whole = after
    const touched = partsTouched(before, after, entry.diff)
    const hung = hangingOf(this.engine, touched ?? [])
    this.revision = entry.revision
    this.step({ is: 'rig', rig: after, diff: entry.diff })
    if (entry.diff.some((c) => c.table === 'connection')) {
      this.connections.match(after)
      this.wires.follow(this.tabs)
      this.sources.take()
    }
    if (entry.diff.some((c) => c.table === 'board')) this.drawnBoards.match(after)
    if (entry.diff.some((c) => c.table === 'part')) this.drawnBoards.solder(after)
    if (entry.diff.some((c) => c.table === 'lead' || c.table === 'expander' || c.table === 'board')) {
      this.drawnBoards.solder(after)
      resolder(this.hands, hung, hangingOf(this.engine, touched ?? []))
    }
    this.loadedBoards.allKeepHolding()
    this.chooseCraftSet()
    this.matchProbes()
    this.screens.match()
    this.subscribe()
    const { editId, sentence, diff, revision } = entry
    this.tell({ say: 'edit', revision, editId, sentence, diff })
    this.tell({ say: 'proof', proof: this.proofs.of(after, touched) })
    if (diff.some((c) => c.table === 'board')) this.loadedBoards.allChanged()
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

  /** Where everything hangs may have changed, or what was measured. */
  private matchProbes(): void {
    this.drift.match()
    this.probes.match()
  }

  // --- status and feed ----------------------------------------------------------------------------------------

  private check(): void {
    const t = now()
    const late = t - this.checkedAt > LATE_MS
    this.checkedAt = t
    this.recordings.check()
    this.chooseCraftSet()
    if (this.drift.pass(t)) this.probes.match()
    const drifted = this.drift.news()
    if (drifted) this.tell({ say: 'drift', parts: drifted })
    for (const client of this.connections.clients()) {
      if (late) client.excuse(t)
      client.check(t)
    }
    this.tellStatus()
  }

  status(): Status {
    return this.statusOf.now(this.database, this.file.memory.craftChoice)
  }

  private tellStatus(): void {
    if (this.tabs.size === 0) return
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

  /** Whether everything that the sources tell is wanted, and not only what is bound. */
  private wantsAll(): boolean {
    return this.recordings.wantsAll || [...this.tabs].some((t) => t.watchesAll || t.scope !== null)
  }

  /** What tabs look at has changed, or what is bound. */
  private subscribe(): void {
    this.scope.look(this.tabs, now())
    this.sources.subscribe()
  }

  join(tab: Tab): void {
    this.tabs.add(tab)
    this.feedTabs()
    tab.send(this.rigMessage())
    tab.send(this.catalogueMessage())
    tab.send({ say: 'status', status: this.status() })
    tab.send({ say: 'proof', proof: this.proofs.of(this.engine.rig) })
    tab.send({ say: 'drift', parts: this.drift.all })
    for (const message of this.recordings.messages()) tab.send(message)
  }

  leave(tab: Tab): void {
    this.tabs.delete(tab)
    this.wires.leave(tab, this.tabs)
    this.scope.leave(tab)
    this.probes.leave(tab)
    this.screens.leave(tab.line)
    this.feedTabs()
    this.subscribe()
  }

  hear(tab: Tab, m: ToHub): void {
    if (isOfWires(m)) {
      void this.wires.hear(tab, m, this.tabs).then((problem) => this.complain(tab, problem))
      return
    }
    if (isOrder(m)) obey(this.ordered, tab, m)
    else this.scope.hear(tab, m, now())
  }

  /** The line of the fingers that are the board with this identity. */
  private readonly fingersOn = (identity: string): TouchLine | null => {
    for (const { identity: own, line } of this.connections.boards())
      if (own === identity && line instanceof TouchLine) return line
    return null
  }

  /** Moves a part by hand; why that does nothing, or null. */
  private operate(partId: string, aspectId: string, movement: Movement): string | null {
    if (this.recordings.hasHands)
      return 'A recording operates the controls now; take its hands off, or close it.'
    return operate(this.engine, this.hands, partId, aspectId, movement, this.fingersOn)
  }

  /** A finger on an element of a screen; why that does nothing, or null. */
  touch(elementId: string, by: Touched): string | null {
    const does = movementOf(this.engine.rig, elementId, by)
    if (!does) return 'It is no part yet: under Screens it becomes one.'
    return this.operate(does.partId, does.aspectId, does.movement)
  }

  /** Recordings were added, changed or deleted by somebody. */
  recordingsChanged(): void {
    this.tell({ say: 'recordings' })
  }

  private complain(tab: Tab, problem: string | null): void {
    if (problem !== null) tab.send({ say: 'problem', message: problem })
  }
}

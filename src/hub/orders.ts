import type { Touched } from '../core/elements/touch'
import type { Engine } from '../core/engine/engine'
import type { Input } from '../core/engine/input'
import type { Movement, ToHub } from '../core/live/feed'
import type { CraftChoice } from '../core/rig/craft-sets'
import type { LoadedBoards } from './loaded-boards'
import type { Ports } from './ports'
import type { Probes } from './probes'
import type { Programs } from './programs/programs'
import type { Recordings } from './recordings/recordings'
import type { Scope } from './scope/scope'
import { ScopeTab } from './scope/scope-tab'
import type { ScreenFeed } from './screens/screen-feed'
import type { Tab } from './tab'
import type { OfWires } from './wire-views'

/** What orders of a tab act on. */
export interface Ordered {
  readonly engine: Engine
  readonly boards: LoadedBoards
  readonly ports: Ports
  readonly probes: Probes
  readonly programs: Programs
  readonly recordings: Recordings
  readonly scope: Scope
  readonly screens: ScreenFeed
  readonly step: (input: Input) => void
  readonly arm: (armed: boolean) => void
  readonly chooseCraft: (choice: CraftChoice) => void
  /** Moves a part by hand, or touches an element of a screen; why that does nothing, or null. */
  readonly operate: (partId: string, aspectId: string, movement: Movement) => string | null
  readonly touch: (elementId: string, by: Touched) => string | null
  /** What tabs look at has changed. */
  readonly looks: () => void
  readonly statusChanged: () => void
  readonly complain: (tab: Tab, problem: string | null) => void
}

/** Heard where they belong: by Scope, by its hunts, by the views of wires. */
type Elsewhere = { say: `scope ${string}` | `hunt${string}` } | OfWires
type Order<M extends ToHub> = (on: Ordered, m: M, tab: Tab) => void
type Here = Exclude<ToHub, Extract<ToHub, Elsewhere>>

const toRecordings = (on: Ordered, m: Parameters<Recordings['hear']>[0], tab: Tab): void => {
  void on.recordings.hear(m).then((problem) => on.complain(tab, problem))
}

/** What each order of a tab does. */
const orders: { readonly [S in Here['say']]: Order<Extract<ToHub, { say: S }>> } = {
  select: (_, { partId }, tab) => {
    tab.selected = partId
    tab.toldTrace = ''
    if (partId !== null) tab.fresh.parts.add(partId)
  },
  watch: (on, { all }, tab) => {
    tab.watchesAll = all
    tab.missed = true
    on.looks()
  },
  show: (_, { subject, parts }, tab) => tab.show(subject, parts),
  values: ({ engine }, { names }, tab) =>
    tab.showValues(names.flatMap((n) => engine.variables.index.variable.get(n) ?? [])),
  screens: ({ screens }, { ids }, tab) => screens.look(tab.line, ids),
  agreements: (_, m, tab) => {
    tab.wantsAgreements = m.on
    tab.missed = true
  },
  operate: (on, m, tab) => on.complain(tab, on.operate(m.partId, m.aspectId, m.movement)),
  touch: (on, m, tab) => on.complain(tab, on.touch(m.element, m.by)),
  arm: (on, { armed }) => on.arm(armed),
  'craft set': (on, { choice }) => on.chooseCraft(choice),
  load: ({ boards }, { boardId }) => void boards.load(boardId),
  exercise: (on, { partIds, how }) => on.step({ is: 'exercise', partIds, how }),
  settle: (on, { partIds }) => on.step({ is: 'settle', partIds }),
  // Only what is plugged in: a page cannot name a file.
  'load program': (on, { path }) => {
    if (on.ports.isThere(path)) void on.programs.load(path)
  },
  'forget program': ({ programs }, { path }) => programs.forget(path),
  'ask port': (on, { path }) => {
    on.ports.ask(path)
    on.statusChanged()
  },
  probe: ({ probes }, m, tab) => probes.watch(tab, m.of),
  'probe twin': ({ probes }, m, tab) => probes.watchTwin(tab, m.of),
  follow: (_, m, tab) => {
    tab.follows = m.on
  },
  record: toRecordings,
  'record end': toRecordings,
  'record mark': toRecordings,
  'replay open': toRecordings,
  'replay close': toRecordings,
  'replay change': toRecordings,
  'replay step': toRecordings,
  scope: (on, m, tab) => {
    on.scope.leave(tab)
    tab.scope = m.on ? new ScopeTab() : null
    on.looks()
  },
}

export const isOrder = (m: ToHub): m is Here => Object.hasOwn(orders, m.say)

/** Carries out what a tab orders. */
export const obey = (on: Ordered, tab: Tab, m: Here): void => (orders[m.say] as Order<Here>)(on, m, tab)

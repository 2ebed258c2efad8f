import type { FromHub, Movement, ToHub } from '@/core/live/feed'
import { apply, type Diff } from '@/core/rig/edit'
import { rigOf } from '@/core/rig/rig'
import { indexCatalogue } from '@/core/rig/simulator-catalogue'
import { openWatchedLine, type WatchedLine } from '@/screen/watched-line'
import { hearBus } from '../bus/bus-store'
import { hearProbed } from '../calibrate/probed-store'
import { hearEcho, hearRaw } from '../connections/raw-store'
import { hearController } from '../controllers/controller-store'
import { hearDatagrams } from '../datagrams/datagram-store'
import { hearRecordings } from '../recordings/recordings-store'
import { hearHunt } from '../scope/hunt-store'
import { hearScope } from '../scope/scope-store'
import { hearScreen, onScreensShown, screensShown } from '../screens/told-screens'
import { agreements, history, notify, parts, paths, says, useStore, values, withPending } from './store'

/** The hub says once a second that it is there; one at work on a large rig may be late. */
const SILENCE_MS = 4000

let feed: WatchedLine | null = null
let watchers = 0
let agreementWatchers = 0
let edited: () => void = () => {}
let heardEdit: (editId: string, sentence: string, diff: Diff) => void = () => {}

/** Says something to the hub; false when it is not there to hear it. */
export const sayToHub = (message: ToHub): boolean => feed?.say(message) ?? false

/** What is kept of parts, by the subject under which the hub tells it. */
const shown = [
  ['parts', parts],
  ['says', says],
  ['paths', paths],
] as const

/** Tells the hub what this page shows, so that it is told of that and of nothing else. */
const sayWhatIsShown = (): void => {
  for (const [subject, store] of shown) sayToHub({ say: 'show', subject, parts: store.read() })
  sayToHub({ say: 'values', names: values.read() })
  if (agreementWatchers > 0) sayToHub({ say: 'agreements', on: true })
  if (screensShown().length > 0) sayToHub({ say: 'screens', ids: screensShown() })
}
for (const [subject, store] of shown) store.onReaders((ids) => sayToHub({ say: 'show', subject, parts: ids }))
onScreensShown((ids) => sayToHub({ say: 'screens', ids }))
values.onReaders((names) => sayToHub({ say: 'values', names }))

/** Opens the live feed and keeps it open, whatever happens. `onEdit` hears of every edit by anyone. */
export const openFeed = (
  onEdit: () => void,
  onOthersEdit: (editId: string, sentence: string, diff: Diff) => void = () => {},
): (() => void) => {
  edited = onEdit
  heardEdit = onOthersEdit
  const address = `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/live`
  const line = openWatchedLine<FromHub>(address, SILENCE_MS, {
    opened: () => {
      if (watchers > 0) sayToHub({ say: 'watch', all: true })
      sayWhatIsShown()
      const { selected, follows } = useStore.getState()
      sayToHub({ say: 'select', partId: selected })
      if (follows) sayToHub({ say: 'follow', on: true })
    },
    told: take,
    // It is there again once it has told the rig.
    away: (since) => {
      if (since !== null) useStore.setState({ hub: 'down', lostAt: since })
    },
  })
  feed = line
  return () => {
    line.end()
    if (feed === line) feed = null
  }
}

const take = (m: FromHub): void => {
  switch (m.say) {
    case 'rig': {
      const pending = useStore
        .getState()
        .pending.filter((p) => p.revision === null || p.revision > m.revision)
      const base = rigOf(m.rig)
      useStore.setState({
        hub: 'up',
        lostAt: null,
        rigId: m.rigId,
        base,
        revision: m.revision,
        setAside: m.setAside,
        pending,
        rig: withPending(base, pending),
      })
      edited()
      break
    }
    case 'edit': {
      const state = useStore.getState()
      const base = apply(state.base, m.diff)
      const pending = state.pending.filter((p) => p.editId !== m.editId)
      if (pending.length === state.pending.length) heardEdit(m.editId, m.sentence, m.diff)
      useStore.setState({ base, revision: m.revision, pending, rig: withPending(base, pending) })
      edited()
      break
    }
    case 'status':
      useStore.setState({ status: m.status })
      break
    case 'catalogue':
      useStore.setState({ catalogue: indexCatalogue(m.catalogue, m.untold), sources: m.sources })
      values.clear()
      // Names stand at other places now.
      sayToHub({ say: 'values', names: values.read() })
      break
    case 'values': {
      const { variables } = useStore.getState().catalogue.catalogue
      const t = performance.now()
      for (const [k, slot] of m.i.entries()) {
        const name = variables[slot]?.name
        const value = m.v[k]
        if (name === undefined || value === undefined) continue
        values.set(name, value)
        history.add(name, value, t)
      }
      break
    }
    case 'parts':
      for (const [id, live] of Object.entries(m.parts)) parts.set(id, live)
      break
    case 'says':
      for (const [id, said] of Object.entries(m.parts)) says.set(id, said)
      break
    case 'agreements':
      for (const [id, word] of Object.entries(m.parts)) agreements.set(id, word)
      break
    case 'trace':
      useStore.setState({ trace: { partId: m.partId, rows: m.rows } })
      break
    case 'paths':
      for (const [id, rows] of Object.entries(m.parts)) paths.set(id, rows)
      break
    case 'proof':
      useStore.setState((s) => ({ proof: { ...s.proof, ...m.proof } }))
      break
    case 'layers':
      useStore.setState({ layers: m.layers, lighting: m.lighting })
      break
    case 'operated':
      select(m.partId)
      break
    case 'raw':
      hearRaw(m.connection, m.items, m.left)
      break
    case 'bus':
      hearBus(m)
      break
    case 'controller':
      hearController(m)
      break
    case 'datagrams':
      hearDatagrams(m)
      break
    case 'echo':
      hearEcho(m.connection, m.ms)
      break
    case 'hunt':
      hearHunt(m)
      break
    case 'scope found':
    case 'scope rows':
    case 'scope answered':
    case 'scope moved':
    case 'scope noted':
      hearScope(m)
      break
    case 'recording':
    case 'replay':
    case 'recordings':
      hearRecordings(m)
      break
    case 'screen cells':
    case 'screen values':
      hearScreen(m)
      break
    case 'screen content':
    case 'screen refused':
      // For devices that have no rig of their own.
      break
    case 'probed':
      hearProbed(m)
      break
    case 'drift':
      useStore.setState({ drift: m.parts })
      break
    case 'problem':
      notify(m.message)
      break
  }
}

/** Asks for every variable's value while somebody looks at them; call the result to stop. */
export const watchAll = (): (() => void) => {
  watchers++
  if (watchers === 1) sayToHub({ say: 'watch', all: true })
  return () => {
    watchers--
    if (watchers === 0) sayToHub({ say: 'watch', all: false })
  }
}

/** Asks which parts agree while somebody lists them; call the result to stop. */
export const watchAgreements = (): (() => void) => {
  agreementWatchers++
  if (agreementWatchers === 1) sayToHub({ say: 'agreements', on: true })
  return () => {
    agreementWatchers--
    if (agreementWatchers === 0) sayToHub({ say: 'agreements', on: false })
  }
}

export const select = (partId: string | null): void => {
  if (useStore.getState().selected === partId) return
  useStore.setState((s) => ({
    selected: partId,
    trace: null,
    // What is selected is looked at.
    panelId: (partId === null ? null : s.rig.part[partId]?.panelId) ?? s.panelId,
  }))
  sayToHub({ say: 'select', partId })
}

/** Goes to whatever is operated on the panel, or stops doing so. */
export const follow = (on: boolean): void => {
  useStore.setState({ follows: on })
  sayToHub({ say: 'follow', on })
}

/** Moves a simulated part, or says why that does nothing. */
export const operate = (partId: string, aspectId: string, movement: Movement): void => {
  if (!sayToHub({ say: 'operate', partId, aspectId, movement }))
    notify('The hub is away, so nothing can be moved on screen just now.')
}

/** Loads every connected board that differs from the drawing. */
export const loadAll = (): void => {
  for (const b of useStore.getState().status?.boards ?? []) {
    if (b.id !== null && b.state === 'up' && !b.loaded) sayToHub({ say: 'load', boardId: b.id })
  }
}

import { create } from 'zustand'
import type { Agreement } from '@/core/engine/agreement'
import type { LightingNow } from '@/core/engine/lighting'
import type { TraceRow } from '@/core/engine/trace-row'
import type { DriftedPart, LayerLive, PartLive, ProofState, Status } from '@/core/live/feed'
import { apply, conflicts, type Diff, rebased } from '@/core/rig/edit'
import type { HistorySummary } from '@/core/rig/history-summary'
import { emptyRig, type Rig } from '@/core/rig/rig'
import { type CatalogueIndex, indexCatalogue, noCatalogue } from '@/core/rig/simulator-catalogue'
import type { SourcePlace } from '@/core/rig/sources'
import { KeyedValues } from './keyed-values'
import { ValueHistory } from './value-history'

/** An edit this page has made that the rig from the hub does not hold yet. */
export interface PendingEdit {
  readonly editId: string
  /** The rig it was made in; null before the hub has said which is open. */
  readonly rigId: string | null
  readonly sentence: string
  readonly diff: Diff
  /** The revision it was given, once the database has it. */
  readonly revision: number | null
}

export interface Notice {
  readonly id: number
  readonly tone: 'fault' | 'plain'
  readonly text: string
  /** What can be done about it. */
  readonly offer?: { readonly words: string; readonly act: () => void }
}

interface State {
  hub: 'up' | 'down' | 'first try'
  /** Since when nothing was heard of the hub, in this page's time; null while it is there. */
  lostAt: number | null
  /** Which rig is open; null before the hub has said. */
  rigId: string | null
  base: Rig
  revision: number
  setAside: readonly string[]
  pending: readonly PendingEdit[]
  /** The rig as this page shows it: the hub's, with its own pending edits on top. */
  rig: Rig
  /** Whether the database took the last edit sent; false while edits wait. */
  saving: 'ok' | 'waiting'
  status: Status | null
  /** What all sources tell, and where in it the names of each are. */
  catalogue: CatalogueIndex
  sources: readonly SourcePlace[]
  proof: Readonly<Record<string, ProofState>>
  /** What does worse than when it was measured. */
  drift: readonly DriftedPart[]
  /** The active layer of each layer set. */
  layers: Readonly<Record<string, LayerLive>>
  lighting: Readonly<Record<string, LightingNow>>
  /** Whether this page goes to whatever is operated on the panel. */
  follows: boolean
  /** Whether the sheet of lighting lies on top. */
  lightingOpen: boolean
  /** Whether the sheet of layers lies on top. */
  layersOpen: boolean
  craftSetsOpen: boolean
  /** Whether the sheet of rigs lies on top. */
  rigsOpen: boolean
  /** Whether the sheet of devices lies on top. */
  devicesOpen: boolean
  /** The connection that is looked at in the sheet of connections, or '' for none in particular; null while it is closed. */
  connectionsAt: string | null
  /** The sheet of its own that is open of a connection. */
  ownSheet: { readonly of: OwnSheetOf; readonly id: string } | null
  /** The rig in which nobody wants to be led to its first light. */
  leftFirstLight: string | null
  /** The panel that is looked at. */
  panelId: string | null
  selected: string | null
  /** How tall the path strip was dragged; null for as tall as it needs. */
  stripPx: number | null
  trace: { partId: string; rows: readonly TraceRow[] } | null
  /** What can be undone and done again; null before the server has said. */
  upcoming: HistorySummary | null
  notices: readonly Notice[]
  /** A station that should open its editor, asked for from elsewhere. */
  opening: { partId: string; station: string } | null
}

/** What connections have sheets of their own for: the layout of datagrams, what goes to a device, a bus, a controller. */
export type OwnSheetOf = 'layout' | 'description' | 'bus' | 'controller'

export const useStore = create<State>()(() => ({
  hub: 'first try',
  lostAt: null,
  rigId: null,
  base: emptyRig(),
  revision: 0,
  setAside: [],
  pending: [],
  rig: emptyRig(),
  saving: 'ok',
  status: null,
  catalogue: indexCatalogue(noCatalogue),
  sources: [],
  proof: {},
  drift: [],
  layers: {},
  lighting: {},
  follows: false,
  lightingOpen: false,
  layersOpen: false,
  craftSetsOpen: false,
  rigsOpen: false,
  devicesOpen: false,
  connectionsAt: null,
  ownSheet: null,
  leftFirstLight: null,
  panelId: null,
  selected: null,
  stripPx: null,
  trace: null,
  upcoming: null,
  notices: [],
  opening: null,
}))

export const parts = new KeyedValues<PartLive>()
/** What the panel shows and the craft says of parts, while some view says it. */
export const says = new KeyedValues<Agreement>()
/** Whether each part agrees, differs, or waits for its board's word, while some view lists that. */
export const agreements = new KeyedValues<boolean | 'waits' | null>()
/** The paths of parts, while some view shows them. */
export const paths = new KeyedValues<readonly TraceRow[]>()
export const values = new KeyedValues<number | string | null>()
export const history = new ValueHistory()

/** The hub's rig with the page's own edits on top, leaving out any that no longer fit. */
export const withPending = (base: Rig, pending: readonly PendingEdit[]): Rig =>
  pending.reduce(
    (rig, p) => (conflicts(rig, p.diff).length === 0 ? apply(rig, rebased(rig, p.diff)) : rig),
    base,
  )

let noticeId = 0
const NOTICE_MS = 9000

/** Says something to the builder, for a while. */
export const notify = (text: string, tone: Notice['tone'] = 'fault', offer?: Notice['offer']): void => {
  const id = ++noticeId
  useStore.setState((s) => ({
    notices: [
      ...s.notices.filter((n) => n.text !== text),
      { id, tone, text, ...(offer ? { offer } : {}) },
    ].slice(-4),
  }))
  setTimeout(() => dismiss(id), NOTICE_MS)
}

export const dismiss = (id: number): void =>
  useStore.setState((s) => ({ notices: s.notices.filter((n) => n.id !== id) }))

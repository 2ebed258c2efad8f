import type { FromHub } from '../core/live/feed'

/** One open tab, as the hub sees it. */
export interface Tab {
  readonly send: (message: FromHub) => void
  selected: string | null
  watchesAll: boolean
  watchesPaths: boolean
  follows: boolean
  toldLayers: string
  toldParts: Map<string, string>
  toldTrace: string
  toldPaths: Map<string, string>
  toldValues: Map<number, number | string | null>
}

/** A tab that has just been opened and been told nothing yet. */
export const newTab = (send: Tab['send']): Tab => ({
  send,
  selected: null,
  watchesAll: false,
  watchesPaths: false,
  follows: false,
  toldLayers: '',
  toldParts: new Map(),
  toldTrace: '',
  toldPaths: new Map(),
  toldValues: new Map(),
})

/** Lets a tab that missed something be told everything anew. */
export const forgetTold = (tab: Tab): void => {
  tab.toldParts.clear()
  tab.toldValues.clear()
  tab.toldPaths.clear()
  tab.toldTrace = ''
  tab.toldLayers = ''
}

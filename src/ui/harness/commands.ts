import { unwiredParts } from '@/core/harness/unwired-parts'
import { useStore } from '../live/store'
import { useHarness } from './harness-store'
import { solve } from './solve'

/** What can be done in the harness by name. */
export const harnessCommands: readonly { readonly words: string; readonly run: () => void }[] = [
  {
    words: 'Assign pins to everything that has no wire yet',
    run: () =>
      solve('What has no wire yet', {
        is: 'assign',
        partIds: unwiredParts(useStore.getState().rig),
        boardIds: null,
      }),
  },
  {
    words: 'Assign the pins of the whole rig',
    run: () => solve('The whole rig', { is: 'assign', partIds: null, boardIds: null }),
  },
  { words: 'Terminals without a wire', run: () => useHarness.setState({ drawer: 'tray' }) },
  { words: 'Findings in the wiring', run: () => useHarness.setState({ drawer: 'findings' }) },
  {
    words: 'Boards, expanders and supplies with their load',
    run: () => useHarness.setState({ drawer: 'boards' }),
  },
  {
    words: 'Wire list, parts list, wiring drawing, labels',
    run: () => useHarness.setState({ drawer: 'files' }),
  },
]

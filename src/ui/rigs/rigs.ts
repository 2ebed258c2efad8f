import type { ListedRig } from '@/core/rig/rig-list'
import { askDoor, postDoor } from '../live/door'

/** What is asked of the door for rigs, as it takes it. */
export type RigAsked =
  | { readonly do: 'begin'; readonly name: string; readonly simulated: boolean }
  | { readonly do: 'take'; readonly text: string }
  | { readonly do: 'demo'; readonly which?: 'skerry-12' | 'torsk-r4' }
  | { readonly do: 'rename'; readonly id: string; readonly name: string }
  | { readonly do: 'open' | 'copy' | 'remove' | 'bring back'; readonly id: string }

/** Every rig that is kept; null where the web process or the database is away, which is said. */
export const listRigs = async (): Promise<readonly ListedRig[] | null> =>
  (await askDoor<{ rigs: ListedRig[] }>('/api/rigs'))?.rigs ?? null

/** Asks the door; the id of the rig it was about, or null where it was not done, which is said. */
export const askRigs = async (asked: RigAsked): Promise<string | null> =>
  (await postDoor<{ id: string }>('/api/rigs', asked))?.id ?? null

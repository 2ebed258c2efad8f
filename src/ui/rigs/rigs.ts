import type { ListedRig } from '@/core/rig/rig-list'
import { notify } from '../live/store'

/** What is asked of the door for rigs, as it takes it. */
export type RigAsked =
  | { readonly do: 'begin'; readonly name: string; readonly simulated: boolean }
  | { readonly do: 'take'; readonly text: string }
  | { readonly do: 'demo' }
  | { readonly do: 'rename'; readonly id: string; readonly name: string }
  | { readonly do: 'open' | 'copy' | 'remove' | 'bring back'; readonly id: string }

const AWAY = 'The web process is away. Nothing was changed.'

/** Every rig that is kept; null where the web process or the database is away, which is said. */
export const listRigs = async (): Promise<readonly ListedRig[] | null> => {
  try {
    const response = await fetch('/api/rigs')
    const answer = (await response.json()) as { rigs?: ListedRig[]; reasons?: string[] }
    if (answer.rigs) return answer.rigs
    notify(answer.reasons?.[0] ?? AWAY)
  } catch {
    notify(AWAY)
  }
  return null
}

/** Asks the door; the id of the rig it was about, or null where it was not done, which is said. */
export const askRigs = async (asked: RigAsked): Promise<string | null> => {
  try {
    const response = await fetch('/api/rigs', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(asked),
    })
    const answer = (await response.json()) as { id?: string; reasons?: string[] }
    if (answer.id !== undefined) return answer.id
    notify(answer.reasons?.[0] ?? AWAY)
  } catch {
    notify(AWAY)
  }
  return null
}

import { notify } from './store'

const AWAY = 'The web process is away. Nothing was changed.'

/** Asks a door of the web process; what it answers, or null where it refuses or is away, which is said. */
export const askDoor = async <T>(path: string, init?: RequestInit): Promise<T | null> => {
  try {
    const response = await fetch(path, init)
    const answer = (await response.json()) as T & { reasons?: string[] }
    if (response.ok) return answer
    notify(answer.reasons?.[0] ?? AWAY)
  } catch {
    notify(AWAY)
  }
  return null
}

/** The same with a body of JSON. */
export const postDoor = <T>(path: string, body: unknown): Promise<T | null> =>
  askDoor<T>(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  })

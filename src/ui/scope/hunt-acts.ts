import { sayToHub } from '../live/connection'
import { notify } from '../live/store'
import { nothing, useHunt } from './hunt-store'

/** Begins anew, with nothing marked. */
export const beginHunt = (): void => {
  useHunt.setState(nothing)
  if (!sayToHub({ say: 'hunt', on: true })) notify('The hub is away, so nothing can be hunted just now.')
}

export const endHunt = (): void => {
  sayToHub({ say: 'hunt', on: false })
  useHunt.setState(nothing)
}

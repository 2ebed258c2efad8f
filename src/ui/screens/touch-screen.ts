import type { Touched } from '@/core/elements/touch'
import { sayToHub } from '../live/connection'
import { notify } from '../live/store'

/** A finger on an element of a screen that this page shows. */
export const touchScreen = (element: string, by: Touched): void => {
  if (!sayToHub({ say: 'touch', element, by }))
    notify('The hub is away, so nothing can be touched on screen just now.')
}

import type { Shaper } from './aspect-kind'

/** Whether the bus that feeds a display is live; always, where its binding says nothing of one. */
export const powered = (source: string | undefined, shaper: Shaper): (() => boolean) => {
  const holds = shaper.aside(source, { as: 'condition' })
  return holds ? () => holds(null) === 1 : () => true
}

import { indicatorKind } from '../aspects/aspects'
import { type Action, type BindingSettings, isBound, targetOf } from './binding'
import type { Rig } from './rig'

/** To which layer of which set something changes. */
export const layerChangeWords = (rig: Rig, { set, to }: Extract<Action, { do: 'layer' }>): string => {
  const turns = to === 'next' || to === 'previous'
  return `${rig.layerSet[set]?.name ?? 'layer'}: ${turns ? to : (rig.layer[to]?.name ?? 'gone')}`
}

/** What a binding acts on or shows: a variable, an event, a layer that it changes to, or what it shows of its own. */
export const boundWords = (rig: Rig, s: BindingSettings): string => {
  const target = targetOf(s)
  if (target) return 'variable' in target ? target.variable : target.event
  if (s.kind !== 'control') return isBound(s) ? indicatorKind(s.kind).shaping(s) : 'nothing yet'
  const change = s.actions.find((a) => a.do === 'layer')
  return change ? layerChangeWords(rig, change) : 'nothing yet'
}

import { indicatorKind } from '../aspects/aspects'
import { type BindingSettings, isBound, targetOf } from './binding'
import type { Rig } from './rig'

/** What a binding acts on or shows: a variable, an event, a layer that it changes to, or what it shows of its own. */
export const boundWords = (rig: Rig, s: BindingSettings): string => {
  const target = targetOf(s)
  if (target) return 'variable' in target ? target.variable : target.event
  if (!isBound(s)) return 'nothing yet'
  if (s.kind !== 'control') return indicatorKind(s.kind).shaping(s)
  const change = s.actions.find((a) => a.do === 'layer')
  if (change?.do !== 'layer') return 'nothing yet'
  const toNext = change.to === 'next' || change.to === 'previous'
  return `${rig.layerSet[change.set]?.name ?? 'layer'}: ${toNext ? change.to : (rig.layer[change.to]?.name ?? 'gone')}`
}

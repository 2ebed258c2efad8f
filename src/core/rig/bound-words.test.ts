import { expect, it } from 'vitest'
import { control, lamp, smallRig } from '../../../tests/rigs'
import type { BindingSettings } from './binding'
import { boundWords } from './bound-words'

const rig = {
  ...smallRig({}),
  layerSet: { one: { id: 'one', name: 'Radio', position: 1, settings: {} as never } },
  layer: { com: { id: 'com', layerSet: 'one', name: 'Tune', position: 1 } },
}
const press = (action: object): BindingSettings =>
  control({ when: 'press', value: null, actions: [action as never] })

it.each<[string, BindingSettings]>([
  ['gear.position', lamp()],
  ['nothing yet', lamp({ variable: null })],
  ['gear.position > 0.5', lamp({ variable: null, show: 'gear.position > 0.5' })],
  ['horn.cancel', press({ do: 'event', event: 'horn.cancel' })],
  ['pump.switch', press({ do: 'toggle', variable: 'pump.switch' })],
  ['Radio: next', press({ do: 'layer', set: 'one', to: 'next' })],
  ['Radio: Tune', press({ do: 'layer', set: 'one', to: 'com' })],
  ['Radio: gone', press({ do: 'layer', set: 'one', to: 'nav' })],
  ['nothing yet', control({ actions: [] })],
])('a binding is bound to %s', (words, settings) => {
  expect(boundWords(rig, settings)).toBe(words)
})

import { expect, it } from 'vitest'
import { control, lamp, smallRig } from '../../../tests/rigs'
import { rowsOf } from '../../core/rig/rig'
import type { PartRow } from '../../core/rig/rows'
import { restTerms } from './rest-terms'

const on = lamp({ variable: 'gear.lever', show: 'value == 1', onlyWhile: null })
const terms = (...parts: Parameters<typeof smallRig>) => {
  const rig = smallRig(...parts)
  return [...restTerms(rig, rig.part.lamp as PartRow, rowsOf(rig, 'binding')).values()]
}

it('what an indicator rests at has one name for each binding', () => {
  expect(terms({ lamp: on })).toEqual(['Rest state'])
  expect(terms({ lamp: [on, on, on] })).toEqual(['Rest state 1', 'Rest state 2', 'Rest state 3'])
  expect(terms({ lamp: on, button: control() })).toEqual(['Rest state'])
})

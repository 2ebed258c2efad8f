import { expect, it } from 'vitest'
import { Changes } from './changes'

const seatOf = (id: string) => ({ notedIn: 0, unit: { part: { id } } })

it('what has changed is named once, by part or by an aspect of it, and again after it was told', () => {
  const changes = new Changes()
  changes.resize(8)
  const [lamp, gauge, other] = [seatOf('button'), seatOf('button'), seatOf('dial')]
  changes.part('button')
  for (const seat of [lamp, gauge, lamp, other]) changes.seat(seat)
  for (const slot of [3, 5, 3]) changes.slot(slot)
  expect([...changes.parts]).toEqual(['button', 'dial'])
  expect(changes.slots).toEqual([3, 5])
  // Asked twice, it says the same; what comes meanwhile comes with it.
  changes.seat(other)
  changes.part('lever')
  expect([...changes.parts]).toEqual(['button', 'dial', 'lever'])
  changes.clear()
  expect([...changes.parts, ...changes.slots]).toEqual([])
  changes.seat(lamp)
  changes.slot(3)
  expect([...changes.parts, ...changes.slots]).toEqual(['button', 3])
})

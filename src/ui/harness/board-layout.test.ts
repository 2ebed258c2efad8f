import { describe, expect, it } from 'vitest'
import { boardModels } from '@/core/catalogue/boards'
import { INNER_STUB_MM, LETTER_MM, layContacts, namePlace } from './board-layout'

const NAME_LETTER_MM = 1.05

describe.each(boardModels.map((m) => [m.name, m] as const))('%s', (_, model) => {
  const all = new Set(model.pins.map((p) => p.name))

  it('has no label on the board that runs into the one that faces it, however it is wired', () => {
    for (const wired of [new Set<string>(), all]) {
      const contacts = layContacts(model, wired)
      const end = (c: (typeof contacts)[number], isWired: boolean) => {
        const name = c.name.length * NAME_LETTER_MM
        return isWired ? INNER_STUB_MM + name + c.letters * LETTER_MM : INNER_STUB_MM + name
      }
      // With nothing wired yet, each is looked at as the first wire there is.
      for (const c of contacts.filter((o) => o.inner && (wired.size === 0 || wired.has(o.name)))) {
        const facing = contacts.find(
          (o) =>
            o.inner &&
            o.faces !== c.faces &&
            Math.abs(o.y - c.y) < 1.5 &&
            o.x > c.x === (c.faces === 'right'),
        )
        if (!facing) continue
        const reach = end(c, true) + end(facing, wired.has(facing.name))
        expect(reach, `${c.name} and ${facing.name}`).toBeLessThan(Math.abs(facing.x - c.x))
      }
    }
  })

  it('has its name on the board, clear of every contact', () => {
    const { x, y, below } = namePlace(model)
    expect(y).toBeGreaterThan(0)
    expect(y + below).toBeLessThan(model.heightMm)
    for (const c of layContacts(model, all))
      if (Math.abs(c.x - x) < 6)
        expect(Math.abs(c.y - (y + below / 2)), c.name).toBeGreaterThan(below / 2 + 1)
  })
})

it('gives a label the whole way to the other side where nothing faces it', () => {
  const large = boardModels.find((m) => m.id === 'atmega2560')
  const d22 = large && layContacts(large, new Set()).find((c) => c.name === 'D22')
  expect(d22).toMatchObject({ inner: true, letters: 44 })
})

it('keeps labels short where the name of the board stands in their way', () => {
  const large = boardModels.find((m) => m.id === 'atmega2560')
  if (!large) throw new Error('the catalogue has changed')
  const { y } = namePlace(large)
  const beside = layContacts(large, new Set()).filter(
    (c) => c.faces === 'left' && c.inner && Math.abs(c.y - y) < 1.5,
  )
  expect(beside.length).toBeGreaterThan(0)
  for (const c of beside) expect(c.letters).toBe(17)
})

import { describe, expect, it } from 'vitest'
import { type Found, HuntWork, nothingFound } from './hunt-work'

/** A lever in the third byte, told of fifty times a second, and a hand that pushes it every six seconds. */
const datagram = (t: number): Uint8Array => {
  const into = t % 6000
  return Uint8Array.of(7, 7, into < 4000 ? 0 : Math.min(200, (into - 4000) / 4), 7)
}

const begin = () => {
  let found: Found = nothingFound
  let told = 0
  let page = 0
  const work = new HuntWork(
    (f) => {
      found = f
      told++
    },
    () => page,
  )
  work.hear({ say: 'begin', bytes: 4, order: 'little' })
  /** Lets so long pass by the hub's clock, which stands at `hub`. */
  const pass = (hub: number, ms: number) => {
    for (let t = 0; t < ms; t += 20) {
      page += 20
      work.hear({ say: 'datagram', bytes: datagram(t), at: hub + t })
    }
  }
  return { work, pass, found: () => found, told: () => told }
}

describe('a hunt among bytes', () => {
  it('says that nothing of the packet has come, also to whoever marks, and that it has once it does', () => {
    const { work, pass, found } = begin()
    expect(found()).toMatchObject({ heard: false, marks: 0 })
    work.hear({ say: 'mark', at: 5000 })
    expect(found()).toMatchObject({ heard: false, marks: 0 })
    pass(6000, 20)
    expect(found()).toMatchObject({ heard: true, marks: 0, guesses: [] })
  })

  it('says what it has found no more often than is worth reading', () => {
    const { work, pass, found, told } = begin()
    pass(0, 4300)
    work.hear({ say: 'mark', at: 4300 })
    const before = told()
    pass(4300, 3000)
    expect(found()).toMatchObject({ marks: 1 })
    expect(told() - before).toBeGreaterThan(5)
    expect(told() - before).toBeLessThan(12)
  })

  it('begins anew with a hub that has: marks of the old time count no more, and it says so until the next', () => {
    const { work, pass, found } = begin()
    pass(900_000, 18_000)
    for (const at of [904_300, 910_300, 916_300]) work.hear({ say: 'mark', at })
    expect(found()).toMatchObject({ marks: 3, anew: false })
    expect(found().guesses[0]).toMatchObject({ at: 2, as: 'u8' })
    pass(1000, 4000)
    expect(found()).toMatchObject({ marks: 0, anew: true, heard: true, guesses: [] })
    pass(5000, 12_000)
    for (const at of [9300, 15_300]) work.hear({ say: 'mark', at })
    expect(found()).toMatchObject({ marks: 2, anew: false })
    expect(found().guesses[0]).toMatchObject({ at: 2, as: 'u8' })
  })

  it('takes what was overtaken on its way as it is', () => {
    const { work, pass, found } = begin()
    pass(10_000, 4000)
    work.hear({ say: 'mark', at: 13_900 })
    work.hear({ say: 'datagram', bytes: datagram(0), at: 12_000 })
    pass(14_000, 400)
    expect(found()).toMatchObject({ marks: 1, anew: false })
  })
})

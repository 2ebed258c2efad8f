import { describe, expect, it } from 'vitest'
import { partKind, partKinds } from '../parts'

const sizes = (id: string) => {
  const kind = partKind(id)
  const [hole] = kind?.mount.cutouts ?? []
  if (!kind || hole?.is !== 'window') throw new Error(`no window ${id}`)
  const { body } = kind.mount
  return { kind, hole, body: [body.widthMm, body.heightMm] }
}

describe('windows for displays that are sold', () => {
  it.each([
    ['digits-4-tm1637', [42, 24], 30.2],
    ['digits-8-max7219', [82, 15], 60.3],
    ['text-16x2', [80, 36], 71.2],
    ['text-20x4', [98, 60], 97],
  ] as const)('%s has the board and the glass or bezel of its module', (id, body, glass) => {
    const { kind, hole, body: own } = sizes(id)
    expect(own).toEqual(body)
    expect(hole.widthMm).toBeGreaterThan(glass)
    expect(hole.widthMm).toBeLessThan(glass + 1)
    expect(kind.module).toBeTruthy()
  })

  it('say which module they are for, and what of it is to be measured', () => {
    for (const kind of partKinds.filter((k) => k.family === 'digits' || k.family === 'text')) {
      expect(kind.module, kind.id).toMatch(/\w+ \w+/)
      expect(kind.varies, kind.id).toMatch(/\w+ \w+/)
    }
  })

  it('show no more than their glass, and hold their screws beside it, on their board', () => {
    for (const kind of partKinds.filter((k) => k.family === 'digits' || k.family === 'text')) {
      const { hole, body } = sizes(kind.id)
      expect(kind.frontMm.width).toBeLessThan(hole.widthMm + 3)
      for (const s of kind.mount.screws) {
        const beside =
          Math.abs(s.xMm) - s.diameterMm / 2 > hole.widthMm / 2 ||
          Math.abs(s.yMm) - s.diameterMm / 2 > hole.heightMm / 2
        expect(beside, kind.id).toBe(true)
        expect(Math.abs(s.xMm)).toBeLessThan((body[0] ?? 0) / 2)
        expect(Math.abs(s.yMm)).toBeLessThan((body[1] ?? 0) / 2)
      }
    }
  })
})

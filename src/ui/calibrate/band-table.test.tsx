// @vitest-environment happy-dom
import { describe, expect, it, vi } from 'vitest'
import type { Band } from '@/core/aspects/travel'
import { useDom } from '../../../tests/dom'
import { BandTable } from './band-table'

const dom = useDom()

const bands: Band[] = [
  { name: 'reverse', from: 0, to: 0.2, gives: [-30, 0], unit: 'percent' },
  { from: 0.3, to: 1, gives: [0, 100], unit: 'percent' },
]

const shown = async () => {
  const put = vi.fn<(bands: readonly Band[]) => void>()
  await dom.draw(<BandTable bands={bands} put={put} />)
  const field = (label: string) => dom.page.querySelector(`[aria-label="${label}"]`) as HTMLInputElement
  const give = async (label: string, text: string) => {
    await dom.type(field(label), text)
    await dom.press(field(label), 'Enter')
  }
  return { put, field, give }
}

describe('bands that are typed', () => {
  it('stop at their neighbours, and say so where it was typed', async () => {
    const { put, give } = await shown()
    await give('Band 1 to', '25')
    expect(put.mock.calls[0]?.[0][0]).toMatchObject({ to: 0.25 })
    await give('Band 1 to', '40')
    expect(put).toHaveBeenCalledTimes(1)
    expect(dom.page.textContent).toContain('40 is outside')
    await give('Band 2 from', '10')
    expect(put).toHaveBeenCalledTimes(1)
  })

  it('have units that are known, or none; another stays as it was typed, with what would do', async () => {
    const { put, field, give } = await shown()
    await give('Unit of band 1', 'furlong')
    expect(put).not.toHaveBeenCalled()
    expect(dom.page.textContent).toContain('“furlong” is no unit')
    expect(field('Unit of band 1').value).toBe('furlong')
    await dom.press(field('Unit of band 1'), 'Escape')
    expect(field('Unit of band 1').value).toBe('percent')
    await give('Unit of band 1', 'deg')
    expect(put.mock.calls[0]?.[0][0]).toMatchObject({ unit: 'deg' })
  })

  it('are flat where they give one thing, and can be bent elsewhere; another goes on where the last one ended', async () => {
    const { put } = await shown()
    expect(dom.page.querySelectorAll('select')).toHaveLength(2)
    await dom.draw(<BandTable bands={[{ from: 0, to: 0.5, gives: [1, 1] }]} put={put} />)
    expect(dom.page.textContent).toContain('flat')
    await dom.click(
      [...dom.page.querySelectorAll('button')].find((b) => b.textContent === 'Another band') ?? null,
    )
    expect(put.mock.calls.at(-1)?.[0]).toEqual([
      { from: 0, to: 0.5, gives: [1, 1] },
      { from: 0.5, to: 1, gives: [0, 1] },
    ])
  })
})

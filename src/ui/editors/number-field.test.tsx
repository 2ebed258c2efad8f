// @vitest-environment happy-dom
import { describe, expect, it, vi } from 'vitest'
import { useDom } from '../../../tests/dom'
import { NumberField } from './number-field'

const dom = useDom()

const shown = async (more: Partial<Parameters<typeof NumberField>[0]> = {}) => {
  const take = vi.fn()
  await dom.draw(
    <NumberField label="after" unit="ms" least={150} most={5000} value={600} take={take} {...more} />,
  )
  const field = dom.page.querySelector('input') as HTMLInputElement
  const give = async (text: string) => {
    await dom.type(field, text)
    await dom.press(field, 'Enter')
  }
  return { take, field, give }
}

describe('a number that is typed', () => {
  it.each([
    ['700', 700],
    ['700 ms', 700],
    ['700,5', 700.5],
    ['150', 150],
    ['5e3', 5000],
  ])('%s is taken as %d', async (text, number) => {
    const { take, give } = await shown()
    await give(text)
    expect(take.mock.calls).toEqual([[number]])
    expect(dom.page.textContent).not.toContain('150 to')
  })

  it.each([
    ['90', '90 is outside'],
    ['6000', '6000 is outside'],
    ['soon', 'Not a number'],
    ['', 'Not a number'],
    ['1e999', 'Not a number'],
  ])('“%s” stays as it was typed, with the reason and what would do', async (text, why) => {
    const { take, field, give } = await shown()
    await give(text)
    expect(take).not.toHaveBeenCalled()
    expect(field.value).toBe(text)
    expect(field.getAttribute('aria-invalid')).toBe('true')
    expect(dom.page.textContent).toContain(why)
    expect(dom.page.textContent).toMatch(/150 to 5,?000 ms/)
    await dom.press(field, 'Escape')
    expect(field.value).toBe('600')
    expect(dom.page.textContent).not.toContain(why)
  })

  it('is not taken again when nothing has changed, and may be left out where there may be none', async () => {
    const { take, give } = await shown()
    await give('600')
    expect(take).not.toHaveBeenCalled()
    const clear = vi.fn()
    const other = await shown({ none: { shown: 'no limit', clear } })
    await other.give('')
    expect(clear).toHaveBeenCalledOnce()
  })
})

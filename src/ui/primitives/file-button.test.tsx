// @vitest-environment happy-dom
import { act } from 'react'
import { describe, expect, it, vi } from 'vitest'
import { useDom } from '../../../tests/dom'
import { useStore } from '../live/store'
import { FileButton } from './file-button'

const dom = useDom()

const give = async (size: number) => {
  const take = vi.fn()
  await dom.draw(<FileButton words="From a file …" label="A file" accept=".json" take={take} />)
  const input = dom.page.querySelector('input') as HTMLInputElement
  const file = new File([''], 'large.json')
  Object.defineProperty(file, 'size', { value: size })
  Object.defineProperty(input, 'files', { value: [file] })
  await act(async () => {
    input.dispatchEvent(new Event('change', { bubbles: true }))
  })
  return take
}

describe('a file that is chosen', () => {
  it('is taken', async () => {
    expect(await give(1000)).toHaveBeenCalledOnce()
  })

  it('is not even opened when it is far too large, and that is said', async () => {
    expect(await give(2_000_000_000)).not.toHaveBeenCalled()
    expect(useStore.getState().notices.at(-1)?.text).toContain('large.json is larger than 8 MB')
  })
})

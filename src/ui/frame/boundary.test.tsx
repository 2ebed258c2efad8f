// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useDom } from '../../../tests/dom'
import { Boundary } from './boundary'

const dom = useDom()
let broken = true
const Odd = () => {
  if (broken) throw new Error('a value is not what it was')
  return <p>all is well</p>
}
const inspector = (of: string) => (
  <>
    <Boundary name="The inspector" of={of}>
      <Odd />
    </Boundary>
    <p>the rest</p>
  </>
)

beforeEach(() => {
  vi.spyOn(console, 'error').mockImplementation(() => {})
  broken = true
})

describe('a part of the page that fails', () => {
  it('says what failed, and shows it again when asked', async () => {
    await dom.draw(inspector('a'))
    expect(dom.page.textContent).toContain('The inspector cannot be shown: a value is not what it was')
    expect(dom.page.textContent).toContain('the rest')
    broken = false
    await dom.click(dom.page.querySelector('button'))
    expect(dom.page.textContent).toContain('all is well')
  })

  it('is forgotten when something else is shown there', async () => {
    await dom.draw(inspector('a'))
    broken = false
    await dom.draw(inspector('b'))
    expect(dom.page.textContent).toContain('all is well')
  })
})

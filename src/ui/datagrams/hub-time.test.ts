import { describe, expect, it } from 'vitest'
import { HubTime } from './hub-time'

describe('the hub’s time on the page', () => {
  it('goes by the message that came most quickly, however far the page is behind now', () => {
    const time = new HubTime()
    expect(time.at(100)).toBeNull()
    for (let i = 0; i < 50; i++) time.hear(70_000 + i * 20, 1000 + i * 20 + 8)
    // A second behind: what is pressed now happened now.
    for (let i = 50; i < 100; i++) time.hear(70_000 + i * 20, 2000 + i * 20 + 8)
    expect(time.at(4000)).toBe(72_992)
  })

  it('follows a hub that has begun anew', () => {
    const time = new HubTime()
    for (let i = 0; i < 100; i++) time.hear(70_000 + i * 20, 1000 + i * 20)
    time.hear(0, 20_000 + 5)
    time.hear(20, 20_020 + 5)
    // From its first word on.
    expect(time.at(20_105)).toBe(100)
  })

  it('and forgets what was quicker a while ago, since clocks drift', () => {
    const time = new HubTime()
    for (let i = 0; i < 1000; i++) time.hear(i * 20, i * 20 + (i < 300 ? 0 : 7))
    expect(time.at(20_007)).toBe(20_000)
  })
})

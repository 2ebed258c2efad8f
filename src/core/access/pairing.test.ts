import { describe, expect, it } from 'vitest'
import { type Allowed, accessObjection, houseHosts, type Knock, loopbackHosts } from './access'
import { CODE_MS, deviceName, Pairing } from './pairing'

const counting = () => {
  let n = 0
  return new Pairing(() => n++ % 10)
}

describe('pairing', () => {
  it('takes the code that is offered, once', () => {
    const pairing = counting()
    expect(pairing.objection('012345', 0)).toMatch(/no code is offered/)
    const { code } = pairing.offer(0)
    expect(code).toBe('012345')
    expect(pairing.objection('012 345', 10)).toBeNull()
    expect(pairing.objection('012345', 20)).toMatch(/no code is offered/)
    expect(pairing.now(20)).toBeNull()
  })

  it('for five minutes, and another in its place', () => {
    const pairing = counting()
    const first = pairing.offer(0)
    const second = pairing.offer(1000)
    expect(pairing.objection(first.code, 2000)).toMatch(/another code/)
    expect(pairing.now(1000 + CODE_MS - 1)?.code).toBe(second.code)
    expect(pairing.objection(second.code, 1000 + CODE_MS)).toMatch(/no code is offered/)
    pairing.offer(0)
    pairing.withdraw()
    expect(pairing.now(1)).toBeNull()
  })

  it('of whoever guesses takes nothing: five wrong ones end a code, twenty a minute end guessing', () => {
    const pairing = counting()
    let right = pairing.offer(0).code
    for (let i = 0; i < 4; i++) expect(pairing.objection('999999', i)).toMatch(/another code/)
    expect(pairing.objection('999998', 5)).toMatch(/once too often/)
    expect(pairing.objection(right, 6)).toMatch(/no code is offered/)
    for (let k = 0; k < 3; k++) {
      right = pairing.offer(10 + k).code
      for (let i = 0; i < 5; i++) pairing.objection('999999', 20 + k)
    }
    right = pairing.offer(100).code
    expect(pairing.objection(right, 200)).toMatch(/too many tries/)
    expect(pairing.objection(right, 60_200)).toBeNull()
  })

  it('a machine that tries all night has less than one chance in ten thousand', () => {
    // At most twenty tries a minute against codes of a million, and a code only while somebody offers one.
    const tries = (CODE_MS / 60_000) * 20
    expect(tries / 1e6).toBeLessThanOrEqual(1e-4)
  })

  it.each([
    [
      'Mozilla/5.0 (iPad; CPU OS 12_5 like Mac OS X) AppleWebKit/605.1.15 Version/12.1 Safari/604.1',
      'iPad · Safari 604',
    ],
    [
      'Mozilla/5.0 (Linux; Android 9) AppleWebKit/537.36 Chrome/88.0.4324.93 Safari/537.36',
      'Android · Chrome 88',
    ],
    ['Mozilla/5.0 (X11; Linux x86_64; rv:91.0) Gecko/20100101 Firefox/91.0', 'Linux · Firefox 91'],
    ['<script>alert(1)</script>', 'Device'],
  ])('names a device: %s', (agent, name) => {
    expect(deviceName(agent)).toBe(name)
  })
})

describe('a device in the house', () => {
  const allowed: Allowed = {
    hosts: [...loopbackHosts(4310), ...houseHosts(4310, ['Bench-PC'], ['192.168.1.20', 'fd00::5'])],
    devices: new Set(['paired']),
  }
  const device: Knock = {
    ...{ method: 'GET', path: '/screen/Fuel page', host: '192.168.1.20:4310', origin: undefined },
    ...{ site: undefined, mode: undefined, remote: '192.168.1.77', device: 'paired' },
  }
  const objection = (more: Partial<Knock>) => accessObjection({ ...device, ...more }, allowed)

  it.each<[string, Partial<Knock>]>([
    ['its screen', {}],
    ['by the name of the computer', { host: 'bench-pc.local:4310' }],
    ['by an address of version 6', { host: '[fd00::5]:4310', remote: 'fd00::77' }],
    ['what that is drawn with', { path: '/screen-files/device.js' }],
    ['its line', { path: '/screen', origin: 'http://192.168.1.20:4310' }],
    ['the page on which it is paired, before it is', { path: '/pair', device: undefined }],
    [
      'saying the code',
      { path: '/pair', method: 'POST', device: undefined, origin: 'http://192.168.1.20:4310' },
    ],
  ])('is let at %s', (_, more) => {
    expect(objection(more)).toBeNull()
  })

  it.each<[string, Partial<Knock>]>([
    ['a screen, unpaired', { device: undefined }],
    ['a screen, with a mark that nobody gave', { device: 'forged' }],
    ['the rig', { path: '/api/rigs' }],
    ['an edit', { path: '/api/edits', method: 'POST' }],
    ['the live feed', { path: '/live' }],
    ['the interface', { path: '/bench' }],
    ['other devices', { path: '/api/devices' }],
    ['something beside a screen', { path: '/screens' }],
    ['a way out of its files', { path: '/screen-files/../api/edits', method: 'POST' }],
    ['writing to its screen', { method: 'POST' }],
    ['its screen by a name that was bent here', { host: 'evil.example:4310' }],
    ['its line for a page of somebody else', { path: '/screen', origin: 'https://evil.example' }],
    [
      'saying a code for a page of somebody else',
      { path: '/pair', method: 'POST', origin: 'https://evil.example' },
    ],
  ])('but not at %s', (_, more) => {
    expect(objection(more)).toMatch(/\w/)
  })

  it('and while the house is shut out, at nothing', () => {
    const shut: Allowed = { hosts: loopbackHosts(4310), devices: new Set() }
    expect(accessObjection(device, shut)).toMatch(/not paired/)
    expect(accessObjection({ ...device, path: '/pair' }, shut)).toMatch(/by this name/)
  })
})

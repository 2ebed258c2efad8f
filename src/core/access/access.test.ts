import { describe, expect, it } from 'vitest'
import { type Allowed, accessObjection, type Knock, loopbackHosts, securityHeaders } from './access'

const allowed: Allowed = { hosts: loopbackHosts(4310), devices: new Set(['paired one']) }
const page: Knock = {
  ...{
    method: 'GET',
    path: '/bench',
    host: '127.0.0.1:4310',
    origin: undefined,
    site: 'none',
    mode: 'navigate',
  },
  ...{ remote: '127.0.0.1', device: undefined },
}
const edit: Knock = {
  ...{ ...page, method: 'POST', origin: 'http://127.0.0.1:4310', site: 'same-origin', mode: 'cors' },
}

describe('who is let in', () => {
  it.each<[string, Knock]>([
    ['a page that is opened', page],
    ['its own edit', edit],
    ['a program without a browser', { ...page, site: undefined, mode: undefined }],
    ['the other names of this computer', { ...page, host: 'localhost:4310' }],
    ['and their origin', { ...edit, host: 'LOCALHOST:4310', origin: 'http://localhost:4310' }],
    ['IPv6', { ...edit, host: '[::1]:4310', origin: 'http://[::1]:4310', remote: '::1' }],
    ['a link on another page', { ...page, site: 'cross-site' }],
    ['a paired device', { ...page, path: '/screen/One', remote: '192.168.1.7', device: 'paired one' }],
  ])('%s', (_, who) => {
    expect(accessObjection(who, allowed)).toBeNull()
  })

  it.each<[string, Knock]>([
    ['a name that was bent to this address', { ...page, host: 'evil.example:4310' }],
    ['no name at all', { ...page, host: undefined }],
    ['another port', { ...page, host: '127.0.0.1:4311' }],
    ['an edit of a page of another origin', { ...edit, origin: 'https://evil.example' }],
    ['one of another port of this computer', { ...edit, origin: 'http://127.0.0.1:3000' }],
    ['one out of a sandbox', { ...edit, origin: 'null' }],
    ['a picture on another page', { ...page, site: 'cross-site', mode: 'no-cors' }],
    ['a page of the same computer that asks by itself', { ...page, site: 'same-site', mode: 'cors' }],
    ['a form on another page', { ...page, method: 'POST', site: 'cross-site' }],
    ['an origin that only begins as ours', { ...edit, origin: 'http://127.0.0.1:4310.evil.example' }],
    ['another scheme', { ...edit, origin: 'ftp://127.0.0.1:4310' }],
    ['a device that nobody paired', { ...edit, remote: '192.168.1.7' }],
    ['one with a made-up mark', { ...edit, remote: '192.168.1.7', device: 'made up' }],
  ])('but not: %s', (_, who) => {
    expect(accessObjection(who, allowed)).toMatch(/\w/)
  })

  it('and no page is shown inside another, nor runs a script that is not its own', () => {
    const { 'Content-Security-Policy': policy = '' } = securityHeaders('abc')
    expect(policy).toContain("frame-ancestors 'none'")
    expect(policy).toMatch(/script-src[^;]*'nonce-abc'/)
    expect(policy).not.toContain('unsafe')
  })
})

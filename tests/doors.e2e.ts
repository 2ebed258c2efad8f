import { request } from 'node:http'
import { connect } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import WebSocket from 'ws'
import { type App, type CraftSide, until } from './app'
import type { Bench } from './browser'
import { borrowOnMirror, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowOnMirror())
})
afterAll(() => endSession({ app, craft, bench }))

interface Asked {
  readonly path?: string
  readonly method?: string
  readonly headers?: Record<string, string>
  readonly body?: string | Buffer
  /** In pieces, without saying how long it will be. */
  readonly pieces?: number
}

/** What a program says that is no browser: any header, any body. */
const ask = ({ path = '/bench', method = 'GET', headers = {}, body = '', pieces = 0 }: Asked) =>
  new Promise<{ status: number; text: string; headers: Record<string, unknown> }>((resolve, reject) => {
    const asked = request(
      { host: '127.0.0.1', port: app.port, path, method, headers, agent: false },
      (answer) => {
        let text = ''
        answer.on('data', (chunk: Buffer) => {
          text += chunk.toString()
        })
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, text, headers: answer.headers }))
      },
    )
    asked.on('error', reject)
    for (let i = 0; i < pieces; i++) asked.write(body)
    asked.end(pieces > 0 ? undefined : body)
  })

const json = { 'content-type': 'application/json' }
const edit = (diff: unknown) =>
  ask({
    path: '/api/edits',
    method: 'POST',
    headers: json,
    body: JSON.stringify({ editId: crypto.randomUUID(), sentence: 'Tried it', diff }),
  })

/** Whether a WebSocket is let in, and what it hears first. */
const join = (url: string, headers: Record<string, string>): Promise<'in' | 'out'> =>
  new Promise((resolve) => {
    const socket = new WebSocket(url, { headers })
    socket.on('open', () => {
      socket.terminate()
      resolve('in')
    })
    socket.on('error', () => resolve('out'))
  })

describe('a page of another origin', () => {
  it.each([
    ['a name bent to this address', { host: 'evil.example' }],
    ['its origin', { origin: 'https://evil.example' }],
    ['what its browser says of it', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' }],
  ])('gets nothing, known by %s', async (_, headers) => {
    for (const path of ['/bench', '/api/health', '/api/history', '/api/harness/wires.csv'])
      expect((await ask({ path, headers })).status).toBe(403)
    const body = JSON.stringify({ editId: crypto.randomUUID(), sentence: 'Mine', diff: [] })
    const edited = await ask({ path: '/api/edits', method: 'POST', headers: { ...json, ...headers }, body })
    expect(edited.status).toBe(403)
    expect(edited.text).toContain('Not let in')
  })

  it('neither listens in nor throws a switch, by the web or past it', async () => {
    const live = `ws://127.0.0.1:${app.port}/live`
    expect(await join(live, { origin: `http://127.0.0.1:${app.port}` })).toBe('in')
    expect(await join(live, { origin: 'https://evil.example' })).toBe('out')
    expect(await join(live, { host: 'evil.example' })).toBe('out')
    // The hub itself listens to nobody who does not know the secret of this start.
    const hub = `ws://127.0.0.1:${app.ports.livePort}/live`
    expect(await join(hub, {})).toBe('out')
    expect(await join(hub, { 'x-clavik-secret': 'guessed' })).toBe('out')
    expect((await fetch(`http://127.0.0.1:${app.ports.livePort}/status`)).status).toBe(403)
  })

  it('cannot hide an order for the craft or the hands in a request', async () => {
    const said = async (port: number, text: string): Promise<boolean> => {
      const socket = connect(port, '127.0.0.1')
      let ended = false
      socket.on('error', () => {})
      socket.on('close', () => {
        ended = true
      })
      socket.resume()
      socket.write(text)
      await until('it hangs up', () => ended)
      return ended
    }
    const before = craft.value('gear.lever')
    const order = '{"say":"set","id":1,"i":0,"v":1}\n'.repeat(3)
    expect(await said(await app.craftPort(), `POST / HTTP/1.1\r\nHost: x\r\n\r\n${order}`)).toBe(true)
    expect(
      await said(app.ports.handPort, '{"say":"simulate","identity":"00112233445566aa","model":"x"}\n'),
    ).toBe(true)
    expect(craft.value('gear.lever')).toBe(before)
  })

  it('does not show Clavik within itself, and runs no script in it', async () => {
    const { headers, text } = await ask({})
    const policy = String(headers['content-security-policy'])
    const nonce = /'nonce-([^']+)'/.exec(policy)?.[1]
    expect(policy).toContain("frame-ancestors 'none'")
    expect(headers['x-content-type-options']).toBe('nosniff')
    expect(headers['referrer-policy']).toBe('no-referrer')
    // Every script of the page has the nonce of this one answer, and another answer another.
    const scripts = [...text.matchAll(/<script\b[^>]*>/g)].map((m) => m[0])
    expect(scripts.length).toBeGreaterThan(2)
    for (const script of scripts) expect(script).toContain(`nonce="${nonce}"`)
    expect(String((await ask({})).headers['content-security-policy'])).not.toContain(nonce)
    const breaches: string[] = []
    bench.page.on('console', (m) => {
      if (/Content Security Policy/i.test(m.text())) breaches.push(m.text())
    })
    for (const view of ['bench', 'panel', 'harness', 'paths', 'mirror'])
      await bench.page.goto(`${app.address}/${view}`, { waitUntil: 'networkidle2' })
    await bench.sees('Craft says')
    expect(breaches).toEqual([])
    const ran = await bench.page.evaluate(() => {
      const script = document.createElement('div')
      script.innerHTML = '<img src=x onerror="window.ran=1">'
      document.body.append(script)
      return new Promise((resolve) =>
        setTimeout(() => resolve((window as unknown as { ran?: number }).ran ?? 0), 300),
      )
    })
    expect(ran).toBe(0)
  })
})

describe('the doors', () => {
  const part = (after: object, before: object = {}) => [
    { op: 'change', table: 'part', id: 'horn-off', before, after },
  ]

  it.each<[string, unknown, number]>([
    ['a NUL', part({ name: 'a\0' }, { name: 'Horn off' }), 400],
    ['half of a pair', part({ name: 'a\ud800' }, { name: 'Horn off' }), 400],
    ['a field that is not there', part({ colour: 'red' }), 400],
    ['nothing', part({}), 400],
    ['another rig', [{ op: 'add', table: 'rig', id: 'b', row: { id: 'b', name: 'B', format: 1 } }], 400],
    [
      'a number of more than 32 bits',
      [{ op: 'change', table: 'lead', id: 'lead-1', before: { number: 1 }, after: { number: 2 ** 40 } }],
      409,
    ],
    [
      'a name that every object has',
      [{ op: 'remove', table: 'part', id: 'constructor', row: { id: 'constructor' } }],
      400,
    ],
  ])('refuse %s with a sentence', async (_, diff, status) => {
    const answer = await edit(diff)
    expect(answer.status).toBe(status)
    expect((JSON.parse(answer.text) as { reasons: string[] }).reasons[0]).toMatch(/\w+ \w+/)
  })

  it('find nothing by a name that every object has', async () => {
    for (const name of ['constructor', '__proto__', 'toString'])
      for (const path of [
        `/api/panels/${name}/file?as=svg`,
        `/api/parts/${name}/dial?as=svg`,
        `/api/harness/${name}`,
        `/api/harness/parts.csv?panel=${name}`,
        `/api/harness/wiring.svg?board=${name}`,
      ])
        expect((await ask({ path })).status).toBeLessThan(500)
  })

  it('measure what comes, also when it does not say how long it is, and answer others meanwhile', async () => {
    const brackets = '['.repeat(1_000_000)
    const post = { path: '/api/edits', method: 'POST', headers: json }
    const [long, deep, file, health] = await Promise.all([
      ask({ ...post, body: brackets, pieces: 40 }).catch(() => ({ status: 413, text: '' })),
      ask({ ...post, body: `${'['.repeat(2000)}${']'.repeat(2000)}` }),
      ask({
        path: '/api/plates',
        method: 'POST',
        headers: json,
        body: Buffer.alloc(1_000_000, 97),
        pieces: 20,
      }).catch(() => ({ status: 413, text: '' })),
      app.health(),
    ])
    expect(long.status).toBe(413)
    expect(deep).toMatchObject({ status: 400, text: expect.stringContaining('nested') })
    expect(file.status).toBe(413)
    expect(health.body.ok).toBe(true)
  })

  it('read files aside: what one does to its reader, no page feels', async () => {
    const dxf = ['0', 'SECTION', '2', 'ENTITIES', '0', 'LWPOLYLINE', '8', '0', '90', '1000000000', '70', '1']
    const hostile = [
      [...dxf, '10', '0', '20', '0', '0', 'ENDSEC', '0', 'EOF'].join('\n'),
      '<!DOCTYPE'.repeat(20_000),
      `<svg xmlns="http://www.w3.org/2000/svg"><g transform="${'a'.repeat(40_000)}"><path d="M0 0L1 1"/></g></svg>`,
      `<svg>${'<g>'.repeat(50_000)}`,
      '0\n'.repeat(400_000),
    ]
    const web = app.pid('web')
    const answers = hostile.map((body) =>
      ask({
        path: '/api/plates',
        method: 'POST',
        headers: json,
        body: JSON.stringify({ name: 'x', text: body, choices: { unitMm: 1 } }),
      }),
    )
    // While they are read, the page lives on: the needle of the feed does not stand still.
    await bench.page.evaluate(() => {
      const times: number[] = []
      Object.assign(window, { times })
      const frame = (t: number) => {
        times.push(t)
        requestAnimationFrame(frame)
      }
      requestAnimationFrame(frame)
    })
    for (const answer of await Promise.all(answers)) {
      // What can be read in part says why there is no plate in it; anything else is refused with a sentence.
      const said = JSON.parse(answer.text) as { reasons?: string[]; plate?: null; problem?: string }
      expect([200, 422]).toContain(answer.status)
      expect(said.plate ?? null).toBeNull()
      expect(said.reasons?.[0] ?? said.problem).toMatch(/\w+ \w+/)
    }
    expect(app.pid('web')).toBe(web)
    await bench.sees('Craft says')
    expect((await app.health()).body.ok).toBe(true)
  })
})

describe('a tab that shouts and never reads', () => {
  it('is shed, and the others hear as before', async () => {
    const socket = new WebSocket(`ws://127.0.0.1:${app.port}/live`)
    await new Promise((resolve) => socket.on('open', resolve))
    socket.pause()
    let shed = false
    socket.on('close', () => {
      shed = true
    })
    const watch = JSON.stringify({ say: 'watch', all: true })
    const shout = setInterval(() => {
      for (let i = 0; i < 200 && socket.readyState === WebSocket.OPEN; i++) socket.send(watch)
    }, 10)
    await until('nothing more is taken from it', () => {
      if (socket.isPaused && socket.bufferedAmount > 0) socket.resume()
      return shed
    })
    clearInterval(shout)
    craft.set('gear.lever', 1)
    await bench.page.goto(`${app.address}/mirror`)
    await bench.sees('Craft says')
  })
})

describe('a page', () => {
  it('says what cannot be kept, and goes on', async () => {
    await bench.page.select('select[aria-label="Panel"]', 'wheels-floats')
    await bench.click('[data-part="horn-off"] .worked')
    await bench.click('[data-station="part"]')
    await bench.page.waitForSelector('[role="dialog"] input')
    await bench.page.$eval('[role="dialog"] input', (e) => {
      const input = e as HTMLInputElement
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set
      set?.call(input, 'Horn \ud83d off')
      input.dispatchEvent(new Event('input', { bubbles: true }))
    })
    await bench.page.keyboard.press('Enter')
    await bench.sees('This cannot be kept')
    await bench.leaveForm()
    const { x, y } = await bench.middleOf('[data-part="horn-off"] .worked')
    await bench.page.mouse.click(x, y, { delay: 60 })
    await bench.sees('Horn off', 'aside')
    expect(bench.errors).toEqual([])
  })
})

import { createHash, randomBytes, randomInt } from 'node:crypto'
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import type { IncomingMessage, ServerResponse } from 'node:http'
import type { Socket } from 'node:net'
import { hostname, networkInterfaces } from 'node:os'
import { join } from 'node:path'
import { z } from 'zod'
import { houseHosts } from '../core/access/access'
import { type DevicesState, deviceName, type PairedDevice, Pairing } from '../core/access/pairing'
import { parseOutside } from '../core/plain-json'

const COOKIE = 'clavik_device'
const YEAR_S = 365 * 24 * 3600
const MOST_DEVICES = 50

const kept = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    digest: z.string(),
    pairedAt: z.number(),
    touch: z.boolean().default(false),
  }),
)

const digestOf = (mark: string): string => createHash('sha256').update(mark).digest('hex')

/** Addresses of this computer in the house, those of version 4 first. */
const ownAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flatMap((i) => i ?? [])
    .filter((i) => !i.internal && !i.address.startsWith('fe80'))
    .sort((a, b) => (a.family === b.family ? 0 : a.family === 'IPv4' ? -1 : 1))
    .map((i) => i.address)

/** Devices in the house that may show screens: paired by a code, kept by the digest of a mark, taken back by the builder. */
export class Devices {
  private all: PairedDevice[] = []
  private readonly lines = new Map<string, Set<{ readonly socket: Socket; readonly screen: string }>>()
  private readonly pairing = new Pairing(() => randomInt(10))
  private readonly file: string

  constructor(
    dataDir: string,
    private readonly port: number,
    readonly open: boolean,
  ) {
    this.file = join(dataDir, 'devices.json')
    try {
      this.all = kept.parse(JSON.parse(readFileSync(this.file, 'utf8')))
    } catch {
      // The first start, or a file that nobody can read: nobody is paired, and the file stays beside.
      if (existsSync(this.file)) renameSync(this.file, `${this.file}.unread`)
    }
  }

  /** The names under which the house reaches it; none while it is closed. */
  get hosts(): string[] {
    return this.open ? houseHosts(this.port, [hostname()], ownAddresses()) : []
  }

  get digests(): ReadonlySet<string> {
    return new Set(this.open ? this.all.map((d) => d.digest) : [])
  }

  /** By what a device is known that sends its mark along; undefined for one that has none. */
  static digestIn(request: IncomingMessage): string | undefined {
    const mark = new RegExp(`(?:^|;\\s*)${COOKIE}=([0-9a-f]{32,128})`).exec(request.headers.cookie ?? '')?.[1]
    return mark === undefined ? undefined : digestOf(mark)
  }

  private keep(): void {
    writeFileSync(`${this.file}.new`, JSON.stringify(this.all), { mode: 0o600 })
    renameSync(`${this.file}.new`, this.file)
  }

  state(): DevicesState {
    const now = performance.now()
    const offered = this.pairing.now(now)
    return {
      open: this.open,
      addresses: this.open
        ? ownAddresses().map((a) => `http://${a.includes(':') ? `[${a}]` : a}:${this.port}`)
        : [],
      offered: offered && { code: offered.code, secondsLeft: Math.ceil((offered.until - now) / 1000) },
      devices: this.all.map(({ id, name, pairedAt, touch, digest }) => ({
        ...{ id, name, pairedAt, touch },
        shows: [...(this.lines.get(digest) ?? [])].map((l) => l.screen),
      })),
    }
  }

  offer(): void {
    this.pairing.offer(performance.now())
  }

  withdraw(): void {
    this.pairing.withdraw()
  }

  /** Takes a device back: it is let in no more, and what it shows now ends. */
  remove(id: string): void {
    const gone = this.all.find((d) => d.id === id)
    if (!gone) return
    this.all = this.all.filter((d) => d !== gone)
    this.keep()
    for (const { socket } of this.lines.get(gone.digest) ?? []) socket.destroy()
  }

  /** Lets fingers on a device do something, or not; its lines begin anew, so that both ends know. */
  letTouch(id: string, touch: boolean): void {
    const device = this.all.find((d) => d.id === id)
    if (!device) return
    this.all = this.all.map((d) => (d === device ? { ...d, touch } : d))
    this.keep()
    for (const { socket } of this.lines.get(device.digest) ?? []) socket.destroy()
  }

  /** Whether a finger on the device with this mark works what it shows. */
  mayTouch(digest: string | undefined): boolean {
    return this.all.some((d) => d.digest === digest && d.touch)
  }

  /** A device shows a screen over this line until it closes. */
  joins(digest: string | undefined, socket: Socket, screen: string): void {
    if (digest === undefined) return
    const own = this.lines.get(digest) ?? new Set()
    this.lines.set(digest, own)
    const line = { socket, screen }
    own.add(line)
    socket.on('close', () => own.delete(line))
  }

  /** Pairs whoever says the code; gives the mark that it carries from then on, or why not. */
  pair(code: string, agent: string): { readonly mark: string } | { readonly problem: string } {
    if (!this.open)
      return { problem: 'Clavik is not open to the house: it is started with bin/start --lan for that' }
    if (this.all.length >= MOST_DEVICES)
      return { problem: `${MOST_DEVICES} devices are paired: take one back first` }
    const problem = this.pairing.objection(code, performance.now())
    if (problem !== null) return { problem }
    const mark = randomBytes(24).toString('hex')
    this.all = [
      ...this.all,
      {
        id: randomBytes(8).toString('hex'),
        name: deviceName(agent),
        digest: digestOf(mark),
        pairedAt: Date.now(),
        touch: false,
      },
    ]
    this.keep()
    return { mark }
  }
}

const escaped = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)

const page = (words: string, code: string): string =>
  [
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Clavik: pair this device</title>',
    '<meta name="viewport" content="width=device-width,initial-scale=1">',
    '<link rel="stylesheet" href="/screen-files/pair.css"></head><body><main>',
    '<h1>Show screens on this device</h1>',
    `<p role="status">${escaped(words)}</p>`,
    '<form method="post" action="/pair">',
    `<label>Code from Bench <input name="code" inputmode="numeric" autocomplete="off" maxlength="9" value="${escaped(code)}" autofocus></label>`,
    '<button>Pair</button></form></main></body></html>',
  ].join('\n')

/** So much a form with a code says at most. */
const MOST_FORM = 400

const bodyOf = (request: IncomingMessage, most: number): Promise<string | null> =>
  new Promise((resolve) => {
    let text = ''
    request.setEncoding('utf8')
    request.on('data', (piece: string) => {
      text += piece
      if (text.length > most) {
        resolve(null)
        request.destroy()
      }
    })
    request.on('end', () => resolve(text))
    request.on('error', () => resolve(null))
  })

/** The page on which a device says the code. */
export const servePairing = async (
  devices: Devices,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> => {
  const url = new URL(request.url ?? '/pair', 'http://clavik')
  // A form whose page names no origin would say none, and not be let in.
  response.setHeader('Referrer-Policy', 'same-origin')
  const html = (status: number, words: string, code = '') => {
    response.writeHead(status, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' })
    response.end(page(words, code))
  }
  if (request.method === 'POST') {
    const body = await bodyOf(request, MOST_FORM)
    const code = new URLSearchParams(body ?? '').get('code') ?? ''
    const paired = devices.pair(code, request.headers['user-agent'] ?? '')
    if ('problem' in paired) {
      html(403, `Not paired: ${paired.problem}.`)
      return
    }
    response.writeHead(303, {
      location: '/screen/',
      'set-cookie': `${COOKIE}=${paired.mark}; Path=/; Max-Age=${YEAR_S}; HttpOnly; SameSite=Strict`,
    })
    response.end()
    return
  }
  html(
    200,
    devices.open
      ? 'On Bench, under Devices, Clavik offers a code of six digits. It is good for five minutes.'
      : 'Clavik is not open to the house: start it with bin/start --lan.',
    url.searchParams.get('code') ?? '',
  )
}

const asked = z.discriminatedUnion('do', [
  z.strictObject({ do: z.enum(['offer', 'withdraw']) }),
  z.strictObject({ do: z.literal('remove'), id: z.string().max(40) }),
  z.strictObject({ do: z.literal('touch'), id: z.string().max(40), on: z.boolean() }),
])

/** The builder's own door to devices: what there is, a code, one less. */
export const serveDevices = async (
  devices: Devices,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> => {
  const answer = (status: number, body: unknown) => {
    response.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' })
    response.end(JSON.stringify(body))
  }
  if (request.method === 'GET') {
    answer(200, devices.state())
    return
  }
  if (request.method !== 'POST' || !request.headers['content-type']?.startsWith('application/json')) {
    answer(415, { reasons: ['It has to come as application/json.'] })
    return
  }
  const parsed = parseOutside((await bodyOf(request, 1000)) ?? '')
  const said = asked.safeParse('problem' in parsed ? null : parsed.value)
  if (!said.success) {
    answer(400, { reasons: ['It is not understood.'] })
    return
  }
  if (said.data.do === 'offer') {
    if (!devices.open) {
      answer(409, { reasons: ['Clavik is not open to the house: start it with bin/start --lan.'] })
      return
    }
    devices.offer()
  } else if (said.data.do === 'remove') devices.remove(said.data.id)
  else if (said.data.do === 'touch') devices.letTouch(said.data.id, said.data.on)
  else devices.withdraw()
  answer(200, devices.state())
}

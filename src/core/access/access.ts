/** What paired devices may ask for: a screen alone, what it is drawn with, and its line. Nothing of it changes anything. */
const forDevices = (method: string, path: string): boolean =>
  (method === 'GET' || method === 'HEAD') && /^\/screen(?:$|\/|-files\/)/.test(path)

/** Where a device that is not paired may knock. */
export const isPairing = (path: string): boolean => path === '/pair' || path === '/screen-files/pair.css'

/** What is known of somebody who asks to be let in, by HTTP or by a WebSocket. */
export interface Knock {
  readonly method: string
  /** What is asked for, without what stands behind a question mark. */
  readonly path: string
  readonly host: string | undefined
  readonly origin: string | undefined
  /** Where a browser says the request comes from, and what for (`Sec-Fetch-Site`, `-Mode`). */
  readonly site: string | undefined
  readonly mode: string | undefined
  /** The address at the other end of the line. */
  readonly remote: string | undefined
  /** What a paired device carries, if this is one. */
  readonly device: string | undefined
}

/** Who is let in: names under which Clavik is reached, and devices that were paired with it. */
export interface Allowed {
  readonly hosts: readonly string[]
  readonly devices: ReadonlySet<string>
}

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'] as const

/** The names of this very computer, at a port. */
export const loopbackHosts = (port: number): string[] => LOOPBACK.map((h) => `${h}:${port}`)

/** Names and addresses under which other devices in the house reach it. */
export const houseHosts = (
  port: number,
  names: readonly string[],
  addresses: readonly string[],
): string[] => [
  ...addresses.map((a) => `${a.includes(':') ? `[${a}]` : a}:${port}`),
  ...names.flatMap((n) => [
    `${n.toLowerCase()}:${port}`,
    `${n.toLowerCase().replace(/\.local$/, '')}.local:${port}`,
  ]),
]

export const isLoopback = (remote: string | undefined): boolean =>
  remote === '::1' || /^(::ffff:)?127\./.test(remote ?? '')

/**
 * Why somebody is not let in, in words, or null: the one rule for pages, doors and both WebSockets. A page that was
 * reached by another name, or that belongs to somebody else, can neither read the rig nor throw a switch.
 */
export const accessObjection = (who: Knock, { hosts, devices }: Allowed): string | null => {
  if (!isLoopback(who.remote) && !isPairing(who.path)) {
    if (!devices.has(who.device ?? '')) return 'this device is not paired with Clavik'
    if (!forDevices(who.method, who.path)) return 'a paired device shows screens and does nothing else'
  }
  if (!hosts.includes(who.host?.toLowerCase() ?? '')) return 'Clavik is not reached by this name'
  const { origin } = who
  if (origin !== undefined && !isOwn(origin, hosts)) return 'a page of another origin is not let in'
  // A link from elsewhere may lead here; nothing else may be asked for by a foreign page.
  const leads = who.method === 'GET' && who.mode === 'navigate'
  if ((who.site === 'cross-site' || who.site === 'same-site') && !leads)
    return 'a page of another origin is not let in'
  return null
}

const isOwn = (origin: string, hosts: readonly string[]): boolean => {
  if (!URL.canParse(origin)) return false
  const { protocol, host } = new URL(origin)
  return (protocol === 'http:' || protocol === 'https:') && hosts.includes(host)
}

/** What a browser is told with everything that it gets. `nonce` is of this one page. */
export const securityHeaders = (nonce: string): Readonly<Record<string, string>> => ({
  'Content-Security-Policy': [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
    `style-src 'self' 'nonce-${nonce}'`,
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; '),
  'X-Content-Type-Options': 'nosniff',
  'X-Frame-Options': 'DENY',
  'Referrer-Policy': 'no-referrer',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Permissions-Policy': 'camera=(), microphone=(), geolocation=()',
})

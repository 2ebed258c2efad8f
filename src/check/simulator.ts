import type { EventInfo, VariableInfo } from '../core/rig/simulator-catalogue'
import { foreignWords } from '../links/foreign'
import { type FromSimulator, readerOfSimulator, SIMULATOR_LINK_VERSION } from '../links/simulator-link'
import { readCatalogue } from '../links/told-catalogue'
import type { Findings } from './findings'
import { type CheckWire, type OpenWire, pause, within } from './wire'

/** How long a simulator has for what it says by itself, and for its answers. */
const PATIENCE_MS = 2000
/** For how long frames are counted. */
const COUNT_MS = 2000

export interface SimulatorAsked {
  /** An event that may be sent, by its name; without one none is. */
  readonly event: string | null
}

interface Heard {
  readonly m: FromSimulator
  readonly at: number
}

/** One connection to the simulator, with everything that it has said over it. */
class Talk {
  readonly heard: Heard[] = []
  first = ''
  isClosed = false
  private readonly reader = readerOfSimulator()
  private readonly text = new TextDecoder()
  private wire: CheckWire | null = null
  private id = 100

  async open(open: OpenWire): Promise<this> {
    this.wire = await open({
      received: (bytes) => {
        const text = this.text.decode(bytes, { stream: true })
        if (this.first.length < 64) this.first += text.slice(0, 64)
        for (const m of this.reader.push(text)) this.heard.push({ m, at: Date.now() })
      },
      closed: () => {
        this.isClosed = true
      },
    })
    return this
  }

  close(): void {
    this.wire?.close()
  }

  /** What was said that is not understood, and how much of it. */
  get bad(): { readonly count: number; readonly problem: string | null } {
    return { count: this.reader.bad, problem: this.reader.problem }
  }

  say(text: string): void {
    this.wire?.send(text)
  }

  /** The first message of a kind that comes from now on, or since some earlier moment. */
  next<S extends FromSimulator['say']>(
    say: S,
    ms: number,
    from = this.heard.length,
    fits: (m: Extract<FromSimulator, { say: S }>) => boolean = () => true,
  ): Promise<Extract<FromSimulator, { say: S }> | null> {
    const isIt = (m: FromSimulator): m is Extract<FromSimulator, { say: S }> => m.say === say
    return within(ms, () => {
      for (const { m } of this.heard.slice(from)) if (isIt(m) && fits(m)) return m
      return null
    })
  }

  /** Asks something and gives its answer: '' where it was done, else what was objected; null where none came. */
  async ask(order: object): Promise<string | null> {
    const id = ++this.id
    const from = this.heard.length
    this.say(`${JSON.stringify({ ...order, id })}\n`)
    return this.answerTo(id, from)
  }

  answerTo(id: number, from: number): Promise<string | null> {
    return within(PATIENCE_MS, () => {
      for (const { m } of this.heard.slice(from)) {
        if (m.say === 'done' && m.id === id) return { words: '' }
        if (m.say === 'error' && m.id === id) return { words: m.message || 'no reason given' }
      }
      return null
    }).then((a) => a?.words ?? null)
  }
}

interface Known {
  readonly variables: readonly VariableInfo[]
  readonly events: readonly EventInfo[]
  readonly values: Map<number, number | string | boolean | null>
  readonly rateHz: number | null
}

/** Speaks the simulator link with whoever answers, tries every message, good and bad, and notes what comes of it. */
export const checkSimulator = async (
  open: OpenWire,
  findings: Findings,
  asked: SimulatorAsked,
): Promise<void> => {
  const talk = await new Talk().open(open)
  try {
    const known = await greet(talk, findings)
    if (!known) return
    await subscribe(talk, known, findings)
    await order(talk, known, findings)
    await sendEvent(talk, known, findings, asked)
    await sayNonsense(talk, findings)
    await comeBack(talk, open, known, findings)
    findings.judge(
      'everything it says is understood',
      talk.bad.count === 0 ? null : `${talk.bad.count} lines were not, the last: ${talk.bad.problem}`,
    )
  } finally {
    talk.close()
  }
}

const greet = async (talk: Talk, findings: Findings): Promise<Known | null> => {
  const hello = await talk.next('hello', PATIENCE_MS, 0)
  if (!hello) {
    const who = foreignWords(talk.first)
    const said = talk.bad.count > 0 ? `; what it says instead: ${talk.first.slice(0, 40)}` : ''
    findings.add('missing', 'hello of itself within 2 s', who ?? `nothing that is one came${said}`)
    return null
  }
  findings.judge(
    'hello of itself within 2 s',
    hello.version === SIMULATOR_LINK_VERSION
      ? null
      : `it speaks version ${hello.version}, Clavik speaks ${SIMULATOR_LINK_VERSION}`,
    `craft “${hello.craft}”`,
  )
  talk.say(`{"say":"hello","version":${SIMULATOR_LINK_VERSION}}\n`)
  const told = await talk.next('catalogue', PATIENCE_MS, 0)
  if (!told) {
    findings.add('missing', 'catalogue of itself within 2 s of the connection')
    return null
  }
  const { variables, events, odd } = readCatalogue(told.variables, told.events)
  findings.add('right', 'catalogue', `${variables.length} variables, ${events.length} events`)
  if (variables.length === 0)
    findings.add('wrong', 'catalogue', 'it has no variable, so there is nothing to show')
  for (const o of odd)
    if (o.startsWith('Names that are written')) findings.add('right', 'names', o)
    else findings.add('wrong', 'catalogue', o)
  await pause(300)
  const early = talk.heard.some(({ m }) => m.say === 'frame')
  findings.judge('no frame before it is asked for', early ? 'frames came before the first subscribe' : null)
  return { variables, events, values: new Map(), rateHz: hello.rateHz ?? null }
}

const rightType = (info: VariableInfo, value: number | string | boolean | null): boolean => {
  if (value === null) return true
  if (info.type === 'text') return typeof value === 'string'
  if (info.type === 'boolean') return value === 0 || value === 1 || typeof value === 'boolean'
  return typeof value === 'number'
}

const subscribe = async (talk: Talk, known: Known, findings: Findings): Promise<void> => {
  const { variables, values } = known
  let from = talk.heard.length
  talk.say('{"say":"subscribe","i":"all"}\n')
  const first = await talk.next('frame', PATIENCE_MS, from)
  if (!first) {
    findings.add('missing', 'a frame after subscribe to all')
    return
  }
  await pause(COUNT_MS)
  const frames = talk.heard.slice(from).flatMap(({ m }) => (m.say === 'frame' ? [m] : []))
  for (const f of frames) for (const [k, i] of f.i.entries()) values.set(i, f.v[k] ?? null)
  const untold = variables.filter((_, i) => !values.has(i))
  findings.judge(
    'all values are told at once after subscribe to all',
    untold.length === 0
      ? null
      : `${untold.length} never came, such as “${untold[0]?.name}”; one without a value is told as null`,
    `${values.size} values`,
  )
  const beyond = [...values.keys()].find((i) => i >= variables.length)
  findings.judge(
    'indexes are those of the catalogue, from 0',
    beyond === undefined ? null : `index ${beyond} is beyond the ${variables.length} variables`,
  )
  const wrong = variables.filter((v, i) => values.has(i) && !rightType(v, values.get(i) ?? null))
  findings.judge(
    'values are of the type that the catalogue says',
    wrong[0]
      ? `“${wrong[0].name}” is told as ${typeof values.get(variables.indexOf(wrong[0]))}, not ${wrong[0].type}`
      : null,
  )
  const outside = variables.filter((v, i) => {
    const value = values.get(i)
    return v.range && typeof value === 'number' && (value < v.range[0] || value > v.range[1])
  })
  findings.judge(
    'values are within the ranges that the catalogue says',
    outside[0]
      ? `“${outside[0].name}” is ${values.get(variables.indexOf(outside[0]))}, its range ${outside[0].range?.join(' to ')}`
      : null,
  )
  const backwards = frames.some((f, i) => i > 0 && f.t < (frames[i - 1]?.t ?? 0))
  findings.judge(
    'the time of frames never runs back',
    backwards ? 'a frame had an earlier t than the one before' : null,
  )
  const hz = frames.length / (COUNT_MS / 1000)
  const meant = known.rateHz
  findings.judge(
    'frames come at the rate of the hello',
    meant === null || (hz > meant * 0.7 && hz < meant * 1.3)
      ? null
      : `${hz.toFixed(1)} a second came, the hello says ${meant}`,
    meant === null ? 'it says none' : `${hz.toFixed(1)} a second`,
  )
  from = talk.heard.length
  talk.say('{"say":"subscribe","i":[0]}\n')
  const only = await talk.next('frame', PATIENCE_MS, from, (f) => f.i.includes(0))
  findings.judge(
    'subscribe replaces what was asked before, and tells it at once',
    only ? null : 'variable 0 was not told again although it was asked for',
  )
  await pause(300)
  from = talk.heard.length
  talk.say('{"say":"subscribe","i":[]}\n')
  await pause(300)
  from = talk.heard.length
  const empty = await talk.next('frame', PATIENCE_MS, from)
  if (!empty)
    findings.add(
      'missing',
      'frames when nothing is subscribed',
      'after two seconds without one it counts as gone',
    )
  else
    findings.judge(
      'frames when nothing is subscribed',
      empty.i.length === 0 ? null : 'it still told values that nobody asked for',
    )
  talk.say('{"say":"subscribe","i":"all"}\n')
  await talk.next('frame', PATIENCE_MS)
}

/** Whether an order that must be refused was. */
const refused = (findings: Findings, what: string, answer: string | null): void => {
  if (answer === null)
    findings.add('missing', what, 'it was not answered; each set and event is, with done or error')
  else findings.judge(what, answer === '' ? 'it was taken, with done' : null, `“${answer}”`)
}

const order = async (talk: Talk, { variables, values }: Known, findings: Findings): Promise<void> => {
  const settable = variables.findIndex(
    (v, i) =>
      v.writable &&
      v.type !== 'text' &&
      typeof values.get(i) !== 'string' &&
      (values.get(i) ?? null) !== null,
  )
  const present = Number(values.get(settable) ?? 0)
  if (settable < 0) findings.add('not tried', 'set', 'no variable is writable and has a value')
  else {
    const name = variables[settable]?.name
    const answer = await talk.ask({ say: 'set', i: settable, v: present })
    if (answer === null)
      findings.add('missing', 'set is answered', `“${name}” was set to the ${present} that it is`)
    else findings.judge('set is done', answer === '' ? null : `“${name}” to ${present}: ${answer}`)
    refused(
      findings,
      'set to a text where a number goes is refused',
      await talk.ask({ say: 'set', i: settable, v: 'purple' }),
    )
  }
  const ranged = variables.findIndex(
    (v, i) => v.writable && v.range !== null && typeof values.get(i) === 'number',
  )
  const range = variables[ranged]?.range
  if (!range) findings.add('not tried', 'set beyond a range is refused', 'no writable variable has a range')
  else {
    const answer = await talk.ask({ say: 'set', i: ranged, v: range[1] + (range[1] - range[0]) + 1 })
    refused(findings, 'set beyond a range is refused', answer)
    if (answer === '') await talk.ask({ say: 'set', i: ranged, v: values.get(ranged) })
  }
  const fixed = variables.findIndex((v, i) => !v.writable && typeof values.get(i) === 'number')
  if (fixed < 0)
    findings.add('not tried', 'set of what is only read is refused', 'every variable is writable')
  else
    refused(
      findings,
      'set of what is only read is refused',
      await talk.ask({ say: 'set', i: fixed, v: values.get(fixed) }),
    )
  refused(
    findings,
    'set of a variable that is not there is refused',
    await talk.ask({ say: 'set', i: variables.length + 5, v: 1 }),
  )
  if (settable >= 0) await inPieces(talk, settable, present, findings)
}

/** TCP is a stream: a line may come in pieces, and two at once. */
const inPieces = async (talk: Talk, i: number, v: number, findings: Findings): Promise<void> => {
  const from = talk.heard.length
  talk.say(`{"say":"set","id":9001,"i":${i},`)
  await pause(120)
  talk.say(`"v":${v}}\n{"say":"set","id":9002,"i":${i},"v":${v}}\n`)
  const [first, second] = [await talk.answerTo(9001, from), await talk.answerTo(9002, from)]
  findings.judge(
    'a line that comes in two pieces is understood',
    first === null ? 'it was not answered' : null,
  )
  findings.judge(
    'two lines that come at once are understood',
    second === null ? 'the second was not answered' : null,
  )
}

const sendEvent = async (
  talk: Talk,
  { events }: Known,
  findings: Findings,
  { event }: SimulatorAsked,
): Promise<void> => {
  refused(
    findings,
    'an event that is not there is refused',
    await talk.ask({ say: 'event', e: events.length + 5, v: null }),
  )
  const at = event === null ? -1 : events.findIndex((e) => e.name === event)
  if (at < 0) {
    const why = event === null ? 'say with --event NAME which may be sent' : `it tells no event “${event}”`
    findings.add(event === null ? 'not tried' : 'wrong', 'an event is done', why)
    return
  }
  const value = events[at]?.value ? 0 : null
  const answer = await talk.ask({ say: 'event', e: at, v: value })
  if (answer === null) findings.add('missing', 'an event is answered', `“${event}”`)
  else findings.judge('an event is done', answer === '' ? null : `“${event}”: ${answer}`)
}

const nonsense: readonly (readonly [string, string])[] = [
  ['a line that is no JSON', 'BEEP'],
  ['a message that is not known', '{"say":"purr"}'],
  ['a message without its fields', '{"say":"set"}'],
  ['a list in place of a message', '[1,2,3]'],
  ['letters beyond ASCII', '{"say":"Ω→é"}'],
]

const sayNonsense = async (talk: Talk, findings: Findings): Promise<void> => {
  for (const [what, text] of nonsense) {
    const from = talk.heard.length
    talk.say(`${text}\n`)
    const objection = await talk.next('error', PATIENCE_MS, from, (m) => m.id === null)
    if (talk.isClosed) {
      findings.add(
        'wrong',
        what,
        'it closed the connection; the next line is heard, whatever the last one was',
      )
      return
    }
    if (objection) findings.add('right', `${what} is objected to`, `“${objection.message}”`)
    else
      findings.add(
        'missing',
        `${what} is objected to`,
        'an error with the id null says what was not understood',
      )
  }
  talk.say(`${'x'.repeat(200_000)}\n`)
  const frame = await talk.next('frame', PATIENCE_MS)
  findings.judge(
    'it goes on after a line of 200,000 signs',
    frame && !talk.isClosed ? null : 'no frame came any more',
  )
}

const comeBack = async (talk: Talk, open: OpenWire, known: Known, findings: Findings): Promise<void> => {
  talk.close()
  await pause(300)
  let again: Talk
  try {
    again = await new Talk().open(open)
  } catch (error) {
    findings.add(
      'wrong',
      'it can be connected to again',
      String(error instanceof Error ? error.message : error),
    )
    return
  }
  const told = await again.next('catalogue', PATIENCE_MS, 0)
  const names = told ? readCatalogue(told.variables, told.events).variables.map((v) => v.name) : []
  const same = names.length === known.variables.length && known.variables.every((v, i) => v.name === names[i])
  if (!told) findings.add('missing', 'everything begins anew after a lost connection', 'no catalogue came')
  else
    findings.judge(
      'everything begins anew after a lost connection',
      same ? null : 'the catalogue has other names than before',
    )
  again.close()
}

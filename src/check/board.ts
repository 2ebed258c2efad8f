import { BLANK, type Configuration, decodeConfiguration, fingerprint } from '../core/harness/slot'
import { type FromBoard, hostEnd, PIECE_BYTES } from '../links/board-link'
import { foreignWords } from '../links/foreign'
import { BOARD_LINK_VERSION, cobsEncode, crc16, encodeFrame } from '../links/framing'
import { StateDigest } from '../links/state-digest'
import type { Findings } from './findings'
import { checkJoints, type Joint } from './joints'
import { showAll } from './showing'
import { ANSWER_MS, SILENCE_MS, Talk } from './talk'
import { type Clock, type OpenWire, wallClock } from './wire'

/** Many boards start anew when their port is opened, and wait for a new program first. */
const HELLO_MS = 4000
const LEAST_FRAME_BYTES = 64

type Hello = Extract<FromBoard, { say: 'hello' }>

/**
 * Speaks the board link with what answers, tries every message, good and bad, and notes what comes of it. Where outputs are
 * joined to inputs, those are tried, too.
 */
export const checkBoard = async (
  open: OpenWire,
  findings: Findings,
  clock: Clock = wallClock,
  joints: readonly Joint[] = [],
): Promise<void> => {
  const talk = await new Talk(clock).open(open)
  try {
    const hello = await greet(talk, findings)
    if (!hello) return
    const held = await readHeld(talk, hello, findings)
    await start(talk, findings)
    await beats(talk, findings)
    await damaged(talk, findings)
    await repeated(talk, findings)
    await reports(talk, findings)
    if (held) {
      await show(talk, held.configuration, findings)
      await showAll(talk, held.configuration, hello.limits.frameBytes, findings)
    }
    await load(talk, hello, held?.bytes ?? null, findings)
    await rest(talk, findings)
    if (joints.length > 0) await checkJoints(talk, joints, held?.bytes ?? null, findings)
    findings.judge(
      'everything it says is understood',
      talk.bad === 0
        ? null
        : `${talk.bad} frames were not: damaged, or of a kind or length that is not known`,
    )
  } finally {
    talk.close()
  }
}

const greet = async (talk: Talk, findings: Findings): Promise<Hello | null> => {
  let hello: Hello | null = null
  for (const end = talk.clock.now() + HELLO_MS; !hello && talk.clock.now() < end; )
    hello = await talk.ask({ say: 'hello' }, 'hello', 500)
  if (!hello) {
    const strange = talk.strangeVersion
    const why =
      foreignWords(talk.first) ??
      (strange !== null
        ? `it speaks version ${strange} of the link, Clavik speaks ${BOARD_LINK_VERSION}`
        : talk.first === ''
          ? 'it says nothing at all'
          : 'what it says is no sound frame: another speed, or another program')
    findings.add('missing', 'hello is answered with its own', why)
    return null
  }
  findings.add('right', 'hello is answered with its own', `${hello.model} ${hello.identity}`)
  findings.judge('it has an identity', /^0+$/.test(hello.identity) ? 'it is all zeros' : null)
  findings.judge('it names its model', hello.model === '' ? 'the model is empty' : null)
  const { frameBytes, bytesPerS, configurationBytes, slots } = hello.limits
  findings.judge(
    'it says what it can hold and carry',
    frameBytes < LEAST_FRAME_BYTES
      ? `it takes frames of ${frameBytes} bytes; 64 is the least`
      : bytesPerS === 0 || configurationBytes === 0 || slots === 0
        ? 'one of its limits is zero'
        : null,
    `${slots} slots, ${configurationBytes} bytes, frames of ${frameBytes}, ${bytesPerS} bytes a second`,
  )
  const same = await talk.ask({ say: 'hello' }, 'hello')
  findings.judge(
    'a second hello finds it as it was',
    !same
      ? 'it was not answered'
      : same.identity !== hello.identity || same.boot !== hello.boot
        ? 'identity or start number changed'
        : null,
  )
  return hello
}

interface Held {
  readonly bytes: Uint8Array
  readonly configuration: Configuration
}

const readHeld = async (talk: Talk, hello: Hello, findings: Findings): Promise<Held | null> => {
  const bytes = new Uint8Array(hello.length)
  for (let offset = 0; offset < bytes.length; ) {
    const piece = await talk.ask({ say: 'read', offset }, 'piece', ANSWER_MS, (p) => p.offset === offset)
    if (!piece || piece.bytes.length === 0 || piece.bytes.length > PIECE_BYTES) {
      findings.add(piece ? 'wrong' : 'missing', 'what it holds can be read', `at offset ${offset}`)
      return null
    }
    bytes.set(piece.bytes.subarray(0, bytes.length - offset), offset)
    offset += piece.bytes.length
  }
  if (bytes.length === 0) {
    const piece = await talk.ask({ say: 'read', offset: 0 }, 'piece')
    findings.judge('a read is answered, also where it holds nothing', piece ? null : 'no piece came')
    findings.judge(
      'it says zero as the fingerprint of nothing',
      hello.fingerprint === BLANK ? null : hello.fingerprint,
    )
    return null
  }
  findings.judge(
    'what it holds fits its fingerprint',
    fingerprint(bytes) === hello.fingerprint
      ? null
      : `it is ${fingerprint(bytes)}, the hello says ${hello.fingerprint}`,
  )
  const read = decodeConfiguration(bytes)
  if ('problem' in read) {
    findings.add('wrong', 'what it holds is a configuration', read.problem)
    return null
  }
  findings.add('right', 'what it holds can be read', `${read.slots.length} slots, ${bytes.length} bytes`)
  return { bytes, configuration: read }
}

const start = async (talk: Talk, findings: Findings): Promise<void> => {
  const from = talk.heard.length
  talk.say({ say: 'start' })
  const all = await talk.hear('all inputs', ANSWER_MS, from)
  if (all)
    findings.add(
      'right',
      'start is answered with where every input stands',
      `${all.inputs.length} inputs in the first frame`,
    )
  else
    findings.add(
      'missing',
      'start is answered with where every input stands',
      'no “all inputs” came, not even an empty one',
    )
  const beat = await talk.heartbeat(1000, (b) => b.started)
  findings.judge('its heartbeat says that it was started', beat ? null : 'the flag never came')
}

const beats = async (talk: Talk, findings: Findings): Promise<void> => {
  const from = talk.heard.length
  await talk.pause(2000)
  const times = talk.heard.slice(from).flatMap(({ m, at }) => (m.say === 'heartbeat' ? [at] : []))
  if (times.length < 2) {
    findings.add('missing', 'heartbeats four times a second', `${times.length} came in two seconds`)
    return
  }
  findings.judge(
    'heartbeats four times a second',
    times.length >= 6 && times.length <= 40 ? null : `${times.length} came in two seconds`,
    `${(times.length / 2).toFixed(1)} a second`,
  )
  const sequence = talk.say({ say: 'read', offset: 0 })
  const heard = await talk.heartbeat(1000, (b) => ((b.heard - sequence) & 255) < 128)
  findings.judge(
    'its heartbeat tells the frame that it heard last',
    heard ? null : 'it never told the one just sent',
  )
}

/** Frames that no board may take, and that it counts. */
const damaged = async (talk: Talk, findings: Findings): Promise<void> => {
  const sound = encodeFrame(0x01, 0, [])
  const flipped = Uint8Array.from(sound, (b, i) => (i === 2 ? b ^ 0x41 || 1 : b))
  const body = [BOARD_LINK_VERSION + 1, 0x01, 0]
  const crc = crc16(Uint8Array.from(body))
  const strange = cobsEncode(Uint8Array.from([...body, crc & 255, crc >> 8]))
  const kinds: readonly (readonly [string, Uint8Array])[] = [
    ['a damaged frame', flipped],
    ['a frame of another version', strange],
    ['a frame without end', Uint8Array.from([...new Array<number>(900).fill(7), 0])],
    ['a kind of frame that is not known', encodeFrame(0x6f, 250, [1, 2, 3])],
  ]
  for (const [what, bytes] of kinds) {
    const before = (await talk.heartbeat(1500))?.bad ?? 0
    const from = talk.heard.length
    talk.raw(bytes)
    const counted = await talk.heartbeat(1500, (b) => b.bad !== before)
    const answered = talk.heard.slice(from).some(({ m }) => m.say === 'hello' || m.say === 'answer')
    findings.judge(
      `${what} is dropped and counted`,
      answered ? 'it was answered' : counted ? null : 'its count of bad frames stayed as it was',
    )
  }
  findings.judge(
    'it listens on after bad frames',
    (await talk.ask({ say: 'read', offset: 0 }, 'piece')) ? null : 'a read was not answered',
  )
}

const repeated = async (talk: Talk, findings: Findings): Promise<void> => {
  const twin = hostEnd()
  // Numbers that follow on those of the talk, so that only the repetition is one.
  // No heartbeat takes a number in between.
  talk.silent = true
  const sequence = talk.say({ say: 'read', offset: 0 })
  for (let i = 0; i <= sequence; i++) twin.encode({ say: 'read', offset: 0 })
  await talk.pause(300)
  const from = talk.heard.length
  const { bytes } = twin.encode({ say: 'read', offset: 0 })
  talk.raw(bytes)
  talk.raw(bytes)
  await talk.pause(500)
  talk.silent = false
  const answers = talk.heard.slice(from).filter(({ m }) => m.say === 'piece').length
  findings.judge(
    'a frame that is said twice counts once',
    answers === 1 ? null : answers === 0 ? 'it was not answered at all' : `it was answered ${answers} times`,
  )
  // The numbers of the talk begin anew, as a hello does it.
  await talk.ask({ say: 'hello' }, 'hello')
}

const reports = async (talk: Talk, findings: Findings): Promise<void> => {
  const now = await talk.heartbeat(1500)
  if (!now) return
  const from = talk.heard.length
  talk.say({ say: 'again', from: (now.next + 0x4000) & 0xffff })
  findings.judge(
    'a report that has not been yet is answered with where everything stands',
    (await talk.hear('all inputs', ANSWER_MS, from)) ? null : 'no “all inputs” came',
  )
  const later = talk.heard.length
  // A digest that is right is as good as impossible to hit by chance.
  talk.knows(0x5eed5eed)
  const put = await talk.hear('all inputs', 2000, later)
  talk.knows(0)
  findings.judge(
    'inputs that the computer knows wrongly are said anew',
    put ? null : 'a wrong digest in the heartbeat brought no “all inputs”',
  )
}

/** Shows something on what it holds, and compares the digests. */
const show = async (talk: Talk, { slots }: Configuration, findings: Findings): Promise<void> => {
  const lamps = slots.flatMap((s, i) => (s.kind === 'lamp' ? [i] : [])).slice(0, 8)
  if (lamps.length === 0) {
    findings.add('not tried', 'outputs are confirmed', 'it holds no lamp')
    return
  }
  talk.say({ say: 'start' })
  await talk.pause(100)
  const digest = new StateDigest()
  for (const state of [255, 0]) {
    for (const slot of lamps) digest.put(slot, 0, state)
    const said = talk.clock.now()
    talk.say({ say: 'outputs', outputs: lamps.map((slot) => ({ slot, state })) })
    const beat = await talk.heartbeat(1500, (b) => b.digest === digest.value)
    findings.judge(
      state === 0 ? 'lamps that are put out are confirmed' : 'lamps that are lit are confirmed',
      beat ? null : 'the digest in its heartbeat is not that of what it was told',
      beat ? `after ${Math.round(talk.clock.now() - said)} ms` : '',
    )
  }
  const before = digest.value
  talk.say({ say: 'outputs', outputs: [{ slot: slots.length + 50, state: 1 }] })
  await talk.pause(300)
  const after = await talk.heartbeat(1500)
  findings.judge(
    'a state for a slot that it has not is not counted',
    after && after.digest === before ? null : 'its digest changed',
  )
}

const load = async (talk: Talk, hello: Hello, held: Uint8Array | null, findings: Findings): Promise<void> => {
  const tooLong = hello.limits.configurationBytes + 1
  const refused = await talk.step({ say: 'load begin', length: tooLong, fingerprint: hello.fingerprint })
  if (refused === null) {
    findings.add('missing', 'a load that does not fit is refused', 'it was not answered')
    return
  }
  findings.judge(
    'a load that does not fit is refused',
    refused === '' ? `${tooLong} bytes were taken` : null,
    `“${refused}”`,
  )
  if (!held) {
    findings.add(
      'not tried',
      'a load is taken',
      'it holds nothing that could be loaded again; load it once, then check it',
    )
    return
  }
  const print = fingerprint(held)
  await talk.step({ say: 'load begin', length: held.length, fingerprint: print })
  const early = await talk.step({ say: 'load commit', fingerprint: '0123456789abcdef' })
  findings.judge(
    'a load that is not whole is refused, and the old one kept',
    early === null ? 'the commit was not answered' : early === '' ? 'it was taken' : null,
    early ? `“${early}”` : '',
  )
  const kept = await talk.ask({ say: 'hello' }, 'hello', 2000)
  if (kept?.fingerprint !== hello.fingerprint)
    findings.add('wrong', 'it keeps what it held until the commit', 'its fingerprint is another now')
  const problem = await talk.load(held)
  if (problem === null) findings.add('missing', 'each step of a load is answered')
  else findings.judge('a load of what it holds is taken', problem === '' ? null : problem)
  const after = await talk.ask({ say: 'hello' }, 'hello', 2000)
  findings.judge(
    'it holds the same after the load',
    !after
      ? 'a hello was not answered'
      : after.fingerprint === print
        ? null
        : `its fingerprint is ${after.fingerprint}`,
  )
}

const rest = async (talk: Talk, findings: Findings): Promise<void> => {
  talk.say({ say: 'start' })
  const before = await talk.heartbeat(1500)
  talk.silent = true
  const resting = await talk.heartbeat(SILENCE_MS + 1500, (b) => b.resting || b.rests !== before?.rests)
  talk.silent = false
  findings.judge(
    'it goes to rest when it hears nothing',
    resting ? null : `not after ${SILENCE_MS + 1500} ms`,
  )
}

import { once } from 'node:events'
import { type AddressInfo, connect } from 'node:net'
import { expect, it } from 'vitest'
import { type FromStandins, handLine, readerOfPins } from '../links/hand-link'
import { type Memories, serveStandins } from './standin-server'

const identity = '00112233445566aa'
const secret = 'known to this start only'

const others = { crafts: [], trucks: [], clusters: [], controllers: [] }
const inRig = (rig: string, closed: number[], wipers: [number, number][]) =>
  handLine({
    say: 'be',
    rig,
    boards: [{ identity, model: 'ATmega328P board', closed, wipers }],
    ...others,
  })
const be = inRig('a rig', [3], [[54, 0.5]])

/** Somebody at the hands' side, and what was kept last. */
const open = async (memories: Memories, firstLine = handLine({ say: 'hello', secret })) => {
  let kept: Memories = {}
  const hands = serveStandins({ port: 0, secret }, memories, (m) => {
    kept = m
  })
  if (!hands.listening) await once(hands, 'listening')
  const socket = connect((hands.address() as AddressInfo).port, '127.0.0.1').setEncoding('utf8')
  const heard: FromStandins[] = []
  const reader = readerOfPins()
  socket.on('data', (text: unknown) => heard.push(...reader.push(text as string)))
  let ended = false
  socket.on('close', () => {
    ended = true
  })
  socket.write(firstLine)
  const port = () => heard.findLast((m) => m.say === 'board' && m.identity === identity)
  return { kept: () => kept, socket, port, heard, ended: () => ended }
}

it('makes the stand-ins that there are to be, and keeps what a board held until it is there again', async () => {
  const first = await open({})
  first.socket.write(be)
  await expect.poll(first.port).toMatchObject({ port: expect.any(Number) })
  // A process that is killed now has nothing more to say.
  const kept = JSON.parse(JSON.stringify(first.kept())) as Memories
  const key = `a rig ${identity}`
  expect(kept[key]).toMatchObject({ closed: [3], wipers: [[54, 0.5]] })

  // As it was remembered when a board was known by its identity alone.
  const second = await open({ [identity]: { ...kept[key], closed: [4] } as Memories[string] })
  second.socket.write(be)
  await expect.poll(second.port).toMatchObject({ port: expect.any(Number) })
  await expect.poll(() => second.heard.find((m) => m.say === 'pins')).toMatchObject({ closed: [4] })
  second.socket.write(handLine({ say: 'be', rig: 'a rig', boards: [], ...others }))
  await expect.poll(second.port).toMatchObject({ port: 0 })
  expect(second.kept()).toMatchObject({ [key]: { closed: [4] } })
  expect(Object.keys(second.kept())).toEqual([key])
  first.socket.destroy()
  second.socket.destroy()
})

it('has a board of its own for each rig, blank and as that one has it, and the one of before when that comes back', async () => {
  const one = await open({})
  const metered = () => one.heard.findLast((m) => m.say === 'pins')
  one.socket.write(be)
  await expect.poll(metered).toMatchObject({ closed: [3], wipers: [[54, 0.5]] })
  one.socket.write(handLine({ say: 'move', identity, contacts: [{ pin: 3, closed: false }] }))
  one.socket.write(handLine({ say: 'move', identity, contacts: [{ pin: 5, closed: true }] }))
  one.socket.write(handLine({ say: 'slide', identity, pin: 54, level: 0.25 }))
  await expect.poll(metered).toMatchObject({ closed: [5], wipers: [[54, 0.25]] })
  const before = one.port()
  one.socket.write(inRig('a copy', [7], []))
  // What hangs at these places there is another part: no hand has been on it.
  await expect.poll(metered).toMatchObject({ closed: [7], wipers: [] })
  expect(one.port()).not.toEqual(before)
  one.socket.write(be)
  await expect.poll(metered).toMatchObject({ closed: [5], wipers: [[54, 0.25]] })
  // Nor is any of it forgotten with the process.
  const next = await open(JSON.parse(JSON.stringify(one.kept())) as Memories)
  next.socket.write(inRig('a copy', [8], []))
  await expect.poll(() => next.heard.findLast((m) => m.say === 'pins')).toMatchObject({ closed: [7] })
  one.socket.destroy()
  next.socket.destroy()
})

it('says what hangs on a board, and since when in its own time, once it is like that', async () => {
  const { socket, heard, port } = await open({})
  socket.write(be)
  await expect.poll(port).toMatchObject({ port: expect.any(Number) })
  const natures = [{ places: [54], nature: { kind: 'travel' as const, bend: 0.5 } }]
  const told = () => heard.findLast((m) => m.say === 'is like')
  const solder = { say: 'solder' as const, identity, chips: [], slots: [] }
  socket.write(handLine({ ...solder, natures }))
  await expect.poll(told).toMatchObject({ identity, natures })
  const first = told()?.at ?? Number.NaN
  await new Promise((resolve) => setTimeout(resolve, 60))
  socket.write(handLine({ ...solder, natures: [] }))
  await expect.poll(told).toMatchObject({ natures: [] })
  expect(told()?.at).toBeGreaterThan(first)
  socket.destroy()
})

it('flies a craft for each that is asked for, and tells where', async () => {
  const { socket, heard } = await open({})
  const port = (id: string) => heard.findLast((m) => m.say === 'craft' && m.id === id)
  const ask = (rig: string, ...crafts: { id: string; seed: number }[]) =>
    socket.write(
      handLine({
        ...{ say: 'be', rig, boards: [], ...others },
        crafts: crafts.map((c) => ({ ...c, further: 0 })),
      }),
    )
  ask('a rig', { id: 'a', seed: 1 }, { id: 'b', seed: 2 })
  await expect.poll(() => port('b')).toMatchObject({ port: expect.any(Number) })
  const a = port('a')
  ask('a rig', { id: 'a', seed: 1 })
  await expect.poll(() => port('b')).toMatchObject({ port: 0 })
  // What is still wanted flies on.
  expect(port('a')).toBe(a)
  // In another rig it is another craft, at its beginning.
  ask('a copy', { id: 'a', seed: 1 })
  await expect.poll(() => port('a')).not.toEqual(a)
  await expect.poll(() => port('a')).toMatchObject({ port: expect.any(Number) })
  socket.destroy()
})

it.each([
  ['nobody who does not know the secret', handLine({ say: 'hello', secret: 'guessed' })],
  ['nobody who begins with an order', be],
  ['no page that has hidden an order in a request', 'POST / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n'],
  ['not even one that knows the secret', `POST / HTTP/1.1\r\n\r\n${handLine({ say: 'hello', secret })}`],
])('lets %s have a hand on a board', async (_, first) => {
  const intruder = await open({}, first)
  intruder.socket.on('error', () => {})
  intruder.socket.write(be)
  await expect.poll(intruder.ended).toBe(true)
  expect(intruder.heard).toEqual([])
  expect(intruder.kept()).toEqual({})
})

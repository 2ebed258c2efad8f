import { once } from 'node:events'
import { type AddressInfo, connect } from 'node:net'
import { expect, it } from 'vitest'
import { type FromStandins, handLine, readerOfPins } from '../links/hand-link'
import { type Memories, serveBoards } from './board-server'

const identity = '00112233445566aa'
const secret = 'known to this start only'

/** Somebody at the hands' side, and what was kept last. */
const open = async (memories: Memories, firstLine = handLine({ say: 'hello', secret })) => {
  let kept: Memories = {}
  const servers = serveBoards([], { port: 0, secret }, memories, (m) => {
    kept = m
  })
  const hands = servers.at(-1)
  if (!hands) throw new Error('no port for the hands')
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

it('keeps a board that is asked for before it has an answer, and brings it back with what is kept', async () => {
  const first = await open({})
  first.socket.write(handLine({ say: 'simulate', identity, model: 'atmega328p' }))
  await expect.poll(first.port).toMatchObject({ port: expect.any(Number) })
  // A process that is killed now has nothing more to say.
  const kept = JSON.parse(JSON.stringify(first.kept())) as Memories
  expect(kept[identity]?.made).toEqual({ model: 'atmega328p' })

  const second = await open(kept)
  await expect.poll(second.port).toMatchObject({ port: expect.any(Number) })
  second.socket.write(handLine({ say: 'put away', identity }))
  await expect.poll(second.port).toMatchObject({ port: 0 })
  expect(second.kept()).toEqual({})
  first.socket.destroy()
  second.socket.destroy()
})

it.each([
  ['nobody who does not know the secret', handLine({ say: 'hello', secret: 'guessed' })],
  ['nobody who begins with an order', handLine({ say: 'simulate', identity, model: 'atmega328p' })],
  ['no page that has hidden an order in a request', 'POST / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n'],
  ['not even one that knows the secret', `POST / HTTP/1.1\r\n\r\n${handLine({ say: 'hello', secret })}`],
])('lets %s have a hand on a board', async (_, first) => {
  const intruder = await open({}, first)
  intruder.socket.on('error', () => {})
  intruder.socket.write(handLine({ say: 'simulate', identity, model: 'atmega328p' }))
  await expect.poll(intruder.ended).toBe(true)
  expect(intruder.heard).toEqual([])
  expect(intruder.kept()).toEqual({})
})

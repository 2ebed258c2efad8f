import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { WebSocket } from 'ws'
import type { Hub } from './hub'
import { SECRET_HEADER, serveLive } from './live-server'
import type { Tab } from './tab'

const SECRET = 'known to this start'
let server: Server
let tabs: Set<Tab>
const opened: WebSocket[] = []

beforeEach(async () => {
  tabs = new Set()
  const hub = {
    join: (tab: Tab) => tabs.add(tab),
    leave: (tab: Tab) => tabs.delete(tab),
    hear: () => {},
    screens: { join: () => () => {} },
  } as unknown as Hub
  server = serveLive(hub, 0, SECRET, 100)
  await new Promise((resolve) => server.once('listening', resolve))
})
afterEach(() => {
  for (const socket of opened.splice(0)) socket.terminate()
  server.close()
})

const open = async (autoPong: boolean, place = 'live'): Promise<WebSocket> => {
  const { port } = server.address() as AddressInfo
  const socket = new WebSocket(`ws://127.0.0.1:${port}/${place}`, {
    autoPong,
    headers: { [SECRET_HEADER]: SECRET },
  })
  opened.push(socket)
  await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject))
  return socket
}

describe('the line to whoever looks', () => {
  it.each(['live', 'screen?name=Dash'])(
    'says once a second that the hub is there, though nothing else is to be said: /%s',
    async (place) => {
      const socket = await open(true, place)
      const heard: string[] = []
      socket.on('message', (text) => heard.push(String(text)))
      await vi.waitFor(() => expect(heard).toEqual(['{"say":"alive"}', '{"say":"alive"}']), 5000)
    },
  )

  it('is let go of when nobody answers any more, and kept as long as somebody does', async () => {
    const there = await open(true)
    const gone = await open(false)
    await vi.waitFor(() => expect(tabs.size).toBe(2))
    await new Promise((resolve) => gone.once('close', resolve))
    await vi.waitFor(() => expect(tabs.size).toBe(1))
    await new Promise((resolve) => setTimeout(resolve, 500))
    expect(there.readyState).toBe(WebSocket.OPEN)
    expect(tabs.size).toBe(1)
  })
})

import { createSocket } from 'node:dgram'
import type { DatagramLayout } from '../src/core/datagrams/layout'
import { Engine } from '../src/core/engine/engine'
import { DatagramClient } from '../src/hub/datagram-client'
import { UdpLine } from '../src/hub/lines/udp-line'
import { pause } from '../tests/app'
import { coreMs, printShare } from './measure'

const FIELDS = 1000
const HZ = 60
const SECONDS = 5
/** What it may take of one core. */
const SHARE = 0.05

const layout: DatagramLayout = {
  craft: 'Bench',
  order: 'little',
  packets: [
    {
      ...{ name: 'All', bytes: 4 + FIELDS * 4, grows: 'count' },
      fields: [
        { name: 'count', at: 0, as: 'u32' },
        ...Array.from({ length: FIELDS }, (_, i) => ({
          ...{
            name: `value.${i}`,
            at: 4 + 4 * i,
            as: 'f32' as const,
            scale: 2,
            range: [-10, 10] as [number, number],
          },
        })),
      ],
    },
  ],
}

/** A thousand fields, all of them another each time, from the socket to the engine's values. */
export const benchDatagrams = async (): Promise<void> => {
  const engine = new Engine()
  const client: DatagramClient = new DatagramClient(
    'd',
    layout,
    (events) => new UdpLine({ port: 0, everywhere: false }, events),
    {
      described: () =>
        engine.step(
          {
            is: 'sources',
            sources: [{ id: 'd', name: 'd', on: true, prefix: '', catalogue: client.catalogue }],
          },
          0,
        ),
      up: (up) => engine.step({ is: 'source', source: 'd', up }, performance.now()),
      quiet: () => {},
      frame: (indexes, values) =>
        engine.step({ is: 'frame', source: 'd', indexes, values }, performance.now()),
      answer: () => {},
    },
    () => null,
  )
  const sender = createSocket('udp4')
  client.open()
  while (client.line.port === 0) await pause(10)
  client.subscribe('all', true)
  const bytes = Buffer.alloc(4 + FIELDS * 4)
  let count = 0
  const send = () => {
    bytes.writeUInt32LE(++count, 0)
    for (let i = 0; i < FIELDS; i++) bytes.writeFloatLE(Math.sin(count / 50 + i), 4 + 4 * i)
    sender.send(Buffer.from(bytes), client.line.port, '127.0.0.1')
  }
  const run = (seconds: number): Promise<number> =>
    coreMs(async () => {
      let due = performance.now()
      for (let i = 0; i < seconds * HZ; i++) {
        send()
        client.check(performance.now())
        due += 1000 / HZ
        await pause(Math.max(0, due - performance.now()))
      }
    })
  await run(1)
  const ours = await run(SECONDS)
  const heard = engine.variables.numbers[0]
  if (typeof heard !== 'number' || heard < (SECONDS + 1) * HZ * 0.95)
    throw new Error(`only ${heard} datagrams were heard`)
  await printShare(`${FIELDS} fields at ${HZ} Hz by datagram`, ours, SECONDS, SHARE)
  client.close('over')
  sender.close()
}

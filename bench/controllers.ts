import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { addingController } from '../src/core/controllers/add-controller'
import { inputsOf } from '../src/core/controllers/capabilities'
import { EV_KEY, reportBytes } from '../src/core/controllers/event-reader'
import { FIRST_KEY, simulatedCapabilities } from '../src/core/controllers/simulated-models'
import { partsByPin, plainParts, takingParts } from '../src/core/controllers/take'
import { addRow, apply, changeRow } from '../src/core/rig/edit'
import { boardsOf, type Rig } from '../src/core/rig/rig'
import { handLine, readerOfHands } from '../src/links/hand-link'
import { onPorts } from '../tests/rigs'
import { manyLamps } from './big-rig'
import {
  allUp,
  asOften,
  end,
  fastSimulator,
  listen,
  pause,
  secret,
  start,
  timeInTurn,
  type Way,
} from './contact-to-lamp'
import { median, print } from './measure'

const VARIABLES = 4000
const IDENTITY = '0123456789abcdef'
const said = simulatedCapabilities('yoke', 'bench')

/** A device whose first button is pressed and let go, with the bytes of the system. */
const device = () => {
  let socket: Socket | null = null
  const server = createServer((s) => {
    socket = s
    s.setNoDelay(true)
    s.on('error', () => {})
    s.write(`${JSON.stringify(said)}\n`)
  })
  const press = (down: boolean) =>
    socket?.write(
      reportBytes([{ type: EV_KEY, code: FIRST_KEY, value: Number(down) }], performance.now() * 1000),
    )
  const close = () => {
    socket?.destroy()
    server.close()
  }
  return { server, press, close }
}

/** A rig of 2,000 lamps, and a yoke whose first button holds a variable on. */
const rigWithYoke = (craftPort: number): Rig => {
  let n = 0
  const id = () => `made-${n++}`
  const base = onPorts(manyLamps(2000, VARIABLES), craftPort, [])
  const settings = { kind: 'simulated controller', identity: IDENTITY, model: 'yoke' } as const
  const added = apply(base, addingController(base, said, settings, { connection: 'yoke', board: 'yoke' }))
  const board = boardsOf(added).find((b) => b.id === 'yoke')
  if (!board) throw new Error('the bench has no yoke')
  const taken = apply(added, takingParts(added, board, plainParts(inputsOf(said)), id))
  const part = partsByPin(taken, board).get('B1')
  if (!part) throw new Error('the bench has no button')
  // Pressed more often than a hand could, it is not to be taken for one that bounces.
  const quick = { ...part.settings, aspects: { press: { kind: 'positions' as const, debounceMs: 1 } } }
  const change = changeRow('part', part, { ...part, settings: quick })
  return apply(taken, [
    ...(change ? [change] : []),
    addRow('binding', {
      ...{ id: 'hold', partId: part.id, position: 1, on: true },
      settings: {
        ...{ kind: 'control', when: 'hold', value: 'input ? 1 : 0', onlyWhile: null },
        actions: [{ do: 'set', variable: 'v.n0' }],
      },
    }),
  ])
}

/** Device → hub → simulator, with all the rest of the rig busy. */
const wayThroughHub = async (): Promise<Way> => {
  let seen: () => void = () => {}
  const dataDir = mkdtempSync(join(tmpdir(), 'clavik-bench-'))
  const yoke = device()
  const simulator = fastSimulator(() => seen())
  const yokePort = await listen(yoke.server)
  // It is reached as the stand-ins say.
  const hands = createServer((s) => {
    const reader = readerOfHands()
    s.on('error', () => {})
    s.setEncoding('utf8').on('data', (text) => {
      for (const m of reader.push(String(text)))
        if (m.say === 'be') s.write(handLine({ say: 'board', identity: IDENTITY, port: yokePort }))
    })
  })
  const handPort = await listen(hands)
  const rig = rigWithYoke(await listen(simulator.server))
  const remembered = { armed: true, rig: { id: 'bench', rig, revision: 1, setAside: [] } }
  writeFileSync(join(dataDir, 'hub.json'), JSON.stringify(remembered))
  const spare = createServer()
  const livePort = await listen(spare)
  spare.close()
  const databaseUrl = 'postgresql://nobody@127.0.0.1:1/none'
  const settings = { dataDir, databaseUrl, livePort, handPort, portFolders: [], secret }
  const hub = start('build/hub.mjs', { CLAVIK_HUB: JSON.stringify(settings) })
  await allUp(livePort, 1)
  await pause(300)
  return {
    throwSwitch: yoke.press,
    next: (s) => {
      seen = s
    },
    close: async () => {
      await end(hub)
      yoke.close()
      simulator.close()
      hands.close()
      rmSync(dataDir, { recursive: true, force: true })
    },
  }
}

/** The same ends with nothing in between that reads or thinks. */
const wayThroughEcho = async (): Promise<Way> => {
  let seen: () => void = () => {}
  const yoke = device()
  const simulator = fastSimulator(() => seen())
  const ports = [await listen(yoke.server), await listen(simulator.server)]
  const echo = start('build/echo.mjs', { CLAVIK_ECHO: [...ports, 0].join(',') })
  await pause(800)
  return {
    throwSwitch: yoke.press,
    next: (s) => {
      seen = s
    },
    close: async () => {
      await end(echo)
      yoke.close()
      simulator.close()
    },
  }
}

/** How long a button of a controller takes to reach the simulator. */
export const benchControllers = async (): Promise<void> => {
  const { ours, ratio } = await timeInTurn(await wayThroughHub(), await wayThroughEcho(), asOften)
  print({
    name: 'button of a controller to the simulator, p50, 2,000 bindings running, against a bare echo',
    value: median(ours),
    unit: 'ms',
    ratio,
    limit: 1.5,
  })
}

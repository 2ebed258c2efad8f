import { join } from 'node:path'
import { type ConnectionKindName, connectionKind, type SettingsOf } from '../core/connections/connections'
import { type Pressable, pressables } from '../core/keys/keys'
import type { ConnectionRow } from '../core/rig/rows'
import { type BoardClient, LinkedBoard } from './board-client'
import type { BoardEvents } from './board-talk'
import { BusClient } from './bus-client'
import { ControllerClient } from './controllers/controller-client'
import { DatagramClient } from './datagram-client'
import { DeviceClient } from './device-client'
import { KeysClient } from './keys-client'
import { HelperLine, ShownLine } from './lines/helper-line'
import type { LineMaker, Trouble } from './lines/line'
import { type LineSurroundings, lineOf, standin } from './lines/line-of'
import { SerialLine } from './lines/serial-line'
import { TcpLine } from './lines/tcp-line'
import { TouchLine } from './lines/touch-line'
import { UdpLine } from './lines/udp-line'
import type { OutgoingValues } from './outgoing-values'
import { SimulatorClient } from './simulator-client'
import type { SourceClient, SourceEvents } from './source-client'

/** Whoever speaks for one connection. */
export type Client = BoardClient | SourceClient

/** What those who speak for connections need of the hub. */
export interface ClientSurroundings extends LineSurroundings {
  readonly board: BoardEvents
  /** The rig that is open; empty while there is none. */
  readonly rigId: () => string
  readonly source: (connection: string) => SourceEvents
  /** What a connection is to send now; null while nothing flows. */
  readonly outgoing: (connection: string) => OutgoingValues
  /** Where the controller of a connection is now, or why that cannot be told. */
  readonly controllerAt: (connection: string) => string | Trouble
  /** A port was opened to which a stand-in is to send. */
  readonly portOpened: () => void
}

type Make<K extends ConnectionKindName> = (
  settings: SettingsOf<K>,
  around: ClientSurroundings,
  connection: string,
) => Client

/** What is told a bus client, whichever way its adapter is reached. */
const onBus =
  <K extends 'bus serial' | 'bus tcp' | 'simulated cluster'>(
    line: (settings: SettingsOf<K>, around: ClientSurroundings, id: string) => LineMaker,
  ): Make<K> =>
  (settings, around, id) =>
    new BusClient(id, settings, line(settings, around, id), around.source(id), around.outgoing(id))

const codes = (is: Pressable['is']): string =>
  pressables
    .filter((p) => p.is === is)
    .map((p) => p.code)
    .join(',')
/** The helper that presses: a few lines of Python, which every Linux has. */
const pressCommand: [string, ...string[]] = [
  'python3',
  join(process.cwd(), 'src/hub/keys/press.py'),
  ...(['key', 'button', 'axis'] as const).map(codes),
]

/** The helper that reads a controller and passes on what it says. */
const readCommand = (at: string | Trouble, alone: boolean): readonly [string, ...string[]] | Trouble =>
  typeof at === 'string'
    ? ['python3', join(process.cwd(), 'src/hub/controllers/read.py'), at, ...(alone ? ['alone'] : [])]
    : at
const whereOf = (at: string | Trouble): string => (typeof at === 'string' ? at : '')

/** Kinds whose other end speaks neither the simulator link nor the board link. */
const others: { readonly [K in ConnectionKindName]?: Make<K> } = {
  datagrams: ({ layout, port, from }, { source, outgoing }, id) =>
    new DatagramClient(
      id,
      layout,
      (events) => new UdpLine({ port, everywhere: from === 'the network' }, events),
      source(id),
      outgoing(id),
    ),
  'simulated truck': ({ layout }, { source, outgoing, portOpened }, id) =>
    new DatagramClient(
      id,
      layout,
      (events) => new UdpLine({ port: 0, everywhere: false }, events),
      source(id),
      outgoing(id),
      portOpened,
    ),
  'bus serial': onBus((settings) => (events) => new SerialLine(() => settings, events)),
  'bus tcp': onBus((settings) => (events) => new TcpLine(() => settings, events)),
  'simulated cluster': onBus((_, { hands }, id) => standin(hands, () => hands.craftPorts.get(id))),
  'virtual keys': ({ press }, { source }, id) =>
    new KeysClient(
      id,
      press === 'really',
      (events) =>
        press === 'really'
          ? new HelperLine(
              () => pressCommand,
              () => 'this computer',
              events,
            )
          : new ShownLine(events),
      source(id),
    ),
  controller: ({ identity, reads }, { controllerAt, board }, id) =>
    new ControllerClient(
      id,
      identity,
      false,
      (events) =>
        new HelperLine(
          () => readCommand(controllerAt(id), reads === 'Clavik alone'),
          () => whereOf(controllerAt(id)),
          events,
        ),
      board,
    ),
  'simulated controller': ({ identity }, { hands, board }, id) =>
    new ControllerClient(
      id,
      identity,
      true,
      standin(hands, () => hands.boardPorts.get(identity)),
      board,
    ),
  'touch screen': ({ identity, screen }, { board }, id) =>
    new ControllerClient(id, identity, false, (events) => new TouchLine(`Touch ${screen}`, events), board),
  'device serial': (settings, { source, outgoing }, id) =>
    new DeviceClient(
      id,
      settings.description,
      (events) => new SerialLine(() => settings, events),
      source(id),
      outgoing(id),
    ),
  'device tcp': (settings, { source, outgoing }, id) =>
    new DeviceClient(
      id,
      settings.description,
      (events) => new TcpLine(() => settings, events),
      source(id),
      outgoing(id),
    ),
}

/** Who speaks for a connection of the rig, by its kind. */
export const clientOf = ({ id, settings }: ConnectionRow, around: ClientSurroundings): Client => {
  const other = others[settings.kind] as Make<ConnectionKindName> | undefined
  if (other) return other(settings, around, id)
  const make = lineOf(settings, around, id)
  const { carries, isSimulated } = connectionKind(settings.kind)
  return carries === 'source'
    ? new SimulatorClient(id, make, around.source(id))
    : new LinkedBoard(id, isSimulated, make, around.board)
}

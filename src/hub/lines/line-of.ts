import type { ConnectionSettings, SettingsOf } from '../../core/connections/connections'
import type { HandClient } from '../hand-client'
import { ComputerLine } from './computer-line'
import type { LineEvents, LineMaker } from './line'
import { trouble } from './line'
import { SerialLine, type SerialPlaces } from './serial-line'
import { TcpLine } from './tcp-line'

/** What lines are made with. */
export interface LineSurroundings {
  readonly hands: HandClient
  readonly serial: SerialPlaces
}

/** Kinds whose other end speaks the simulator link or the board link. */
type WithLine =
  | 'simulator tcp'
  | 'this computer'
  | 'board tcp'
  | 'board serial'
  | 'simulated craft'
  | 'simulated board'

/** How a connection of each kind is reached that speaks the simulator link or the board link. */
const lines: {
  readonly [K in WithLine]: (
    settings: SettingsOf<K>,
    around: LineSurroundings,
    connection: string,
  ) => LineMaker
} = {
  'simulator tcp': (s) => (events) => new TcpLine(() => s, events),
  'this computer': () => (events) => new ComputerLine(events),
  'board tcp': (s) => (events) => new TcpLine(() => s, events),
  'board serial':
    (s, { serial }, connection) =>
    (events) =>
      new SerialLine(() => ({ ...s, path: serial.placeOf(connection) ?? s.path }), events),
  'simulated craft': (_, { hands }, connection) => standin(hands, () => hands.craftPorts.get(connection)),
  'simulated board': (s, { hands }) => standin(hands, () => hands.boardPorts.get(s.identity)),
}

/** A line to a stand-in, on the port where it answers now. */
export const standin =
  (hands: HandClient, port: () => number | undefined): LineMaker =>
  (events: LineEvents) =>
    new TcpLine(() => {
      const at = port()
      if (at !== undefined) return { host: '127.0.0.1', port: at }
      return hands.up
        ? trouble('it is being made')
        : trouble('the stand-ins are away', 'They are started again by themselves.')
    }, events)

/** What makes the line of a connection with these settings. */
export const lineOf = (
  settings: ConnectionSettings,
  around: LineSurroundings,
  connection: string,
): LineMaker =>
  (lines[settings.kind as WithLine] as (s: ConnectionSettings, a: LineSurroundings, c: string) => LineMaker)(
    settings,
    around,
    connection,
  )

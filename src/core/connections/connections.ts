import { z } from 'zod'
import { boardSerial } from './board-serial'
import { boardTcp } from './board-tcp'
import { busSerial } from './bus-serial'
import { busTcp } from './bus-tcp'
import { controller } from './controller'
import { datagrams } from './datagrams'
import { deviceSerial } from './device-serial'
import { deviceTcp } from './device-tcp'
import type { ConnectionKind, OutgoingValue } from './kind'
import { simulatedBoard } from './simulated-board'
import { simulatedCluster } from './simulated-cluster'
import { simulatedController } from './simulated-controller'
import { simulatedCraft } from './simulated-craft'
import { simulatedTruck } from './simulated-truck'
import { simulatorTcp } from './simulator-tcp'
import { thisComputer } from './this-computer'
import { touchScreen } from './touch-screen'
import { virtualKeys } from './virtual-keys'

/** Every kind of connection, in the order in which they are offered; a new one is a file, a line here, and its line in the hub. */
const kinds = {
  'simulator tcp': simulatorTcp,
  datagrams,
  'device serial': deviceSerial,
  'device tcp': deviceTcp,
  'bus serial': busSerial,
  'bus tcp': busTcp,
  'this computer': thisComputer,
  'virtual keys': virtualKeys,
  'board serial': boardSerial,
  'board tcp': boardTcp,
  controller,
  'touch screen': touchScreen,
  'simulated craft': simulatedCraft,
  'simulated truck': simulatedTruck,
  'simulated cluster': simulatedCluster,
  'simulated board': simulatedBoard,
  'simulated controller': simulatedController,
} as const

export const connectionSettings = z.discriminatedUnion('kind', [
  simulatorTcp.settings,
  datagrams.settings,
  deviceSerial.settings,
  deviceTcp.settings,
  busSerial.settings,
  busTcp.settings,
  thisComputer.settings,
  virtualKeys.settings,
  boardSerial.settings,
  boardTcp.settings,
  controller.settings,
  touchScreen.settings,
  simulatedCraft.settings,
  simulatedTruck.settings,
  simulatedCluster.settings,
  simulatedBoard.settings,
  simulatedController.settings,
])

export type ConnectionSettings = z.infer<typeof connectionSettings>
export type ConnectionKindName = ConnectionSettings['kind']
export type SettingsOf<K extends ConnectionKindName> = Extract<ConnectionSettings, { kind: K }>

type AnyKind = ConnectionKind<z.ZodType<ConnectionSettings>>

export const connectionKindNames = Object.keys(kinds) as ConnectionKindName[]

/** What there is to know of a kind of connection. */
export const connectionKind = (kind: ConnectionKindName): AnyKind => kinds[kind] as unknown as AnyKind

/** Where a connection is reached, as people say it. */
export const addressOf = (settings: ConnectionSettings): string =>
  connectionKind(settings.kind).address(settings)

/** The values that a connection with these settings sends. */
export const outgoingOf = (settings: ConnectionSettings): readonly OutgoingValue[] =>
  connectionKind(settings.kind).outgoing?.(settings) ?? []

/** Every computer that settings name, however deep. */
export const hostsIn = (settings: unknown): string[] =>
  typeof settings !== 'object' || settings === null
    ? []
    : Object.entries(settings).flatMap(([key, value]) =>
        key === 'host' && typeof value === 'string' ? [value] : hostsIn(value),
      )

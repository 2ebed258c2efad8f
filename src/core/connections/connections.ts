import { z } from 'zod'
import { boardSerial } from './board-serial'
import { boardTcp } from './board-tcp'
import type { ConnectionKind } from './kind'
import { simulatedBoard } from './simulated-board'
import { simulatedCraft } from './simulated-craft'
import { simulatorTcp } from './simulator-tcp'
import { thisComputer } from './this-computer'

/** Every kind of connection, in the order in which they are offered; a new one is a file, a line here, and its line in the hub. */
const kinds = {
  'simulator tcp': simulatorTcp,
  'this computer': thisComputer,
  'board serial': boardSerial,
  'board tcp': boardTcp,
  'simulated craft': simulatedCraft,
  'simulated board': simulatedBoard,
} as const

export const connectionSettings = z.discriminatedUnion('kind', [
  simulatorTcp.settings,
  thisComputer.settings,
  boardSerial.settings,
  boardTcp.settings,
  simulatedCraft.settings,
  simulatedBoard.settings,
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

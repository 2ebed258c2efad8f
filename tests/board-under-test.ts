import type { Clock, OpenWire } from '../src/check/wire'
import type { Soldered } from '../src/standins/boards/soldered/soldered'
import { Chip, type ChipName } from './chip'
import { WebAssemblyBoard } from './web-assembly-board'

/** A board that runs the program, with its pins, its line, its time and its memory in the hands of a test. */
export interface BoardUnderTest {
  /** Milliseconds of its own time, which passes only while somebody lets it run. */
  readonly now: number
  readonly clock: Clock
  readonly open: OpenWire
  /** What it keeps without power. */
  readonly memory: Uint8Array
  run(ms: number): void
  receive(bytes: ArrayLike<number>): void
  /** Closes or opens a contact from a pin to ground. */
  contact(pin: number, closed: boolean): void
  isClosed(pin: number): boolean
  /** Puts a wiper at a share of the supply. */
  wiper(pin: number, share: number): void
  isHigh(pin: number): boolean
  /** The share of the time that a pin is high. */
  brightness(pin: number): number
  /** Joins something to these pins; those that run turn over all the time. */
  solder(pins: readonly number[], there: Soldered, running?: readonly number[]): void
  /** Joins something that goes by the length of pulses. */
  solderWave(pin: number, there: Soldered): void
  cutPower(): void
}

export type BoardName = ChipName | 'WebAssembly'

export const newBoard = (name: BoardName, kept?: Uint8Array): BoardUnderTest =>
  name === 'WebAssembly' ? new WebAssemblyBoard(kept) : new Chip(name, kept)

/** The boards that one test is for: an emulated chip, and the program in the boards that are simulated. */
export const on = (chip: ChipName): readonly BoardName[] => [chip, 'WebAssembly']

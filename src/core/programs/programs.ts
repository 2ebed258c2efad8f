/** The number of the boards' program that comes with this Clavik; `firmware/core/board.hpp` says the same. */
export const PROGRAM = 4
/** The first one that notes inputs as they come, for measuring. */
export const PROBING_PROGRAM = 3

/** How a chip's bootloader is spoken to: in single commands (AVR061) or in messages with a checksum (AVR068). */
export type BootloaderTalk = 'commands' | 'messages'

/** A way to a bootloader: how it is spoken to, and how quickly. */
export interface BootloaderWay {
  readonly talk: BootloaderTalk
  readonly speed: number
}

/** A chip that the boards' program can be written to over a serial line. */
export interface ProgramChip {
  readonly id: string
  readonly name: string
  /** Three bytes that the chip says of itself, in hexadecimal; from its data sheet. */
  readonly signature: string
  /** The file in `firmware/images`. */
  readonly image: string
  /** What the writing program calls the chip. */
  readonly part: string
  readonly talk: BootloaderTalk
}

export const programChips: readonly ProgramChip[] = [
  {
    id: 'atmega328p',
    name: 'ATmega328P',
    signature: '1e950f',
    image: 'atmega328p.hex',
    part: 'm328p',
    talk: 'commands',
  },
  {
    id: 'atmega2560',
    name: 'ATmega2560',
    signature: '1e9801',
    image: 'atmega2560.hex',
    part: 'm2560',
    talk: 'messages',
  },
]

/** In the order in which they are tried: the usual ones first. Older small boards are slower. */
export const bootloaderWays: readonly BootloaderWay[] = [
  { talk: 'commands', speed: 115_200 },
  { talk: 'messages', speed: 115_200 },
  { talk: 'commands', speed: 57_600 },
]

export const chipOfSignature = (signature: string): ProgramChip | undefined =>
  programChips.find((c) => c.signature === signature)

/** Chips that answer as bootloaders do, and for which there is no program: what they are. */
export const strangeSignatures: Readonly<Record<string, string>> = {
  ...{ '1e9516': 'ATmega328PB', '1e950a': 'ATmega328', '1e9406': 'ATmega168', '1e940b': 'ATmega168P' },
  ...{ '1e9703': 'ATmega1280', '1e9587': 'ATmega32U4', '1e9307': 'ATmega8' },
}

/** How the loading of a program on a port stands. */
export type ProgramState =
  | { readonly at: 'asking' }
  | { readonly at: 'writing' | 'verifying'; readonly chip: string; readonly share: number }
  | { readonly at: 'starting'; readonly chip: string }
  | { readonly at: 'done'; readonly chip: string }
  | {
      readonly at: 'failed'
      /** What it was about then. */
      readonly during: 'asking' | 'writing' | 'verifying' | 'starting'
      /** The chip, if it was found out. */
      readonly chip: string | null
      readonly problem: string
      readonly cure: string
    }

import { SerialPort } from 'serialport'
import {
  type BootloaderTalk,
  type BootloaderWay,
  bootloaderWays,
  chipOfSignature,
  type ProgramChip,
  strangeSignatures,
} from '../../core/programs/programs'
import { type Trouble, trouble } from '../lines/line'
import { serialTrouble } from '../lines/serial-line'

/** A chip whose bootloader answers, and how. */
export interface FoundChip {
  readonly chip: ProgramChip
  readonly way: BootloaderWay
}

/** Bootloaders start within a quarter of a second after a reset, and wait for a second or so. */
const RESET_MS = 60
const LISTEN_MS = 1300
const ASK_EVERY_MS = 120

/** How one kind of bootloader is asked for its chip: what is said, over and over, and what of the answer is its signature. */
interface Question {
  readonly calls: (heard: readonly number[]) => readonly number[]
  /** Six hexadecimal digits once all has been said. */
  readonly signature: (heard: readonly number[]) => string | null
}

const hex = (bytes: readonly number[]): string => bytes.map((b) => b.toString(16).padStart(2, '0')).join('')

/** Where a run of bytes begins among others; −1 where it does not. */
const find = (in_: readonly number[], what: readonly (number | null)[]): number =>
  in_.findIndex((_, i) => what.every((b, k) => in_[i + k] !== undefined && (b === null || in_[i + k] === b)))

const IN_SYNC = 0x14
const OK = 0x10
const commands: Question = {
  // "Are you there", until it is; then its signature. AVR061, "STK_GET_SYNC" and "STK_READ_SIGN".
  calls: (heard) => (find(heard, [IN_SYNC, OK]) >= 0 ? [0x75, 0x20] : [0x30, 0x20]),
  signature: (heard) => {
    const at = find(heard, [IN_SYNC, null, null, null, OK])
    const bytes = heard.slice(at + 1, at + 4)
    // Two short answers side by side look alike.
    return at < 0 || bytes[0] === OK || bytes[0] === IN_SYNC ? null : hex(bytes)
  },
}

const message = (number: number, body: readonly number[]): number[] => {
  const bytes = [0x1b, number, body.length >> 8, body.length & 255, 0x0e, ...body]
  return [...bytes, bytes.reduce((sum, b) => sum ^ b, 0)]
}
/** AVR068, "CMD_READ_SIGNATURE_ISP": a byte of three, each in an answer of its own, which the number of the message tells. */
const asksSignature = (i: number): number[] => message(0x40 + i, [0x1b, 4, 0x30, 0, i, 0])
const byteOfSignature = (heard: readonly number[], i: number): number | null => {
  const at = find(heard, [0x1b, 0x40 + i, 0, 4, 0x0e, 0x1b, 0, null])
  return at < 0 ? null : (heard[at + 7] as number)
}
const messages: Question = {
  calls: (heard) =>
    find(heard, [0x1b, null, 0, null, 0x0e, 0x01, 0]) >= 0
      ? [0, 1, 2].filter((i) => byteOfSignature(heard, i) === null).flatMap(asksSignature)
      : message(1, [0x01]),
  signature: (heard) => {
    const bytes = [0, 1, 2].flatMap((i) => byteOfSignature(heard, i) ?? [])
    return bytes.length === 3 ? hex(bytes) : null
  },
}

const questions: Record<BootloaderTalk, Question> = { commands, messages }

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/** Resets what is on a port, as opening it mostly does by itself; ports without such lines are left alone. */
const reset = async (port: SerialPort): Promise<void> => {
  const set = (on: boolean) => new Promise<void>((resolve) => port.set({ dtr: on, rts: on }, () => resolve()))
  await set(false)
  await pause(RESET_MS)
  await set(true)
  await pause(RESET_MS)
}

/** Opens a port. Whoever had it a moment ago, Clavik itself among them, may still be letting it go. */
const opened = async (port: SerialPort): Promise<void> => {
  for (let tries = 20; ; tries--) {
    const error = await new Promise<Error | null>((resolve) => port.open((e) => resolve(e)))
    if (error === null) return
    if (tries === 0 || !/lock|busy|temporarily|EBUSY|EAGAIN/i.test(error.message)) throw error
    await pause(ASK_EVERY_MS)
  }
}

/** Asks in one way; the chip's signature, or null where nobody answers so. */
const ask = async (path: string, { talk, speed }: BootloaderWay): Promise<string | null> => {
  const port = new SerialPort({ path, baudRate: speed, autoOpen: false })
  port.on('error', () => {})
  await opened(port)
  const heard: number[] = []
  port.on('data', (bytes: Buffer) => heard.push(...bytes))
  try {
    await reset(port)
    heard.length = 0
    const question = questions[talk]
    for (const end = performance.now() + LISTEN_MS; performance.now() < end; ) {
      port.write(Buffer.from(question.calls(heard)))
      await pause(ASK_EVERY_MS)
      const signature = question.signature(heard)
      if (signature !== null) return signature
    }
    return null
  } finally {
    await new Promise<void>((resolve) => port.close(() => resolve()))
  }
}

/** Which chip is on a port, by what its bootloader says; or why that cannot be known. */
export const probe = async (path: string): Promise<FoundChip | Trouble> => {
  for (const way of bootloaderWays) {
    let signature: string | null
    try {
      signature = await ask(path, way)
    } catch (error) {
      return serialTrouble((error as Error).message, path)
    }
    if (signature === null) continue
    const chip = chipOfSignature(signature)
    if (chip && chip.talk === way.talk) return { chip, way }
    const name = strangeSignatures[signature] ?? `a chip with the signature ${signature}`
    return trouble(
      `it is ${chip ? chip.name : name}, and there is no program for it`,
      'The program runs on the ATmega328P and the ATmega2560. Nothing was written.',
    )
  }
  return trouble(
    'no bootloader answers',
    'Press its reset button and try again at once; look whether the cable carries data, not only current. Native USB of the ATmega32U4 and the RP2040 are not supported yet.',
  )
}

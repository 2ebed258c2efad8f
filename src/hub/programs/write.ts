import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { endsWithParent } from '../../process/ends-with-parent'
import { ofProject } from '../../process/of-project'
import { type Trouble, trouble } from '../lines/line'
import type { FoundChip } from './probe'

export type WriteStep = 'writing' | 'verifying'

/** What the writing program calls each way of talking. */
const programmers = { commands: 'arduino', messages: 'wiring' } as const
/** What one mark of its progress stands for. */
const MARKS = 50
/** It makes a mark several times a second; by itself it tries for minutes before it gives up. */
const STALL_MS = 10_000
/** How often it is looked whether the port is still there: it does not notice that by itself, and reads nothing for ever. */
const LOOK_MS = 250

const silent = trouble(
  'its bootloader stopped answering',
  'Press its reset button, or pull the cable out and plug it in, and try again.',
)

const missing = trouble('avrdude, which writes programs, is not installed', 'sudo apt-get install avrdude')
const wentAway = trouble('the port went away', 'Plug the board in again and try once more.')

/** What it says, and what that means for whoever stands before the board. */
const meanings: readonly (readonly [RegExp, Trouble])[] = [
  [/failed to execute avrdude/i, missing],
  [
    /verification (error|mismatch)|content mismatch/i,
    trouble(
      'what was read back is not what was written',
      'Try again. If it happens again, take a shorter cable or another port; the chip may be worn out.',
    ),
  ],
  [/not in sync|no response|not responding|protocol error|timeout|programmer is not responding/i, silent],
  [
    /permission denied|access denied/i,
    trouble(
      'this program may not open the port',
      'Let your user into its group, mostly dialout, and log in anew.',
    ),
  ],
  [
    /busy|locked/i,
    trouble('another program holds the port', 'Close it, most often a serial monitor, and try again.'),
  ],
  [/no such file|can.t open device|unable to open|input\/output error/i, wentAway],
  [
    /signature/i,
    trouble(
      'another chip answers now than before',
      'Is another board on this port? Look at it and try again.',
    ),
  ],
]

/** How far it is, from the marks that it has made so far: writing first, then reading back. */
export const progressOf = (said: string): { at: WriteStep; share: number } | null => {
  const marks = (word: string): number | null => {
    const from = said.lastIndexOf(`${word} | `)
    if (from < 0) return null
    const bar = /^#*/.exec(said.slice(from + word.length + 3))?.[0].length ?? 0
    return Math.min(1, bar / MARKS)
  }
  const reading = marks('Reading')
  const writing = marks('Writing')
  if (writing === null) return null
  return reading === null || said.lastIndexOf('Reading | ') < said.lastIndexOf('Writing | ')
    ? { at: 'writing', share: writing }
    : { at: 'verifying', share: reading }
}

/** Why it did not end well, in words. */
export const troubleOf = (said: string): Trouble => {
  for (const [says, means] of meanings) if (says.test(said)) return means
  const last = said
    .split('\n')
    .map((l) => l.trim())
    .filter((l) => l !== '' && !/done\.|Thank you/.test(l))
    .at(-1)
  return trouble(`it could not be written: ${last ?? 'the writing program said nothing'}`, 'Try again.')
}

/** Writes the program to a chip and reads it back, with Debian's `avrdude`, which ends with this process; null when it went well. */
export const writeProgram = (
  path: string,
  { chip, way }: FoundChip,
  progress: (at: WriteStep, share: number) => void,
  stallMs = STALL_MS,
): Promise<Trouble | null> =>
  new Promise((resolve) => {
    const image = ofProject(`firmware/images/${chip.image}`)
    const args = ['-p', chip.part, '-c', programmers[way.talk], '-P', path, '-b', String(way.speed)]
    // What the chip keeps without power stays: who it is, and what it holds.
    const child = spawn(...endsWithParent('KILL', 'avrdude', [...args, '-D', '-U', `flash:w:${image}:i`]))
    let said = ''
    let gaveUp: Trouble | null = null
    const giveUp = (why: Trouble) => {
      gaveUp = why
      child.kill('SIGKILL')
    }
    let heardAt = performance.now()
    const looking = setInterval(() => {
      if (!existsSync(path)) giveUp(wentAway)
      else if (performance.now() - heardAt > stallMs) giveUp(silent)
    }, LOOK_MS)
    const hear = (text: Buffer) => {
      heardAt = performance.now()
      said += text.toString('latin1')
      const now = progressOf(said)
      if (now) progress(now.at, now.share)
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.on('error', (error) => {
      clearInterval(looking)
      const isMissing = (error as NodeJS.ErrnoException).code === 'ENOENT'
      resolve(
        isMissing
          ? missing
          : trouble(`avrdude cannot be run: ${error.message}`, 'Look whether it may be run by this user.'),
      )
    })
    child.on('close', (code) => {
      clearInterval(looking)
      resolve(code === 0 ? null : (gaveUp ?? troubleOf(said)))
    })
  })

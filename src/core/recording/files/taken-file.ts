import type { Block } from '../block'
import type { RecordedMark, RecordingHead } from '../moment'

/** What was made of a file: a recording, and what is odd about it. */
export interface TakenFile {
  readonly name: string
  readonly head: RecordingHead
  readonly blocks: Iterable<Block>
  readonly marks: readonly RecordedMark[]
  readonly odd: readonly string[]
}

export interface FileReader {
  /** Whole lines of it, in order; `line` is the number of the first. */
  readonly lines: (text: string, line: number) => void
  /** Throws `FileRefused` where there is nothing to be had from it. */
  readonly end: () => TakenFile
}

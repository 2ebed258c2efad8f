import type { Exercise } from '../engine/exercise'
import type { Source } from '../rig/sources'
import type { Micros } from '../units-of-measure'

/** What is recorded beside frames of values. Parts go by their own names, so that a part that hangs elsewhere now is found. */
export type Moment = { readonly at: Micros; readonly frame: number } & What

export type What =
  /** What a control's contacts, count or level were reported to be. */
  | {
      readonly is: 'report'
      readonly partId: string
      readonly aspectId: string
      readonly value: number
    }
  | { readonly is: 'source'; readonly source: number; readonly up: boolean }
  | { readonly is: 'quiet'; readonly source: number; readonly quiet: boolean }
  | { readonly is: 'arm'; readonly armed: boolean }
  | { readonly is: 'craft set'; readonly set: string | null }
  | { readonly is: 'board'; readonly boardId: string; readonly up: boolean }
  | { readonly is: 'exercise'; readonly partIds: readonly string[]; readonly how: Exercise | null }
  | { readonly is: 'settle'; readonly partIds: readonly string[] }
  /** What was ordered of a source, and what it answered. */
  | { readonly is: 'order'; readonly to: string; readonly value: number | string | null }
  | { readonly is: 'answer'; readonly to: string; readonly problem: string | null }
  | { readonly is: 'mark'; readonly words: string; readonly by: MarkedBy }

/** A builder's own mark; a part that was operated; an edit of the rig. */
export type MarkedBy = 'builder' | 'hand' | 'edit'

export interface RecordedMark {
  readonly at: Micros
  readonly words: string
  readonly by: MarkedBy
}

/** How everything stood, beside values. */
export interface Standing {
  readonly armed: boolean
  /** The craft set that held; none where it is left out. */
  readonly craftSet?: string | null
  /** Sources that were there, and those of which no frame had come for a while, by their number. */
  readonly up: readonly number[]
  readonly quiet: readonly number[]
  readonly boards: readonly string[]
  /** By part and aspect, what was last reported of controls. */
  readonly controls: readonly (readonly [partId: string, aspectId: string, raw: number])[]
}

/** What a recording is of: its sources with all their names. */
export interface RecordingHead {
  readonly sources: readonly Source[]
  /** Whether it was ever armed while it was made. */
  readonly armed: boolean
}

/** How many variables the sources of a recording tell, and where those of each begin. */
export const startsOf = (sources: readonly Source[]): number[] => {
  const starts = [0]
  for (const { catalogue } of sources)
    starts.push((starts.at(-1) as number) + (catalogue?.variables.length ?? 0))
  return starts
}

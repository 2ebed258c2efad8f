import type { Difference } from './example'
import type { RecordingFormat } from './files/formats'

/** What the thread that works on recordings beside the web process is asked, one such a thread. */
export type AskedOfWork =
  | { readonly do: 'take'; readonly id: string; readonly rigId: string; readonly name: string }
  | { readonly do: 'write'; readonly id: string; readonly format: RecordingFormat }
  | { readonly do: 'keep' | 'compare'; readonly id: string }
  | { readonly do: 'series'; readonly id: string; readonly names: readonly string[] }
  /** The next piece of a file; null is its end. Of one that is written: the next one is wanted, or no more. */
  | { readonly do: 'piece'; readonly bytes: Uint8Array | null }

export type SaidByWork =
  | { readonly say: 'more' }
  | { readonly say: 'file'; readonly type: string; readonly name: string }
  | { readonly say: 'text'; readonly text: string }
  | { readonly say: 'done'; readonly odd: readonly string[] }
  | { readonly say: 'differences'; readonly differences: readonly Difference[]; readonly revision: number }
  /** What values were, packed. */
  | { readonly say: 'series'; readonly packed: Uint8Array }
  | { readonly say: 'refused'; readonly problem: string }

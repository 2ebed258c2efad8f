import type { Aspect } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'

/** What every workplace measures: one aspect of one part. */
export interface CalibrateProps<A extends Aspect> {
  readonly part: PartRow
  readonly aspect: A
}

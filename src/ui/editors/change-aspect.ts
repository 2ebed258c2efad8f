import type { AspectSettings } from '@/core/aspects/aspects'
import type { Aspect } from '@/core/catalogue/part-kind'
import { changeRow } from '@/core/rig/edit'
import type { PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'

/** Gives one aspect of a part other settings, as an edit with its sentence. */
export const put = (part: PartRow, aspect: Aspect, settings: AspectSettings): void =>
  edit(`Changed how “${part.name}” works`, [
    changeRow('part', part, {
      ...part,
      settings: { ...part.settings, aspects: { ...part.settings.aspects, [aspect.id]: settings } },
    }),
  ])

import { create } from 'zustand'
import type { MeasuredKindId } from './measured-kind'

/** What is measured: which kind is listed, and which aspect of the selected part. */
export const useCalibrate = create<{ readonly kind: MeasuredKindId; readonly aspectId: string | null }>()(
  () => ({
    kind: 'levers',
    aspectId: null,
  }),
)

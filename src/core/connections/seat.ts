import { z } from 'zod'

export const sessions = ['practice', 'timed run', 'recce'] as const

/** A share of a pedal’s or a wheel’s way; null leaves it to the truck’s own driver. */
const share = (least: number) => z.number().min(least).max(1).nullable()

/** What a builder does in the seat of the simulated truck, to see what its datagrams make of it. */
export const seatInputs = z.strictObject({
  throttle: share(0),
  brake: share(0),
  clutch: share(0),
  /** -1 for left, 1 for right. */
  steering: share(-1),
  /** -1 for reverse, 0 for neutral. */
  gear: z.int().min(-1).max(6).nullable(),
  handbrake: z.boolean(),
  lights: z.boolean(),
  session: z.enum(sessions),
})
export type SeatInputs = z.infer<typeof seatInputs>

export const emptySeat: SeatInputs = {
  ...{ throttle: null, brake: null, clutch: null, steering: null, gear: null },
  ...{ handbrake: false, lights: false, session: 'timed run' },
}

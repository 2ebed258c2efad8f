import { z } from 'zod'
import { type AspectSettings, aspectSettingsSchemas } from '../aspects/aspects'
import { type Nature, type NatureOf, nature } from '../aspects/nature'
import { ownKind } from '../catalogue/own-kind'

export const aspectSettings = z.discriminatedUnion('kind', aspectSettingsSchemas)

export const partSettings = z.strictObject({
  /** What each position is called on this part, by the position's id in the catalogue. */
  labels: z.record(z.string(), z.string()).optional(),
  /** Who leads when rig and simulator meet: the simulator (nothing is sent) or the part's own position. */
  atStart: z.enum(['panel', 'simulator']).optional(),
  /** The simulator reads this control by itself, so Clavik does nothing with it. */
  leftTo: z.literal('simulator').optional(),
  /** Stays where it is on the panel until it is let loose. */
  locked: z.boolean().optional(),
  /** Things of one panel with the same group are chosen and moved as one. */
  group: z.string().min(1).max(80).optional(),
  /** The group of lights that it is dimmed with. */
  lighting: z.string().min(1).max(80).optional(),
  /** What a screen in a panel shows. */
  screen: z.string().min(1).max(80).optional(),
  /** Measures of its own, where it is not the catalogue's part itself. */
  own: ownKind.optional(),
  seriesOhms: z.number().positive().optional(),
  /** The size of that resistor, where it is not the usual one. */
  seriesWatts: z.number().positive().max(100).optional(),
  /** The resistor that sets the current of a display's segments, where it is not the one that modules come with. */
  setOhms: z.number().min(9500).max(1_000_000).optional(),
  /** Which of its addresses on the two-wire bus its jumpers choose, from 0. */
  jumpers: z.number().int().min(0).max(63).optional(),
  /** Settings of single aspects, by their id in the catalogue. */
  aspects: z.record(z.string(), aspectSettings).optional(),
  /** What single aspects of it are really like while it is simulated. */
  simulated: z.record(z.string(), nature).optional(),
})

export type PartSettings = z.infer<typeof partSettings>

/** The settings of one aspect when they are of the expected kind. */
export const settingsOf = <K extends AspectSettings['kind']>(
  settings: PartSettings,
  aspectId: string,
  kind: K,
): Extract<AspectSettings, { kind: K }> | undefined => {
  const found = settings.aspects?.[aspectId]
  return found?.kind === kind ? (found as Extract<AspectSettings, { kind: K }>) : undefined
}

/** What an aspect of a simulated part is really like, where otherwise than its catalogue says. */
export const natureOf = <K extends Nature['kind']>(
  settings: PartSettings,
  aspectId: string,
  kind: K,
): NatureOf<K> | undefined => {
  const found = settings.simulated?.[aspectId]
  return found?.kind === kind ? (found as NatureOf<K>) : undefined
}

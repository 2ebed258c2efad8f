import { z } from 'zod'

/** Expressions are text in the rig; `core/signal/expression` says what they may contain. */
const expression = z.string().max(2000)
const target = z.string().max(200)

const action = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('set'), variable: target }),
  z.strictObject({ do: z.literal('event'), event: target }),
  z.strictObject({ do: z.literal('toggle'), variable: target }),
  /** From the variable's present value, by so much, within limits. */
  z
    .strictObject({
      do: z.literal('step'),
      variable: target,
      by: z.number().finite(),
      least: z.number().finite(),
      most: z.number().finite(),
      atEnd: z.enum(['stop', 'wrap']),
    })
    .refine((s) => s.by !== 0, 'a step cannot be zero')
    .refine((s) => s.least < s.most, 'the least must be less than the most'),
  z.strictObject({ do: z.literal('pause'), ms: z.number().int().min(10).max(10_000) }),
])

/** How long is long, how soon is double, how repeating begins and goes on; in milliseconds. */
const timing = z.strictObject({
  longMs: z.number().int().min(150).max(5000).optional(),
  doubleMs: z.number().int().min(100).max(1000).optional(),
  delayMs: z.number().int().min(100).max(5000).optional(),
  intervalMs: z.number().int().min(30).max(5000).optional(),
})

/** From a control to the simulator: when it happens, what value goes along, what is done with it. */
const control = z.strictObject({
  kind: z.literal('control'),
  when: z.enum(['press', 'release', 'short', 'long', 'double', 'repeat', 'position']),
  timing: timing.optional(),
  /** Shaping of `input`; null sends an event without a value. */
  value: expression.nullable(),
  actions: z.array(action).max(8),
  onlyWhile: expression.nullable(),
})

/** From a variable to a lamp. */
const lamp = z.strictObject({
  kind: z.literal('lamp'),
  variable: target.nullable(),
  /** Shaping of `input` into how the lamp shines. */
  show: expression,
  onlyWhile: expression.nullable(),
  rest: z.enum(['out', 'lit', 'keep']),
})

export const bindingSettings = z.discriminatedUnion('kind', [control, lamp])
export type BindingSettings = z.infer<typeof bindingSettings>
export type ControlSettings = z.infer<typeof control>
export type LampSettings = z.infer<typeof lamp>
export type Action = z.infer<typeof action>

/** What a binding tells or asks of the simulator: its variable or event, or null while it has none. */
export const targetOf = (s: BindingSettings): { variable: string } | { event: string } | null => {
  if (s.kind === 'lamp') return s.variable === null || s.variable === '' ? null : { variable: s.variable }
  const first = s.actions.find((a) => a.do !== 'pause')
  if (!first) return null
  return first.do === 'event' ? { event: first.event } : { variable: first.variable }
}

/** The same binding with another variable or event behind it; everything else stays. */
export const retarget = (
  s: BindingSettings,
  to: { variable: string } | { event: string },
): BindingSettings => {
  if (s.kind === 'lamp') return 'variable' in to ? { ...s, variable: to.variable } : s
  const at = Math.max(
    0,
    s.actions.findIndex((a) => a.do !== 'pause'),
  )
  const before = s.actions[at]
  const actions = [...s.actions]
  if ('event' in to) actions[at] = { do: 'event', event: to.event }
  else if (before && 'variable' in before) actions[at] = { ...before, variable: to.variable }
  else actions[at] = { do: 'set', variable: to.variable }
  return { ...s, actions }
}

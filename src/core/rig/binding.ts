import { z } from 'zod'

/** Expressions are text in the rig; `core/signal/expression` says what they may contain. */
const expression = z.string().max(2000)
const target = z.string().max(200)

const action = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('set'), variable: target }),
  z.strictObject({ do: z.literal('event'), event: target }),
])

/** From a control to the simulator: when it happens, what value goes along, what is done with it. */
const control = z.strictObject({
  kind: z.literal('control'),
  when: z.enum(['press', 'release', 'position']),
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
  const first = s.actions[0]
  if (!first) return null
  return first.do === 'set' ? { variable: first.variable } : { event: first.event }
}

/** The same binding with another variable or event behind it; everything else stays. */
export const retarget = (
  s: BindingSettings,
  to: { variable: string } | { event: string },
): BindingSettings => {
  if (s.kind === 'lamp') return 'variable' in to ? { ...s, variable: to.variable } : s
  const first: Action =
    'variable' in to ? { do: 'set', variable: to.variable } : { do: 'event', event: to.event }
  return { ...s, actions: [first, ...s.actions.slice(1)] }
}

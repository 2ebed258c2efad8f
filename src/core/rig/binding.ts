import { z } from 'zod'
import { indicatorBindings, indicatorKind } from '../aspects/aspects'
import { common, expression, finite, target } from '../aspects/binding-fields'
import { turns } from '../aspects/encoder'
import { gestures } from '../aspects/positions'
import { type Aspect, isControl } from '../catalogue/part-kind'

/** From the variable's present value, by so much, within limits. */
const step = z
  .strictObject({
    do: z.literal('step'),
    variable: target,
    by: finite,
    least: finite,
    most: finite,
    atEnd: z.enum(['stop', 'wrap']),
    /** Whether both ends exist, so that 359 is followed by 0, or are one place, so that 360 is 0. */
    ends: z.enum(['both', 'one']).optional(),
    /** Only the digit of this place value moves, and never carries: 100 for the hundreds. */
    digit: z.strictObject({ place: z.number().positive(), base: z.number().int().min(2).max(10) }).optional(),
    /** Only what lies within so much moves, and comes in again at its other end: 1 for what is behind the point. */
    within: z.number().positive().optional(),
  })
  .refine((s) => s.by !== 0, 'a step cannot be zero')
  .refine((s) => s.least < s.most, 'the least must be less than the most')
  .refine((s) => !s.digit || !s.within, 'a step moves a digit or a part of the value, not both')
  .refine((s) => !s.digit || Number.isInteger(s.by), 'a digit moves in whole steps')

/** To the next of permitted values; with `every`, the values repeat in each such stretch, as a grid. */
const choose = z
  .strictObject({
    do: z.literal('choose'),
    variable: target,
    values: z
      .array(finite)
      .min(1)
      .max(200)
      .refine((v) => v.every((x, i) => i === 0 || x > (v[i - 1] as number)), 'the values must rise'),
    every: z.number().positive().optional(),
    by: z.number().int(),
    atEnd: z.enum(['stop', 'wrap']),
  })
  .refine((c) => c.by !== 0, 'a step cannot be zero')
  .refine(
    (c) => c.every === undefined || ((c.values[0] as number) >= 0 && (c.values.at(-1) as number) < c.every),
    'values that repeat lie between 0 and the stretch they repeat in',
  )

const action = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('set'), variable: target }),
  z.strictObject({ do: z.literal('event'), event: target }),
  z.strictObject({ do: z.literal('toggle'), variable: target }),
  step,
  choose,
  z.strictObject({ do: z.literal('pause'), ms: z.number().int().min(10).max(10_000) }),
  /** To the next or previous layer of a set, or to one of them. */
  z.strictObject({ do: z.literal('layer'), set: target, to: z.string().min(1) }),
])

/** How long is long, how soon is double, how repeating begins and goes on; in milliseconds. */
const timing = z.strictObject({
  longMs: z.number().int().min(150).max(5000).optional(),
  doubleMs: z.number().int().min(100).max(1000).optional(),
  delayMs: z.number().int().min(100).max(5000).optional(),
  intervalMs: z.number().int().min(20).max(5000).optional(),
  /** How often it acts at most while it is held; without a limit where this is left out. */
  most: z.number().int().min(1).max(10_000).optional(),
})

/** From a control to the simulator: when it happens, what value goes along, what is done with it. */
const control = z.strictObject({
  kind: z.literal('control'),
  ...common,
  when: z.enum([...gestures, ...turns, 'move']),
  /** The position a gesture is about; any but the first where it is left out. */
  position: z.string().max(80).optional(),
  timing: timing.optional(),
  /** Steps that turn coarse when clicks come faster than so many a second. */
  coarse: z
    .strictObject({ perSecond: z.number().min(2).max(100), times: z.number().int().min(2).max(1000) })
    .optional(),
  /** Shaping of `input`; null sends an event without a value. */
  value: expression.nullable(),
  actions: z.array(action).max(8),
  onlyWhile: expression.nullable(),
})

export const bindingSettings = z.discriminatedUnion('kind', [control, ...indicatorBindings])
export type BindingSettings = z.infer<typeof bindingSettings>
export type ControlSettings = z.infer<typeof control>
export type DigitsSettings = Extract<BindingSettings, { kind: 'digits' }>
export type TextSettings = Extract<BindingSettings, { kind: 'text' }>
export type NeedleBindingSettings = Extract<BindingSettings, { kind: 'needle' }>
export type ColourSettings = Extract<BindingSettings, { kind: 'colour' }>
export type IndicatorSettings = Exclude<BindingSettings, ControlSettings>
export type Action = z.infer<typeof action>
export type StepAction = z.infer<typeof step>

/** Whether a kind of binding can belong to an aspect. */
export const fitsAspect = (s: BindingSettings, aspect: Aspect): boolean =>
  s.kind === 'control' ? isControl(aspect) : s.kind === aspect.kind

/** The aspect a binding belongs to: the one it names, or the first it fits. */
export const aspectFor = (aspects: readonly Aspect[], s: BindingSettings): Aspect | undefined => {
  const fitting = aspects.filter((a) => fitsAspect(s, a))
  return s.aspect === undefined ? fitting[0] : fitting.find((a) => a.id === s.aspect)
}

type Told = Exclude<Action, { do: 'pause' } | { do: 'layer' }>

/** The first action that the simulator hears of. */
export const firstTold = (actions: readonly Action[]): Told | undefined =>
  actions.find((a): a is Told => a.do !== 'pause' && a.do !== 'layer')

/** What a binding tells or asks of the simulator: its variable or event, or null while it has none. */
export const targetOf = (s: BindingSettings): { variable: string } | { event: string } | null => {
  if (s.kind !== 'control') return s.variable === null || s.variable === '' ? null : { variable: s.variable }
  const first = firstTold(s.actions)
  if (!first) return null
  return first.do === 'event' ? { event: first.event } : { variable: first.variable }
}

/** Whether an indicator's shaping takes its variable in; one that does not needs none. */
export const takesInput = (s: IndicatorSettings): boolean =>
  indicatorKind(s.kind)
    .takes(s)
    .some((text) => /\binput\b/.test(text))

/** Whether a binding has all it needs to do something: a target, a layer to change, or something to show. */
export const isBound = (s: BindingSettings): boolean =>
  targetOf(s) !== null ||
  (s.kind !== 'control' && !takesInput(s)) ||
  (s.kind === 'control' && s.actions.some((a) => a.do === 'layer'))

/** The same binding with another variable or event behind it; everything else stays. */
export const retarget = (
  s: BindingSettings,
  to: { variable: string } | { event: string },
): BindingSettings => {
  if (s.kind !== 'control') return 'variable' in to ? { ...s, variable: to.variable } : s
  const at = Math.max(
    0,
    s.actions.findIndex((a) => a.do !== 'pause' && a.do !== 'layer'),
  )
  const before = s.actions[at]
  const actions = [...s.actions]
  if ('event' in to) actions[at] = { do: 'event', event: to.event }
  else if (before && 'variable' in before) actions[at] = { ...before, variable: to.variable }
  else actions[at] = { do: 'set', variable: to.variable }
  return { ...s, actions }
}

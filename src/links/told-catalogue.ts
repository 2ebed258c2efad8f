import { z } from 'zod'
import type { EventInfo, VariableInfo } from '../core/rig/simulator-catalogue'
import { isPlainName } from '../core/signal/expression/names'
import { unitNamed } from '../core/signal/unit'

/** What can be made of a catalogue as a simulator told it, and what is odd about it, in sentences. */
export interface ToldCatalogue {
  readonly variables: readonly VariableInfo[]
  readonly events: readonly EventInfo[]
  readonly odd: readonly string[]
}

const type = z.enum(['number', 'boolean', 'text'])
const text = z.string().catch('')
const unit = z.string().nullable().catch(null)

/** Only the name has to be there. What else is missing or wrong is left out and said. */
const variable = z.object({
  name: z.string().min(1),
  type: type.optional(),
  unit: unit.optional(),
  writable: z.boolean().optional(),
  range: z.tuple([z.number(), z.number()]).nullable().optional(),
  choices: z.array(z.string()).optional(),
  description: text.optional(),
  group: text.optional(),
})
const event = z.object({
  name: z.string().min(1),
  description: text.optional(),
  group: text.optional(),
  value: z.object({ type: type.optional(), unit: unit.optional() }).nullable().optional(),
})

/** Gathers oddities of one kind into one sentence. */
class Oddities {
  private readonly kinds = new Map<string, string[]>()

  note(kind: string, what: string): void {
    const list = this.kinds.get(kind) ?? []
    list.push(what)
    this.kinds.set(kind, list)
  }

  get sentences(): string[] {
    return [...this.kinds].map(([kind, list]) => {
      const some = [...new Set(list)]
      const more = some.length > 3 ? ` and ${some.length - 3} more` : ''
      return `${kind}: ${some.slice(0, 3).join(', ')}${more}.`
    })
  }
}

/** A unit by its symbol where it is known; otherwise as it was told. */
const knownUnit = (told: string | null | undefined, odd: Oddities): string | null => {
  if (!told) return null
  const known = unitNamed(told)
  if (!known) odd.note('Units that Clavik does not know, so that nothing is converted', `“${told}”`)
  return known?.symbol ?? told
}

/** Every name once: a second one of the same name is told apart by its number. */
const uniqueName = (name: string, taken: Set<string>, odd: Oddities): string => {
  let unique = name
  for (let n = 2; taken.has(unique); n++) unique = `${name} #${n}`
  if (unique !== name) odd.note('Names that occur more than once', `“${name}”`)
  taken.add(unique)
  return unique
}

const readVariable = (json: unknown, at: number, taken: Set<string>, odd: Oddities): VariableInfo => {
  const read = variable.safeParse(json)
  if (!read.success) {
    const name = (json as { name?: unknown } | null)?.name
    const called = typeof name === 'string' && name !== '' ? name : `variable ${at}`
    const issue = read.error.issues[0]
    odd.note('Variables that are told wrongly and can only be read', `“${called}” (${issue?.path.join('.')})`)
    return {
      name: uniqueName(called, taken, odd),
      ...{ type: 'number', unit: null, writable: false, range: null, description: '', group: '' },
    }
  }
  const told = read.data
  if (!isPlainName(told.name)) odd.note('Names that are written variable("…") in formulas', `“${told.name}”`)
  const range = told.range ?? null
  const upsideDown = range !== null && !(range[0] <= range[1])
  if (upsideDown) odd.note('Ranges that begin above their end and are not taken', `“${told.name}”`)
  return {
    name: uniqueName(told.name, taken, odd),
    type: told.type ?? 'number',
    unit: knownUnit(told.unit, odd),
    writable: told.writable ?? false,
    range: upsideDown ? null : range,
    ...(told.choices ? { choices: told.choices } : {}),
    description: told.description ?? '',
    group: told.group ?? '',
  }
}

const readEvent = (json: unknown, at: number, taken: Set<string>, odd: Oddities): EventInfo => {
  const read = event.safeParse(json)
  if (!read.success) {
    odd.note('Events that are told wrongly', `number ${at}`)
    return { name: uniqueName(`event ${at}`, taken, odd), description: '', group: '', value: null }
  }
  const { name, description = '', group = '', value } = read.data
  const takes = value ? { type: value.type ?? 'number', unit: knownUnit(value.unit, odd) } : null
  return { name: uniqueName(name, taken, odd), description, group, value: takes }
}

/** Takes of a catalogue what is there. Places stay what they are: values come by their number. */
export const readCatalogue = (variables: readonly unknown[], events: readonly unknown[]): ToldCatalogue => {
  const odd = new Oddities()
  const names = new Set<string>()
  const eventNames = new Set<string>()
  return {
    variables: variables.map((v, i) => readVariable(v, i, names, odd)),
    events: events.map((e, i) => readEvent(e, i, eventNames, odd)),
    odd: odd.sentences,
  }
}

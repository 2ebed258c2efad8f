import { z } from 'zod'

export const SIMULATOR_LINK_VERSION = 1

const value = z.union([z.number(), z.string(), z.boolean(), z.null()])
const index = z.number().int().nonnegative()
const id = z.number().int()

const fromSimulator = z.discriminatedUnion('say', [
  z.object({
    say: z.literal('hello'),
    link: z.literal('clavik simulator'),
    version: z.number().int(),
    craft: z.string(),
    rateHz: z.number().positive().optional(),
  }),
  /** What of it can be taken is for `readCatalogue` to say. */
  z.object({
    say: z.literal('catalogue'),
    variables: z.array(z.unknown()),
    events: z.array(z.unknown()).default([]),
  }),
  z
    .object({ say: z.literal('frame'), t: z.number(), i: z.array(index), v: z.array(value) })
    .refine((f) => f.i.length === f.v.length, 'as many values as indexes'),
  z.object({ say: z.literal('done'), id }),
  z.object({ say: z.literal('error'), id: id.nullable(), message: z.string() }),
])

const toSimulator = z.discriminatedUnion('say', [
  z.object({ say: z.literal('hello'), version: z.number().int() }),
  /** Tell these from now on, all their present values first. Replaces what was asked before. */
  z.object({ say: z.literal('subscribe'), i: z.union([z.literal('all'), z.array(index)]) }),
  z.object({ say: z.literal('set'), id, i: index, v: z.union([z.number(), z.string()]) }),
  z.object({ say: z.literal('event'), id, e: index, v: z.union([z.number(), z.string()]).nullable() }),
])

export type FromSimulator = z.infer<typeof fromSimulator>
export type ToSimulator = z.infer<typeof toSimulator>

/** A line longer than this is noise, not a message. */
const MOST_LINE = 16 * 1024 * 1024

/** One end of newline-delimited JSON: whole messages out of any split of the text, the rest counted and dropped. */
export class LineReader<M> {
  bad = 0
  /** What was wrong with the last bad line. */
  problem: string | null = null
  private held = ''
  private skipping = false

  constructor(
    private readonly schema: z.ZodType<M>,
    /** Recognises the commonest message without the schema, for speed; null leaves it to the schema. */
    private readonly quick: (json: unknown) => M | null = () => null,
  ) {}

  push(text: string): M[] {
    const messages: M[] = []
    let from = 0
    for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', from)) {
      const line = this.held + text.slice(from, end)
      this.held = ''
      from = end + 1
      if (this.skipping) this.skipping = false
      else if (line !== '' && line !== '\r') this.take(line, messages)
    }
    this.held += text.slice(from)
    if (this.held.length > MOST_LINE) {
      this.held = ''
      if (!this.skipping) this.complain('a line without end')
      this.skipping = true
    }
    return messages
  }

  private take(line: string, messages: M[]): void {
    try {
      const json: unknown = JSON.parse(line)
      const known = this.quick(json)
      if (known !== null) {
        messages.push(known)
        return
      }
      const checked = this.schema.safeParse(json)
      if (checked.success) {
        messages.push(checked.data)
        return
      }
      const issue = checked.error.issues[0]
      this.complain(`${issue?.path.join('.') || 'message'}: ${issue?.message ?? 'not understood'}`)
    } catch {
      this.complain(`not JSON: ${line.slice(0, 40)}`)
    }
  }

  private complain(problem: string): void {
    this.bad++
    this.problem = problem
  }
}

const isIndex = (x: unknown): boolean => typeof x === 'number' && x >= 0 && Number.isInteger(x)
const isValue = (x: unknown): boolean =>
  x === null || typeof x === 'number' || typeof x === 'string' || typeof x === 'boolean'

/** A number too large for any number (1e999) is none: such a value is absent. */
const onlyNumbers = (values: unknown[]): void => {
  for (let i = 0; i < values.length; i++) {
    const v = values[i]
    if (typeof v === 'number' && !Number.isFinite(v)) values[i] = null
  }
}

/**
 * The two commonest messages by hand: thirty times a second with thousands of values, and after every action, the
 * schema would be most of the work.
 */
const quickMessage = (json: unknown): FromSimulator | null => {
  const m = json as { say?: unknown; id?: unknown; t?: unknown; i?: unknown; v?: unknown } | null
  if (m?.say === 'done' && Number.isInteger(m.id)) return m as FromSimulator
  if (m?.say !== 'frame' || typeof m.t !== 'number' || !Array.isArray(m.i) || !Array.isArray(m.v)) return null
  if (m.i.length !== m.v.length || !m.i.every(isIndex) || !m.v.every(isValue)) return null
  onlyNumbers(m.v)
  return m as FromSimulator
}

export const readerOfSimulator = () => new LineReader<FromSimulator>(fromSimulator, quickMessage)
export const readerOfClavik = () => new LineReader<ToSimulator>(toSimulator)

/** A message as the line that travels. */
export const line = (message: FromSimulator | ToSimulator): string => `${JSON.stringify(message)}\n`

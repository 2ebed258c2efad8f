import { z } from 'zod'
import { exerciseSchema } from '../../engine/exercise'
import type { SimulatorValue } from '../../engine/input'
import { parseOutside } from '../../plain-json'
import { eventInfo, variableInfo } from '../../rig/simulator-catalogue'
import { joined, type Source } from '../../rig/sources'
import type { Micros } from '../../units-of-measure'
import type { Block } from '../block'
import { BlockBuilder } from '../block-builder'
import type { RecordedMark, Standing, What } from '../moment'
import { BLOCK_US } from '../recorder'
import { StandingNow } from '../stands'
import { FileRefused } from './file-refused'
import type { FileReader, TakenFile } from './taken-file'
import { FileValues } from './told-values'

const value = z.union([z.number(), z.string(), z.boolean(), z.null()])
const id = z.string().max(200)

const header = z.object({
  clavik: z.literal('recording'),
  version: z.number(),
  name: z.string().max(200).optional(),
  armed: z.boolean().default(false),
  sources: z
    .array(
      z.object({
        id,
        name: id,
        on: z.boolean(),
        prefix: z.string().max(200),
        catalogue: z
          .object({ craft: z.string(), variables: z.array(variableInfo), events: z.array(eventInfo) })
          .nullable(),
      }),
    )
    .max(30),
})

const standing = z.object({
  armed: z.boolean(),
  craftSet: id.nullable().optional(),
  up: z.array(z.number().int()),
  quiet: z.array(z.number().int()),
  boards: z.array(id),
  controls: z.array(z.tuple([id, id, z.number()])),
})

const what = z.discriminatedUnion('is', [
  z.object({ is: z.literal('report'), partId: id, aspectId: id, value: z.number() }),
  z.object({ is: z.literal('source'), source: z.number().int().min(0), up: z.boolean() }),
  z.object({ is: z.literal('quiet'), source: z.number().int().min(0), quiet: z.boolean() }),
  z.object({ is: z.literal('arm'), armed: z.boolean() }),
  z.object({ is: z.literal('craft set'), set: id.nullable() }),
  z.object({ is: z.literal('board'), boardId: id, up: z.boolean() }),
  z.object({ is: z.literal('exercise'), partIds: z.array(id), how: exerciseSchema.nullable() }),
  z.object({ is: z.literal('settle'), partIds: z.array(id) }),
  z.object({ is: z.literal('order'), to: id, value: z.union([z.number(), z.string()]).nullable() }),
  z.object({ is: z.literal('answer'), to: id, problem: z.string().nullable() }),
  z.object({
    is: z.literal('mark'),
    words: z.string().max(1000),
    by: z.enum(['builder', 'hand', 'edit']),
  }),
]) satisfies z.ZodType<What>

const values = z.record(z.string(), value)
const time = z.number().min(-1e12).max(1e12)
const wholeLine = z.object({ t: time, standing, values })
const frameLine = z.object({
  t: time,
  source: z.number().int().min(0).default(0),
  told: z.number().optional(),
  values,
})
const endLine = z.object({ t: time, end: z.literal(true) })
const momentLine = z.object({ t: time }).and(what)
/** As others may write it. */
const foreignLine = z.union([
  z.object({ t: time, values }).transform(({ t, values: v }) => ({ t, values: v })),
  z
    .object({ t: time, name: z.string().min(1), value })
    .transform(({ t, name, value: v }) => ({ t, values: { [name]: v } })),
  z
    .object({ time, name: z.string().min(1), value })
    .transform(({ time: t, name, value: v }) => ({ t, values: { [name]: v } })),
  z.object({ time, values }).transform(({ time: t, values: v }) => ({ t, values: v })),
])

const nothingStands: Standing = { armed: false, up: [], quiet: [], boards: [], controls: [] }

/** Lines of a recording that Clavik wrote, back as blocks. */
class OwnLines {
  readonly blocks: Block[] = []
  readonly marks: RecordedMark[] = []
  private readonly indexOf: ReadonlyMap<string, number>
  private readonly isText: readonly boolean[]
  private readonly now: (number | string | null)[]
  private stands = new StandingNow(nothingStands)
  private builder: BlockBuilder | null = null
  private at: Micros = 0
  private ended = false

  constructor(
    readonly sources: readonly Source[],
    private readonly odd: FileValues,
  ) {
    const { variables } = joined(sources).catalogue
    this.indexOf = new Map(variables.map((v, i) => [v.name, i]))
    this.isText = variables.map((v) => v.type === 'text')
    this.now = variables.map(() => null)
  }

  private begin(from: Micros): BlockBuilder {
    return BlockBuilder.with(from, this.stands.now(), this.now)
  }

  private read(i: number, told: SimulatorValue): number | string | null {
    if (told === null) return null
    return this.isText[i] ? String(told) : typeof told === 'string' ? null : Number(told)
  }

  take(json: unknown, line: number): boolean {
    const t = (json as { t?: unknown } | null)?.t
    if (typeof t !== 'number' || !this.odd.takes(t * 1e6, line)) return typeof t === 'number'
    const at = Math.round(t * 1e6)
    const whole = wholeLine.safeParse(json)
    if (whole.success && !this.builder) {
      this.stands = new StandingNow(whole.data.standing)
      for (const [name, told] of Object.entries(whole.data.values)) {
        const i = this.known(name, line)
        if (i !== undefined) this.now[i] = this.read(i, told)
      }
      this.at = at
      this.builder = this.begin(at)
      return true
    }
    this.builder ??= this.begin(at)
    if (at - this.builder.from >= BLOCK_US) {
      this.blocks.push(this.builder.done(at))
      this.builder = this.begin(at)
    }
    this.at = at
    if (endLine.safeParse(json).success) {
      this.ended = true
      return true
    }
    const frame = frameLine.safeParse(json)
    if (frame.success) {
      this.frame(this.builder, at, frame.data, line)
      return true
    }
    const moment = momentLine.safeParse(json)
    if (!moment.success) return false
    const { t: _, ...is } = moment.data
    this.builder.moment(at, is)
    this.stands.take(is)
    if (is.is === 'mark') this.marks.push({ at, words: is.words, by: is.by })
    return true
  }

  private frame(
    builder: BlockBuilder,
    at: Micros,
    { told, source, values: v }: z.infer<typeof frameLine>,
    line: number,
  ): void {
    builder.beginFrame(at, told ?? Number.NaN, Math.min(source, this.sources.length - 1))
    for (const [name, one] of Object.entries(v)) {
      const i = this.known(name, line)
      if (i === undefined) continue
      const is = this.read(i, one)
      this.now[i] = is
      builder.change(i, typeof is === 'number' ? is : builder.text(is))
    }
  }

  private known(name: string, line: number): number | undefined {
    const i = this.indexOf.get(name)
    if (i === undefined)
      this.odd.odd(
        `name ${name}`,
        line,
        () => `“${name}” is in none of its catalogues; its values are left out.`,
      )
    return i
  }

  end(): Block[] {
    if (this.builder) this.blocks.push(this.builder.done(this.ended ? this.at : this.at + 1))
    return this.blocks
  }
}

/** Reads JSON Lines: what Clavik wrote, with everything in it, or a line for each time with a name and a value, or several. */
export class JsonLinesReader implements FileReader {
  private readonly told = new FileValues()
  private own: OwnLines | null = null
  private ownName: string | null = null
  private armed = false
  private isFirst = true

  constructor(private readonly name: string) {}

  lines(text: string, first: number): void {
    for (const [i, line] of text.split('\n').entries()) if (line.trim() !== '') this.line(line, first + i)
  }

  private line(text: string, line: number): void {
    const parsed = parseOutside(text)
    const json = 'problem' in parsed ? undefined : parsed.value
    if (this.isFirst) {
      this.isFirst = false
      if (this.header(json)) return
    }
    if (json !== undefined && (this.own ? this.own.take(json, line) : this.foreign(json, line))) return
    this.told.odd(
      'line',
      line,
      (count, first) =>
        `${count === 1 ? 'A line is' : `${count} lines are`} not understood, the first of them line ${first}; left out.`,
    )
  }

  private header(json: unknown): boolean {
    if ((json as { clavik?: unknown } | null | undefined)?.clavik !== 'recording') return false
    const read = header.safeParse(json)
    if (!read.success) {
      const issue = read.error.issues[0]
      throw new FileRefused(`Its first line is not understood: ${issue?.path.join('.')}: ${issue?.message}.`)
    }
    if (read.data.version !== 1)
      throw new FileRefused(
        `It is of version ${read.data.version}, from a newer Clavik; this one reads version 1.`,
      )
    this.own = new OwnLines(read.data.sources as readonly Source[], this.told)
    this.ownName = read.data.name ?? null
    this.armed = read.data.armed
    return true
  }

  private foreign(json: unknown, line: number): boolean {
    const read = foreignLine.safeParse(json)
    if (!read.success) return false
    const at = read.data.t * 1e6
    if (!this.told.takes(at, line)) return true
    for (const [name, one] of Object.entries(read.data.values)) this.told.put(at, name, null, one, line)
    return true
  }

  end(): TakenFile {
    const { own, told, armed } = this
    const nothing = () => new FileRefused(['It has no line that can be taken.', ...told.sentences].join(' '))
    if (own) {
      const blocks = own.end()
      if (blocks.length === 0) throw nothing()
      const name = this.ownName ?? this.name
      return { name, head: { sources: own.sources, armed }, blocks, marks: own.marks, odd: told.sentences }
    }
    if (told.isEmpty) throw nothing()
    const head = { sources: [told.source(this.name)], armed: false }
    const blocks = { [Symbol.iterator]: () => told.blocks()[Symbol.iterator]() }
    return { name: this.name, head, blocks, marks: [], odd: told.sentences }
  }
}

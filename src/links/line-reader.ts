import type { z } from 'zod'
import { parseOutside } from '../core/plain-json'

/** A line longer than this is noise, not a message. */
const MOST_LINE = 16 * 1024 * 1024
/** How deep a message may be nested: a catalogue is four deep. A short line costs nothing, however deep it is. */
const MOST_DEPTH = 16
const SHORT_LINE = 1024

const HTTP = /^(GET|HEAD|POST|PUT|DELETE|PATCH|OPTIONS|CONNECT|TRACE) \S* HTTP\/\d/

/** Whether a line is the first of an HTTP request: some page has been made to speak to a port that is none of its business. */
export const isHttp = (line: string): boolean => HTTP.test(line)

/** One end of newline-delimited JSON: whole messages out of any split of the text, the rest counted and dropped. */
export class LineReader<M> {
  bad = 0
  /** What was wrong with the last bad line. */
  problem: string | null = null
  /** A browser is at the other end: nothing that it says is heard any more, and whoever reads hangs up. */
  foreign = false
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
    for (let end = text.indexOf('\n'); end >= 0 && !this.foreign; end = text.indexOf('\n', from)) {
      const line = this.held + text.slice(from, end)
      this.held = ''
      from = end + 1
      if (this.skipping) this.skipping = false
      else if (line !== '' && line !== '\r') this.take(line, messages)
    }
    if (this.foreign) return messages
    this.held += text.slice(from)
    if (this.held.length > MOST_LINE) {
      this.held = ''
      if (!this.skipping) this.complain('a line without end')
      this.skipping = true
    }
    return messages
  }

  private take(line: string, messages: M[]): void {
    if (isHttp(line)) {
      this.foreign = true
      this.held = ''
      this.complain('an HTTP request')
      return
    }
    const parsed = parseOutside(line, line.length > SHORT_LINE ? MOST_DEPTH : SHORT_LINE)
    if ('problem' in parsed) {
      this.complain(`${parsed.problem}: ${line.slice(0, 40)}`)
      return
    }
    const known = this.quick(parsed.value)
    if (known !== null) {
      messages.push(known)
      return
    }
    const checked = this.schema.safeParse(parsed.value)
    if (checked.success) messages.push(checked.data)
    else {
      const issue = checked.error.issues[0]
      this.complain(`${issue?.path.join('.') || 'message'}: ${issue?.message ?? 'not understood'}`)
    }
  }

  private complain(problem: string): void {
    this.bad++
    this.problem = problem
  }
}

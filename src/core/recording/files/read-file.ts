import { FileRefused } from './file-refused'
import { CsvReader } from './read-csv'
import { JsonLinesReader } from './read-json-lines'
import type { FileReader, TakenFile } from './taken-file'

/** A line longer than that is none. */
const MOST_LINE = 8_000_000

/**
 * Reads a file of values over time, piece by piece: JSON Lines, or CSV with a line a change or a column a value. What it is
 * is seen from its first line.
 */
export class RecordingFileReader {
  private rest = ''
  private line = 1
  private reader: FileReader | null = null

  constructor(private readonly name: string) {}

  push(text: string): void {
    this.rest += text
    const end = this.endOfLines()
    if (end > 0) this.give(end)
    else if (this.rest.length > MOST_LINE)
      throw new FileRefused(
        `Line ${this.line} is longer than ${MOST_LINE / 1e6} million signs; that is no recording.`,
      )
  }

  /** Behind the last newline that is not within quotes. */
  private endOfLines(): number {
    for (let end = this.rest.lastIndexOf('\n'); end >= 0; end = this.rest.lastIndexOf('\n', end - 1)) {
      if (end === 0) return 0
      if (!this.isQuoted(end)) return end + 1
    }
    return 0
  }

  /** Only in CSV do quotes hold lines together. */
  private isQuoted(end: number): boolean {
    if (this.rest.startsWith('{') || this.reader instanceof JsonLinesReader) return false
    let quotes = 0
    for (let i = this.rest.indexOf('"'); i >= 0 && i < end; i = this.rest.indexOf('"', i + 1)) quotes++
    return quotes % 2 === 1
  }

  private give(end: number): void {
    let text = this.rest.slice(0, end)
    this.rest = this.rest.slice(end)
    if (!this.reader) {
      text = text.replace(/^\uFEFF/, '')
      const first = text.trimStart()
      if (first === '') return
      this.reader = first.startsWith('{') ? new JsonLinesReader(this.name) : new CsvReader(this.name)
    }
    this.reader.lines(text, this.line)
    for (let i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) this.line++
  }

  end(): TakenFile {
    if (this.rest !== '') {
      this.rest += '\n'
      this.give(this.rest.length)
    }
    if (!this.reader) throw new FileRefused('There is nothing in the file.')
    return this.reader.end()
  }
}

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { PaperFonts } from '../core/harness/papers/marks'
import { paperFonts as paperFiles } from '../core/harness/papers/paper-text'
import type { OutlineFace } from '../core/lettering/face-names'
import { faceFiles } from '../core/lettering/faces'
import { type Lettering, letteringFrom } from '../core/lettering/outlines'

let known: Lettering | null = null

const bytesOf = (file: string): ArrayBuffer => {
  const bytes = readFileSync(join(process.cwd(), 'node_modules', file))
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer
}

const fontBytes = (face: OutlineFace): ArrayBuffer => bytesOf(faceFiles[face])

/** The faces that papers are set in. */
export const paperFonts = (): PaperFonts => ({
  plain: bytesOf(paperFiles.plain),
  bold: bytesOf(paperFiles.bold),
})

/** The letters of legends, from the fonts that the project ships with; each is read when it is first needed. */
export const lettering = (): Lettering => {
  known ??= letteringFrom(fontBytes)
  return known
}

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Lettering } from '@/core/layout/cut-drawing'
import { letteringFrom } from '@/core/layout/letters'

let known: Lettering | null = null

/** The letters of legends, from the font that the project ships with; read once. */
export const lettering = (): Lettering => {
  if (!known) {
    const file = join(process.cwd(), 'node_modules/@fontsource/b612/files/b612-latin-400-normal.woff')
    const bytes = readFileSync(file)
    known = letteringFrom(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer,
    )
  }
  return known
}

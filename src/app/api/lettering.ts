import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Lettering } from '@/core/layout/cut-drawing'
import { letteringFrom } from '@/core/layout/letters'

let known: Lettering | null = null

const font = (file: string): ArrayBuffer => {
  const bytes = readFileSync(join(process.cwd(), 'node_modules/@fontsource', file))
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer
}

/** The letters of legends, from the fonts that the project ships with; read once. */
export const lettering = (): Lettering => {
  known ??= letteringFrom({
    plain: font('b612/files/b612-latin-400-normal.woff'),
    bold: font('b612/files/b612-latin-700-normal.woff'),
    mono: font('ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff'),
  })
  return known
}

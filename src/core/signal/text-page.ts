/** What marks the line that the control acts on, in the first column. */
const CURSOR = '>'
/** Shown in place of the last character of a line that is longer than the display; an arrow on an HD44780. */
const CUT = '~'

/** One row of a text display, exactly as wide as it; an absent text is dashes. */
export const textRow = (text: string | null, columns: number): string => {
  if (text === null) return '-'.repeat(columns)
  const plain = text.replace(/[^\x20-\x7d°]/g, ' ')
  if (plain.length <= columns) return plain.padEnd(columns)
  return plain.slice(0, columns - 1) + CUT
}

/** Whether a row shows that its line was cut; no text of its own can end so. */
export const isCut = (row: string): boolean => row.endsWith(CUT)

/** A line with room for the cursor before it. */
export const withCursor = (text: string | null, here: boolean): string | null =>
  text === null ? null : (here ? CURSOR : ' ') + text

/** Which of seven segments, a to g from the top round to the middle, light for a character. */
const lit: Readonly<Record<string, string>> = {
  '0': 'abcdef',
  '1': 'bc',
  '2': 'abdeg',
  '3': 'abcdg',
  '4': 'bcfg',
  '5': 'acdfg',
  '6': 'acdefg',
  '7': 'abc',
  '8': 'abcdefg',
  '9': 'abcdfg',
  '-': 'g',
  '¯': 'a',
  _: 'd',
  '=': 'dg',
  '°': 'abfg',
  '"': 'bf',
  "'": 'f',
  '?': 'abeg',
  A: 'abcefg',
  b: 'cdefg',
  C: 'adef',
  c: 'deg',
  d: 'bcdeg',
  E: 'adefg',
  F: 'aefg',
  G: 'acdef',
  H: 'bcefg',
  h: 'cefg',
  i: 'c',
  J: 'bcde',
  L: 'def',
  n: 'ceg',
  o: 'cdeg',
  P: 'abefg',
  q: 'abcfg',
  r: 'eg',
  S: 'acdfg',
  t: 'defg',
  U: 'bcdef',
  u: 'cde',
  y: 'bcdfg',
  '[': 'adef',
  ']': 'abcd',
}

/** The segments of a character, also in its other size where it has none of its own; none for what seven cannot show. */
export const segmentsOf = (glyph: string): string =>
  lit[glyph] ?? lit[glyph.toUpperCase()] ?? lit[glyph.toLowerCase()] ?? ''

/** The same as bits, a lowest. */
export const segmentBits = (glyph: string): number =>
  [...segmentsOf(glyph)].reduce((bits, s) => bits | (1 << 'abcdefg'.indexOf(s)), 0)

const byBits = new Map<number, string>()
for (const glyph of Object.keys(lit)) {
  const bits = segmentBits(glyph)
  if (!byBits.has(bits)) byBits.set(bits, glyph)
}

/** A character that looks like these segments; of several the digit. */
export const glyphOfSegments = (bits: number): string => (bits === 0 ? ' ' : (byBits.get(bits) ?? '?'))

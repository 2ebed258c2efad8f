import fc from 'fast-check'

/** Pieces that break readers: what is put in where something else belongs. */
const pieces = [
  ...[
    '',
    '\0',
    '\ud800',
    '\u2028',
    '"',
    "'",
    '\\',
    '\n',
    '\r\n',
    '[',
    ']',
    '{',
    '}',
    '<',
    '>',
    '&',
    ';',
    '=',
    '%',
  ],
  ...[
    'null',
    'NaN',
    '1e999',
    '-0',
    '-1',
    '4294967296',
    '9007199254740993',
    '1e-400',
    'true',
    '""',
    '[]',
    '{}',
  ],
  ...['__proto__', 'constructor', 'toString', '<!DOCTYPE', '<!ENTITY', '<svg>', 'POST / HTTP/1.1', '0\nEOF'],
  '('.repeat(200),
  '['.repeat(200),
  'a'.repeat(300),
]

interface Cut {
  readonly at: number
  readonly length: number
  readonly put: string
  readonly times: number
}

const cut: fc.Arbitrary<Cut> = fc.record({
  at: fc.double({ min: 0, max: 1, noNaN: true }),
  length: fc.oneof(fc.constant(0), fc.nat(4), fc.nat(200)),
  put: fc.oneof(fc.constantFrom(...pieces), fc.string({ maxLength: 6 }), fc.constant('§again')),
  times: fc.oneof(fc.constant(1), fc.integer({ min: 1, max: 40 })),
})

/** A sound text, damaged in up to eight places: pieces cut out, put in, repeated. */
export const damaged = (samples: readonly string[]): fc.Arbitrary<string> =>
  fc.tuple(fc.constantFrom(...samples), fc.array(cut, { maxLength: 8 })).map(([sample, cuts]) => {
    let text = sample
    for (const { at, length, put, times } of cuts) {
      const from = Math.floor(at * text.length)
      const gone = text.slice(from, from + length)
      const there = put === '§again' ? gone : put
      text = `${text.slice(0, from)}${there.repeat(times)}${text.slice(from + length)}`.slice(0, 200_000)
    }
    return text
  })

/** The same of bytes. */
export const damagedBytes = (samples: readonly Uint8Array[]): fc.Arbitrary<Uint8Array> =>
  fc
    .tuple(
      fc.constantFrom(...samples),
      fc.array(fc.record({ at: fc.nat(), bytes: fc.uint8Array({ maxLength: 6 }), gone: fc.nat(6) }), {
        maxLength: 8,
      }),
    )
    .map(([sample, cuts]) => {
      let bytes = [...sample]
      for (const c of cuts) {
        const from = c.at % (bytes.length + 1)
        bytes = [...bytes.slice(0, from), ...c.bytes, ...bytes.slice(from + c.gone)]
      }
      return Uint8Array.from(bytes)
    })

/** A text of anything, in pieces as a line delivers them. */
export const inPieces = (text: fc.Arbitrary<string>): fc.Arbitrary<string[]> =>
  fc.tuple(text, fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 5 })).map(([t, cuts]) => {
    const at = [0, ...cuts.map((c) => Math.floor(c * t.length)).sort((a, b) => a - b), t.length]
    return at.slice(1).map((end, i) => t.slice(at[i], end))
  })

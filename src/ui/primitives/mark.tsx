/** A state as a shape: never by colour alone. */
export type MarkShape = 'ok' | 'fault' | 'warn' | 'wait' | 'none' | 'off'

const strokes: Record<MarkShape, { d: string; colour: string }> = {
  ok: { d: 'M2.5 7.5l3 3 6-7', colour: 'var(--live)' },
  fault: { d: 'M7 1.5v7M7 11v1.5', colour: 'var(--fault)' },
  warn: { d: 'M7 2l5 5-5 5-5-5z', colour: 'var(--warn)' },
  wait: { d: 'M3.5 2h7l-7 10h7z', colour: 'var(--warn)' },
  off: { d: 'M3 3l8 8M11 3l-8 8', colour: 'var(--ink3)' },
  none: { d: 'M4 7h6', colour: 'var(--ink3)' },
}

export const Mark = ({ shape, words }: { shape: MarkShape; words: string }) => (
  <svg
    width={14}
    height={14}
    viewBox="0 0 14 14"
    role="img"
    aria-label={words}
    className="inline-block shrink-0 align-[-2px]"
  >
    <path d={strokes[shape].d} fill="none" stroke={strokes[shape].colour} strokeWidth={1.9} />
  </svg>
)

/** Up as a filled dot, down as a hollow one with a bar through it. */
export const UpMark = ({ up, words }: { up: boolean; words: string }) => (
  <svg
    width={10}
    height={10}
    viewBox="0 0 10 10"
    role="img"
    aria-label={words}
    className="inline-block shrink-0"
  >
    {up ? (
      <circle cx={5} cy={5} r={4.5} fill="var(--live)" />
    ) : (
      <path
        d="M1 5a4 4 0 1 0 8 0a4 4 0 1 0-8 0M2 8l6-6"
        fill="none"
        stroke="var(--fault)"
        strokeWidth={1.6}
      />
    )}
  </svg>
)

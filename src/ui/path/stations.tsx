import type { Station } from '@/core/engine/mistakes'

/** Each station of a path has a shape of its own. */
export const StationGlyph = ({ station, lit }: { station: Station; lit: boolean }) => {
  const common = { stroke: 'var(--ink)', strokeWidth: 1.5, fill: 'var(--raised)' }
  switch (station) {
    case 'part':
      return (
        <svg width={22} height={22} aria-hidden="true">
          <circle cx={11} cy={11} r={9} {...common} />
        </svg>
      )
    case 'pin':
      return (
        <svg width={22} height={22} aria-hidden="true">
          <path d="M2 2h18v18H2z" {...common} />
        </svg>
      )
    case 'board':
      return (
        <svg width={30} height={22} aria-hidden="true">
          <path d="M2 1h26v20H2z" {...common} />
        </svg>
      )
    case 'shaping':
      return (
        <svg width={58} height={22} aria-hidden="true">
          <path d="M1 1h56v20H1z" {...common} />
          <path d="M8 15q14-12 21-5t21-6" stroke="var(--accent)" fill="none" strokeWidth={1.5} />
        </svg>
      )
    case 'onlyWhile':
      return (
        <svg width={26} height={22} aria-hidden="true">
          <path d="M13 1l12 10-12 10L1 11z" {...common} />
        </svg>
      )
    case 'simulator':
      return (
        <svg width={24} height={24} aria-hidden="true">
          <circle cx={12} cy={12} r={10} {...common} />
          <circle cx={12} cy={12} r={4} fill={lit ? 'var(--live)' : 'var(--ink3)'} />
        </svg>
      )
  }
}

export const stationWords: Record<Station, string> = {
  part: 'part',
  pin: 'pin',
  board: 'board',
  shaping: 'shaping',
  onlyWhile: 'only while',
  simulator: 'simulator',
}

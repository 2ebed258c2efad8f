/** The views that work, in the order of the work. */
export const views = [
  { path: '/bench', word: 'Bench', key: 'B', icon: 'M2.5 3.5h15v9h-15zM2 16.5h16M5 12.5v4M15 12.5v4' },
  {
    path: '/panel',
    word: 'Panel',
    key: 'D',
    icon: 'M2.5 4h15v12h-15zM6 10a1.800 1.800 0 1 0 3.600 0a1.800 1.800 0 1 0-3.600 0M12 8h3v4h-3z',
  },
  {
    path: '/harness',
    word: 'Harness',
    key: 'H',
    icon: 'M7 4h6v12H7zM7 6.500H2.500M7 10H2.500M7 13.500H2.500M13 6.500h4.500M13 10h4.500M13 13.500h4.500',
  },
  {
    path: '/paths',
    word: 'Paths',
    key: 'P',
    icon: 'M2 10h1M7 10h3M14.5 10H18M7 10a2.2 2.2 0 1 1-4.4 0a2.2 2.2 0 1 1 4.4 0M10 7.8h4.4v4.4H10z',
  },
  { path: '/scope', word: 'Scope', key: 'S', icon: 'M2 11h3l2-6 3.500 11L13 8l1.500 3H18' },
  {
    path: '/calibrate',
    word: 'Calibrate',
    key: 'K',
    icon: 'M3 15a8 8 0 1 1 14 0M10 12l4-5M10 12a1 1 0 1 0 .01 0M4.500 9l1.500.6M10 5v1.600',
  },
  { path: '/mirror', word: 'Mirror', key: 'M', icon: 'M10 2v16M8 5H2.5v10H8M12 5h5.5v10H12' },
  {
    path: '/screens',
    word: 'Screens',
    key: 'E',
    icon: 'M2.500 4h15v10h-15zM7 17h6M5.500 11.500a4 4 0 0 1 8 0M9.500 11l2-3M15.500 7v4',
  },
] as const

export const ViewIcon = ({ d }: { d: string }) => (
  <svg
    viewBox="0 0 20 20"
    width={19}
    height={19}
    fill="none"
    stroke="currentColor"
    strokeWidth={1.5}
    aria-hidden="true"
  >
    <path d={d} />
  </svg>
)

import type { ElementKindName } from '@/core/elements/elements'

/** Each kind as a small drawing, where it is offered and where it is listed. */
const icons: Readonly<Record<ElementKindName, string>> = {
  value: 'M4 6v8M2.500 7.500L4 6M8 8a2 2 0 1 1 4 0c0 2-4 3-4 6h4M15 14h2',
  needle: 'M3.500 15a8 8 0 1 1 13 0M10 11l4-5M10 11a1 1 0 1 0 .01 0',
  bar: 'M2 8h16v5H2zM2 8h9v5H2zM11 8v5',
  lamps: 'M2 8h3v4H2zM7 8h3v4H7zM12 8h3v4h-3zM17 8v4',
  annunciator: 'M2 6h16v8H2zM6 10h8',
  tape: 'M5 2v16M5 4h4M5 7h2M5 10h4M5 13h2M5 16h4M16 7l-4 3l4 3z',
  compass: 'M10 2a8 8 0 1 0 .01 0M10 2v3M10 15v3M2 10h3M15 10h3M10 7l2 5h-4z',
  horizon: 'M10 2a8 8 0 1 0 .01 0M2.500 12l15-4M6 10h2.500M11.500 10H14',
  trend: 'M2 3v14h16M4 13l4-4l3 2l5-6',
  words: 'M4 5h12M10 5v11M7.500 16h5',
  frame: 'M3 4h14v12H3z',
  line: 'M3 16L17 4',
  arc: 'M3 14a7.500 7.500 0 0 1 14 0',
  touch: 'M3 4h14v8H3zM10 17v-6M8 13l2-2.500l2 2.500',
  part: 'M10 3a5 5 0 0 1 5 5v5H5V8a5 5 0 0 1 5-5M3 13h14M8 13v4M12 13v4',
  picture: 'M3 4h14v12H3zM3 14l4-4l4 4l3-3l3 3M13 7.500a1 1 0 1 0 .01 0',
}

export const ElementIcon = ({ kind, size = 16 }: { kind: ElementKindName; size?: number }) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 20 20"
    fill="none"
    stroke="currentColor"
    strokeWidth={1.4}
    className="shrink-0"
    aria-hidden="true"
  >
    <path d={icons[kind]} />
  </svg>
)

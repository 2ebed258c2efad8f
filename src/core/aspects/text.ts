import { z } from 'zod'
import type { TextAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { isCut, textRow, withCursor } from '../signal/text-page'
import type { IndicatorKind, Shaper, SlotKind } from './aspect-kind'
import { expression, fromVariable } from './binding-fields'
import { powered } from './powered'
import { countedPlaces, KEEPS } from './slot-bytes'

export interface TextSlot {
  readonly kind: 'text'
  readonly pins: readonly Place[]
  readonly columns: number
  readonly rows: number
  /** On the two-wire bus; 0 for one on lines of its own. */
  readonly address: number
  readonly keep: boolean
}

/** Beyond all pins and channels: addresses on the two-wire bus. */
const BUS = 0x10000

export const textSlot: SlotKind<TextSlot> = {
  kind: 'text',
  code: 6,
  write: ({ pins, columns, rows, address, keep }) => ({
    flags: keep ? KEEPS : 0,
    bytes: [...countedPlaces(pins), columns, rows, address],
  }),
  read: (flags, b) => ({
    kind: 'text',
    pins: b.numbers(b.number()),
    columns: b.next(),
    rows: b.next(),
    address: b.next(),
    keep: (flags & KEEPS) !== 0,
  }),
  ownPlace: ({ address, pins }) => (address > 0 ? BUS + address : (pins[1] ?? -1)),
  longestState: ({ columns }) => columns,
  worksBytes: ({ columns, rows }) => 20 + 4 * (rows - 1) + columns * rows,
}

/** A page of a text display. */
const binding = z.strictObject({
  kind: z.literal('text'),
  ...fromVariable,
  lines: z
    .array(
      z.strictObject({
        show: expression,
        /** The layer that this line's cursor stands for. */
        cursor: z.string().max(80).optional(),
      }),
    )
    .min(1)
    .max(8),
  powered: expression.optional(),
  rest: z.enum(['out', 'keep']),
})

/** A fixed text that cannot fit is a mistake at once, not a surprise on the panel. */
const checkWidth = (source: string, room: number, line: number, shaper: Shaper): void => {
  const fixed = /^\s*(["'])(.*)\1\s*$/.exec(source)?.[2]
  if (fixed !== undefined && fixed.length > room)
    shaper.say('shaping', `Line ${line + 1}: “${fixed}” has ${fixed.length} characters; ${room} fit.`)
}

const cursorOf = (layerId: string | undefined, line: number, shaper: Shaper): (() => boolean) => {
  const here = layerId === undefined ? () => false : shaper.layerIsActive(layerId)
  if (here === null)
    shaper.say('shaping', `Line ${line + 1}: the layer its cursor stands for is not there any more.`)
  return here ?? (() => false)
}

const page = ({ columns, rows }: TextAspect, fill: (row: number) => string): string =>
  Array.from({ length: rows }, (_, row) => textRow(fill(row), columns)).join('\n')

export const text: IndicatorKind<TextAspect, typeof binding> = {
  kind: 'text',
  word: 'text',
  binding,
  priority: 2,
  showsAbsent: true,
  wanted: { as: 'words' },
  inRows: true,
  terminals: ({ terminals }) => terminals,
  slot: ({ columns, rows }, { places: pins, address, rest }): TextSlot => ({
    kind: 'text',
    pins,
    columns,
    rows,
    address,
    keep: rest === 'keep',
  }),
  fresh: () => ({ lines: [{ show: '""' }] }),
  presence: (aspect) => ({
    rest: () => page(aspect, () => ''),
    all: page(aspect, () => '#'.repeat(aspect.columns)),
    bare: (value) => {
      const lines = String(value).split('\n')
      return page(aspect, (row) => lines[row] ?? '')
    },
    sweep: (share) => page(aspect, () => '#'.repeat(Math.round(share * aspect.columns))),
    // Full and empty places side by side, by which contrast is seen.
    trial: () => page(aspect, (row) => (row % 2 === 0 ? '8 ' : ' 8').repeat(aspect.columns / 2)),
  }),
  compile: (s, aspect, shaper) => {
    const { columns, rows } = aspect
    const isPowered = powered(s.powered, shaper)
    if (s.lines.length > rows)
      shaper.say('shaping', `The display has ${rows} lines; there are ${s.lines.length} on this page.`)
    const cursors = s.lines.some((l) => l.cursor !== undefined)
    const lines = s.lines.map((line, i) => ({
      show: shaper.expression(line.show, { as: 'words' }),
      here: cursorOf(line.cursor, i, shaper),
    }))
    for (const [i, line] of s.lines.entries()) checkWidth(line.show, columns - Number(cursors), i, shaper)
    const blank = page(aspect, () => '')
    return (input) => {
      if (!isPowered()) return blank
      return Array.from({ length: rows }, (_, row) => {
        const line = lines[row]
        if (!line?.show) return textRow('', columns)
        const words = line.show(input) as string | null
        return textRow(cursors ? withCursor(words, line.here()) : words, columns)
      }).join('\n')
    }
  },
  takes: (s) => s.lines.map((l) => l.show),
  // Several expressions, and none of them is the main one.
  main: () => null,
  shaping: (s) => `${s.lines.length} lines`,
  reworded: (s, change) => ({
    ...s,
    lines: s.lines.map((l) => ({ ...l, show: change(l.show) })),
    ...(s.powered === undefined ? {} : { powered: change(s.powered) }),
  }),
  words: (_, __, state) => {
    const first = String(state)
      .split('\n')
      .find((l) => l.trim() !== '')
    return first === undefined ? 'blank' : `“${first.trim()}”`
  },
  hides: ({ columns }, _, state) => {
    const cut = String(state).split('\n').findIndex(isCut)
    return cut < 0 ? null : `line ${cut + 1} is longer than ${columns} characters`
  },
}

import { type BoardModel, contactsOf, type Header } from '@/core/catalogue/board-model'

/** About as wide as a letter of a label is, and of a pin's name. */
export const LETTER_MM = 1.14
const NAME_LETTER_MM = 1.2
/** From a contact to where its label begins: outside the board, and on it. */
export const STUB_MM = 5
export const INNER_STUB_MM = 2.4
/** Letters of a label, at most: outside the board, where they make the drawing wider, and on it; fewer beside its name. */
export const MOST_LETTERS = 34
const MOST_INNER = 44
const MOST_BESIDE_NAME = 17
/** Labels of neighbours that face each other keep so far apart. */
const GAP_MM = 1.2

export interface Contact {
  readonly name: string
  readonly x: number
  readonly y: number
  readonly faces: Header['faces']
  /** It faces the middle of the board: its labels lie on the board itself. */
  readonly inner: boolean
  /** Of several contacts of one name, what hangs on them is shown at the first. */
  readonly first: boolean
  /** So many letters of what hangs on it have room. */
  readonly letters: number
}

const facesInward = (header: Header, model: BoardModel): boolean =>
  (header.faces === 'left' && header.xMm > model.widthMm / 2) ||
  (header.faces === 'right' && header.xMm < model.widthMm / 2)

/** The contacts of a board as they are drawn. `wired` are the names of those that something hangs on. */
export const layContacts = (model: BoardModel, wired: ReadonlySet<string>): readonly Contact[] => {
  const seen = new Set<string>()
  const name = namePlace(model)
  const laid = contactsOf(model).map(({ name, header, xMm, yMm }) => {
    const first = !seen.has(name)
    seen.add(name)
    return { name, x: xMm, y: yMm, faces: header.faces, inner: facesInward(header, model), first }
  })
  const inner = laid.filter((c) => c.inner)
  return laid.map((c) => {
    if (!c.inner) return { ...c, letters: MOST_LETTERS }
    // What faces it in its own line, nearest first: both have half of what lies between if it is wired as well.
    const facing = inner
      .filter((o) => o.faces !== c.faces && Math.abs(o.y - c.y) < 1.5)
      .filter((o) => (c.faces === 'left' ? o.x < c.x : o.x > c.x))
      .sort((a, b) => Math.abs(a.x - c.x) - Math.abs(b.x - c.x))[0]
    const way = facing ? Math.abs(facing.x - c.x) : c.faces === 'left' ? c.x : model.widthMm - c.x
    const other = facing
      ? wired.has(facing.name)
        ? way / 2
        : INNER_STUB_MM + facing.name.length * NAME_LETTER_MM
      : 0
    const room = way - other - INNER_STUB_MM - (c.name.length + 2) * NAME_LETTER_MM - GAP_MM
    const most =
      c.y > name.y - name.sizeMm && c.y < name.y + name.below + name.sizeMm ? MOST_BESIDE_NAME : MOST_INNER
    return { ...c, letters: Math.max(0, Math.min(most, Math.floor(room / LETTER_MM))) }
  })
}

/** Where the name of a board stands on it, and the voltage below that: clear of its rows. */
export const namePlace = (model: BoardModel): { x: number; y: number; sizeMm: number; below: number } => {
  if (model.plug === 'left') {
    return { x: model.widthMm * 0.42, y: model.heightMm / 2, sizeMm: 3, below: 4 }
  }
  const lowest = model.heightMm - 0.8
  const rows = model.headers.filter((h) => h.runs === 'right' && h.yMm > model.heightMm - 8)
  const below = 2
  const y = Math.min(lowest, ...rows.map((h) => h.yMm - 1.6)) - below
  return { x: model.widthMm / 2, y, sizeMm: 1.7, below }
}

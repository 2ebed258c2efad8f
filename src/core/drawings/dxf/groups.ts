/** A group of a DXF file: a code, and what stands on the line after it. */
export interface Group {
  readonly code: number
  readonly value: string
}

/** A record of a DXF file: what it is called, its groups, and what belongs to it until its SEQEND. */
export interface Entity {
  readonly type: string
  readonly groups: readonly Group[]
  readonly parts: readonly Entity[]
}

export interface DxfBlock {
  readonly name: string
  /** The record of the block itself: base point and flags. */
  readonly head: Entity
  readonly entities: readonly Entity[]
}

/** A DXF file as the records it is made of. */
export interface Sections {
  /** Variables by their names, with the values of their first group. */
  readonly header: ReadonlyMap<string, string>
  readonly layers: readonly Entity[]
  /** By name in small letters, as names are compared. */
  readonly blocks: ReadonlyMap<string, DxfBlock>
  readonly entities: readonly Entity[]
}

/** The first value of a code, or undefined. */
export const textOf = (e: Entity, code: number): string | undefined =>
  e.groups.find((g) => g.code === code)?.value

/** The first number of a code, or what it is where nothing is said. NaN where it is no number. */
export const numberOf = (e: Entity, code: number, otherwise: number): number => {
  const text = textOf(e, code)
  return text === undefined ? otherwise : text.trim() === '' ? Number.NaN : Number(text)
}

export const numbersOf = (e: Entity, code: number): number[] =>
  e.groups.filter((g) => g.code === code).map((g) => Number(g.value))

/** From here on a record carries data of programs, or an object of another sort. */
const EMBEDDED = 101
const FIRST_OF_PROGRAMS = 1000

/** Records whose parts follow them, up to a SEQEND. */
const hasParts = (e: Entity): boolean =>
  e.type === 'POLYLINE' || (e.type === 'INSERT' && numberOf(e, 66, 0) === 1)

/**
 * The records of a DXF file (as text), by the DXF reference's chapters on groups and sections; a sentence where it is
 * not made of pairs of a code and a value, or its sections do not open and close.
 */
export const sectionsOf = (text: string): Sections | { problem: string } => {
  const records = recordsOf(text)
  if ('problem' in records) return records
  const header = new Map<string, string>()
  const layers: Entity[] = []
  const blocks = new Map<string, DxfBlock>()
  const entities: Entity[] = []
  let section = ''
  let block: { head: Entity; entities: Entity[] } | null = null
  let owner: { parts: Entity[] } | null = null
  for (const record of records.list) {
    const made: Entity & { parts: Entity[] } = { ...record, parts: [] }
    if (record.type === 'SECTION') {
      section = textOf(record, 2) ?? ''
      if (section === 'HEADER') readHeader(record.groups, header)
    } else if (record.type === 'SEQEND' || record.type === 'ENDSEC') owner = null
    else if (section === 'TABLES' && record.type === 'LAYER') layers.push(made)
    else if (section === 'BLOCKS' && record.type === 'BLOCK') block = { head: made, entities: [] }
    else if (section === 'BLOCKS' && record.type === 'ENDBLK') {
      const name = block === null ? undefined : textOf(block.head, 2)
      if (block && name !== undefined) blocks.set(name.toLowerCase(), { ...block, name })
      block = null
    } else if (section === 'ENTITIES' || (section === 'BLOCKS' && block)) {
      if (owner && (record.type === 'VERTEX' || record.type === 'ATTRIB')) {
        owner.parts.push(made)
        continue
      }
      owner = hasParts(record as Entity) ? made : null
      ;(block?.entities ?? entities).push(made)
    }
  }
  return { header, layers, blocks, entities }
}

const readHeader = (groups: readonly Group[], header: Map<string, string>): void => {
  let name = ''
  for (const { code, value } of groups)
    if (code === 9) name = value
    else if (name !== '' && !header.has(name)) header.set(name, value)
}

interface Record_ {
  readonly type: string
  readonly groups: Group[]
}

/** Cuts the file into its records and looks whether its sections are whole. */
const recordsOf = (text: string): { list: readonly (Record_ & { parts: [] })[] } | { problem: string } => {
  const lines = text.split(/\r\n|\r|\n/)
  const list: (Record_ & { parts: [] })[] = []
  let record: Record_ | null = null
  let open = false
  let deaf = false
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = lines[i] as string
    const value = lines[i + 1] as string
    if (!/^\s*-?\d{1,4}\s*$/.test(code))
      return { problem: `line ${i + 1} should be a code, and is “${code.slice(0, 30)}”.` }
    const group: Group = { code: Number(code), value: value.trim() }
    if (group.code === 999) continue
    if (group.code !== 0) {
      deaf ||= group.code === EMBEDDED || group.code >= FIRST_OF_PROGRAMS
      // What is written keeps its blanks: they may be the end of one word of several.
      if (!deaf) record?.groups.push(group.code === 1 || group.code === 3 ? { ...group, value } : group)
      continue
    }
    deaf = false
    if (group.value === 'SECTION' && open)
      return { problem: `a section begins within another, at line ${i + 1}.` }
    if (group.value === 'ENDSEC' && !open)
      return { problem: `a section ends that has not begun, at line ${i + 1}.` }
    if (group.value === 'SECTION' || group.value === 'ENDSEC') open = group.value === 'SECTION'
    else if (group.value === 'EOF') return open ? { problem: 'it ends within a section.' } : { list }
    else if (!open)
      return { problem: `“${group.value.slice(0, 30)}” stands outside of all sections, at line ${i + 1}.` }
    record = { type: group.value, groups: [] }
    list.push({ ...record, groups: record.groups, parts: [] })
  }
  return { problem: 'it has no end.' }
}

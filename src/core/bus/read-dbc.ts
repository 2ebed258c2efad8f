import { Dbc } from 'candied'
import { unitNamed } from '../signal/unit'
import {
  type BusDatabase,
  type BusMessage,
  type BusSignal,
  busDatabase,
  MOST_MESSAGES,
  MOST_SIGNALS,
} from './database'

/** What came of reading a database: its messages, and what was not understood, by line. */
export interface ReadDbc {
  readonly database: BusDatabase
  readonly notes: readonly string[]
}

/** Files of real vehicles have some ten thousand lines. */
const MOST_LINES = 60_000
const MOST_CHARACTERS = 8_000_000
const MOST_NOTED = 20
/** The bit that says, in these files, that an identifier has 29 bits. */
const EXTENDED = 0x80000000

/** Units as such files often write them. */
const otherUnits: Readonly<Record<string, string>> = {
  ...{
    degC: '°C',
    'deg C': '°C',
    C: '°C',
    Cel: '°C',
    '1/min': 'rpm',
    RPM: 'rpm',
    'km/hr': 'km/h',
    kph: 'km/h',
  },
  ...{ Nm: 'N·m', percent: '%' },
}
const unitOf = (said: string): string => (unitNamed(said)?.symbol ?? otherUnits[said] ?? said).slice(0, 40)

/** How messages and signals begin. */
const RULE = /^\s*(BO_ +(\d+) +\w+ *: *(\d+) +\w+|SG_ +\w+ *(M|m\d+M?)? *: *\d+\|\d+@[01][+-])/

const multiplexOf = (text: string): BusSignal['multiplex'] | null => {
  if (text === '') return undefined
  if (text === 'M') return 'chooses'
  const one = /^m(\d+)$/.exec(text)
  // Alternatives within alternatives are not read.
  return one ? Number(one[1]) : null
}

const rangeOf = (least: number, most: number): [number, number] | null =>
  least < most ? [least, most] : null

/** Reads an open database file of a vehicle bus (DBC), or says in a sentence why it cannot be read. */
export const readDbc = (text: string, name: string): ReadDbc | { readonly problem: string } => {
  if (text.length > MOST_CHARACTERS)
    return { problem: `This is too large for a database of a vehicle: ${(text.length / 1e6).toFixed(0)} MB.` }
  const lines = text.split('\n').length
  if (lines > MOST_LINES)
    return {
      problem: `This has ${lines.toLocaleString('en-GB')} lines; up to ${MOST_LINES.toLocaleString('en-GB')} are read.`,
    }
  if (!/^\s*(BO_|VERSION|BU_)/m.test(text))
    return { problem: 'This is no database of a vehicle bus: it has no messages.' }
  const notes: string[] = []
  const note = (words: string) => {
    if (notes.length < MOST_NOTED) notes.push(words)
    else if (notes.length === MOST_NOTED) notes.push('… and more of the like.')
  }
  const dbc = new Dbc()
  try {
    dbc.load(text, false)
  } catch (error) {
    return { problem: `This database cannot be read: ${(error as Error).message}.` }
  }
  // The parser passes over what it does not know; of what should have been a message or a signal the builder is told.
  const lengths = new Map<number, number>()
  for (const [i, line] of text.split('\n').entries()) {
    const rule = RULE.exec(line)
    // The parser takes one digit for the length.
    if (rule?.[2] !== undefined) lengths.set(Number(rule[2]), Number(rule[3]))
    if (/^\s*(BO_|SG_)\s/.test(line) && !rule)
      note(`Line ${i + 1} was not understood: ${line.trim().slice(0, 60)}`)
  }
  const messages: BusMessage[] = []
  let signals = 0
  for (const [key, m] of dbc.data.messages) {
    const extended = m.id >= EXTENDED
    const id = extended ? m.id - EXTENDED : m.id
    if (m.name === 'VECTOR__INDEPENDENT_SIG_MSG') continue
    if (messages.length === MOST_MESSAGES || signals + m.signals.size > MOST_SIGNALS) {
      note(`Only the first ${messages.length} messages are taken.`)
      break
    }
    const bytes = lengths.get(m.id) ?? m.dlc
    if (bytes > 8) {
      note(`${key} has ${bytes} bytes; messages of more than 8 are left out.`)
      continue
    }
    const list: BusSignal[] = []
    for (const s of m.signals.values()) {
      const multiplex = multiplexOf(s.multiplex ?? '')
      if (multiplex === null) {
        note(`${m.name}: ${s.name} is an alternative within an alternative and is left out.`)
        continue
      }
      if (s.factor === 0) note(`${m.name}: ${s.name} has a scale of 0; 1 is taken.`)
      const choices = s.valueTable ? [...s.valueTable.entries()] : []
      list.push({
        name: s.name,
        start: s.startBit,
        length: s.length,
        order: s.endian === 'Intel' ? 'little' : 'big',
        as:
          s.dataType === 'float'
            ? 'float'
            : s.dataType === 'double'
              ? 'double'
              : s.signed
                ? 'signed'
                : 'unsigned',
        scale: s.factor === 0 ? 1 : s.factor,
        add: s.offset,
        range: rangeOf(s.min, s.max),
        unit: unitOf(s.unit ?? ''),
        ...(choices.length > 0
          ? { choices: choices.map(([n, w]): [number, string] => [Number(n), String(w)]) }
          : {}),
        ...(multiplex === undefined ? {} : { multiplex }),
        ...(s.description ? { description: s.description.slice(0, 500) } : {}),
      })
    }
    signals += list.length
    const everyMs = Math.round(Number(m.attributes.get('GenMsgCycleTime')?.value ?? 0))
    messages.push({
      name: m.name,
      id,
      extended,
      bytes,
      ...(everyMs >= 1 && everyMs <= 65_535 ? { everyMs } : {}),
      ...(m.sendingNode ? { sender: m.sendingNode } : {}),
      ...(m.description ? { description: m.description.slice(0, 500) } : {}),
      signals: list,
    })
  }
  const checked = busDatabase.safeParse({ name: name.slice(0, 200), messages })
  if (!checked.success) {
    const [issue] = checked.error.issues
    const where = messages[Number(issue?.path[1])]?.name ?? 'it'
    return { problem: `This database is not valid: ${where}: ${issue?.message ?? 'unknown'}.` }
  }
  if (messages.length === 0) return { problem: 'This database has no messages of up to 8 bytes.' }
  return { database: checked.data, notes }
}

import { fieldTypes } from './field-type'
import {
  bytesOfOne,
  type DatagramField,
  type DatagramLayout,
  type DatagramPacket,
  endOf,
  namesOf,
} from './layout'

/** What is wrong or odd in a layout: where, and in a sentence. */
export interface LayoutFinding {
  readonly packet: number
  /** Null where it is the packet itself. */
  readonly field: number | null
  readonly message: string
}

/** Of two fields that share bytes: whether one lies on the other. */
const overlaps = (a: DatagramField, b: DatagramField): boolean => {
  // Bits of one number lie side by side in the same bytes.
  if (!a.bits || !b.bits || a.at !== b.at || a.as !== b.as || a.order !== b.order) return true
  return a.bits.from < b.bits.from + b.bits.width && b.bits.from < a.bits.from + a.bits.width
}

const ofField = (f: DatagramField, p: DatagramPacket): string[] => {
  const said: string[] = []
  if (endOf(f) > p.bytes)
    said.push(`“${f.name}” ends at byte ${endOf(f) - 1}; the packet has ${p.bytes} bytes.`)
  if (f.bits && f.as !== 'text') {
    const room = bytesOfOne(f) * 8
    if (!fieldTypes[f.as].isWhole) said.push(`“${f.name}” is a float, which has no bits of its own.`)
    else if (f.bits.from + f.bits.width > room)
      said.push(`“${f.name}” takes bits up to ${f.bits.from + f.bits.width - 1}; its number has ${room}.`)
  }
  return said
}

/** Whether a datagram of one packet could be taken for one of the other. */
const sameLooks = (a: DatagramPacket, b: DatagramPacket): boolean => {
  if (a.tell && b.tell && a.tell.at === b.tell.at && a.tell.as === b.tell.as && a.tell.is !== b.tell.is)
    return false
  if (a.bytes === b.bytes) return true
  return a.bytes < b.bytes ? a.longer === true : b.longer === true
}

/** All that is wrong or odd in a layout; what it is wrong of is left out, and the rest of it is read. */
export const layoutFindings = (layout: DatagramLayout): LayoutFinding[] => {
  const found: LayoutFinding[] = []
  const names = new Map<string, string>()
  for (const [i, p] of layout.packets.entries()) {
    const say = (field: number | null, message: string) => found.push({ packet: i, field, message })
    if (p.tell && p.tell.at + fieldTypes[p.tell.as].bytes > p.bytes)
      say(null, `What tells “${p.name}” from others lies beyond its ${p.bytes} bytes.`)
    if (p.grows !== undefined && !p.fields.some((f) => f.name === p.grows && f.as !== 'text'))
      say(null, `“${p.name}” has no number “${p.grows}” that could only grow.`)
    const inOrder = [...p.fields.entries()].sort(([, a], [, b]) => a.at - b.at)
    for (const [k, [at, f]] of inOrder.entries()) {
      for (const message of ofField(f, p)) say(at, message)
      // Those behind it in order can only lie on it as long as they begin before its end.
      for (let n = k + 1; n < inOrder.length; n++) {
        const [, other] = inOrder[n] as [number, DatagramField]
        if (other.at >= endOf(f)) break
        if (overlaps(f, other)) say(at, `“${f.name}” and “${other.name}” lie on the same bytes.`)
      }
    }
    for (const [at, f] of p.fields.entries()) {
      if (p.send) {
        if (f.value === undefined || f.value.trim() === '') say(at, `“${f.name}” has no value to be sent.`)
        continue
      }
      for (const name of namesOf(f)) {
        const other = names.get(name)
        if (other !== undefined) say(at, `“${name}” is there twice, in “${other}” too; this one is left out.`)
        else names.set(name, p.name)
      }
    }
    const twin = p.send ? undefined : layout.packets.slice(0, i).find((o) => !o.send && sameLooks(o, p))
    if (twin) say(null, `“${p.name}” cannot be told from “${twin.name}”: give them a number that differs.`)
  }
  return found
}

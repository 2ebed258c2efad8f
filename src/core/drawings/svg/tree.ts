import { Element, type ParentNode, Text } from 'domhandler'
import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { MOST_DEPTH } from '../drawing'

type Node = { readonly [tag: string]: unknown; readonly ':@'?: Readonly<Record<string, string>> }

/**
 * The svg element of a file as a tree of elements, names without their prefixes. Nothing in it is run or fetched, and
 * entities of its own are refused. A sentence where it cannot be read.
 */
export const treeOf = (text: string): Element | { problem: string } => {
  if (definesEntities(text)) return { problem: 'The file defines entities of its own, which are not read.' }
  const valid = XMLValidator.validate(text)
  if (valid !== true) return { problem: `The file is broken at line ${valid.err.line}: ${valid.err.msg}` }
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    preserveOrder: true,
    processEntities: true,
    parseTagValue: false,
    parseAttributeValue: false,
    trimValues: false,
    removeNSPrefix: true,
    cdataPropName: '#cdata',
  })
  const root = (parser.parse(text) as Node[]).find((n) => 'svg' in n)
  if (!root) return { problem: 'This is no SVG file: it has no svg element.' }
  const made = elementOf(root, 'svg', 0)
  return made ?? { problem: 'The file is nested too deeply.' }
}

/** One pass for each: a file that says it again and again costs no more than its length. */
const definesEntities = (text: string): boolean => {
  const lower = text.toLowerCase()
  if (lower.includes('<!entity')) return true
  const at = lower.indexOf('<!doctype')
  if (at < 0) return false
  const [bracket, end] = [lower.indexOf('[', at), lower.indexOf('>', at)]
  return (bracket >= 0 && (end < 0 || bracket < end)) || lower.indexOf('<!doctype', at + 1) >= 0
}

/** Null where it is nested too deeply. */
const elementOf = (node: Node, name: string, depth: number): Element | null => {
  if (depth > MOST_DEPTH) return null
  const element = new Element(name, Object.assign(Object.create(null), node[':@'] ?? {}))
  for (const child of node[name] as Node[]) {
    const tag = Object.keys(child).find((k) => k !== ':@')
    if (tag === undefined || tag.startsWith('?')) continue
    if (tag === '#text') append(element, new Text(String(child[tag])))
    else if (tag === '#cdata') append(element, new Text(textIn(child[tag])))
    else if (!tag.startsWith('#')) {
      const made = elementOf(child, tag, depth + 1)
      if (made === null) return null
      append(element, made)
    }
  }
  return element
}

const textIn = (nodes: unknown): string =>
  Array.isArray(nodes) ? (nodes as Node[]).map((n) => String(n['#text'] ?? '')).join('') : ''

const append = (parent: ParentNode, child: Element | Text): void => {
  const last = parent.children.at(-1) ?? null
  child.parent = parent
  child.prev = last
  if (last) last.next = child
  parent.children.push(child)
}

export const elementsIn = (e: Element): Element[] =>
  e.children.filter((c): c is Element => c instanceof Element)

export const wordsIn = (e: Element): string =>
  e.children.map((c) => (c instanceof Text ? c.data : c instanceof Element ? wordsIn(c) : '')).join('')

import { compile } from 'css-select'
import { type CssNode, generate, parse, type Selector, walk } from 'css-tree'
import { Element } from 'domhandler'
import { elementsIn, wordsIn } from './tree'

/** Properties that change what is drawn, or where. */
const heeded = [
  'display',
  'visibility',
  'transform',
  'transform-origin',
  'transform-box',
  'fill',
  'stroke',
  'opacity',
  'overflow',
  'clip-path',
  'clip',
  'mask',
  'font-size',
  'font-weight',
  'text-anchor',
  'writing-mode',
  'x',
  'y',
  'width',
  'height',
  'cx',
  'cy',
  'r',
  'rx',
  'ry',
] as const
export type StyleProperty = (typeof heeded)[number]

/** These may be said by an attribute of their own name as well as in a style. */
const isHeeded = (name: string): name is StyleProperty => (heeded as readonly string[]).includes(name)

interface Rule {
  readonly matches: (e: Element) => boolean
  /** Ids, classes and names that its selector has: the more, the stronger. */
  readonly weight: number
  readonly says: readonly Said[]
}

interface Said {
  readonly property: StyleProperty
  readonly value: string
  readonly important: boolean
}

/** The most rules that are read; each is asked of every element. */
const MOST_RULES = 2000

/** What a file's style sheets, style attributes and attributes say, by the order of CSS (Cascading, 6.4). */
export class Styles {
  private readonly rules: readonly Rule[]
  private readonly known = new WeakMap<Element, ReadonlyMap<StyleProperty, string>>()
  /** How much of its style sheets is not read: other files, and what is no CSS. */
  unread = 0

  constructor(root: Element) {
    const rules: Rule[] = []
    for (const sheet of sheetsIn(root)) this.readSheet(wordsIn(sheet), rules)
    // Stronger selectors come later; among equals, later ones in the file.
    this.rules = rules.sort((a, b) => a.weight - b.weight)
  }

  /** What is said of an element itself, without what it takes from those that it lies in. */
  of(e: Element): ReadonlyMap<StyleProperty, string> {
    const known = this.known.get(e)
    if (known) return known
    const said = new Map<StyleProperty, string>()
    for (const name of heeded) if (e.attribs[name] !== undefined) said.set(name, e.attribs[name])
    const inStyle = declarationsIn(e.attribs.style ?? '')
    const matched = this.rules.filter((r) => r.matches(e)).flatMap((r) => r.says)
    for (const important of [false, true])
      for (const s of [...matched, ...inStyle]) if (s.important === important) said.set(s.property, s.value)
    this.known.set(e, said)
    return said
  }

  private readSheet(text: string, rules: Rule[]): void {
    const sheet = parse(text, { parseValue: false, onParseError: () => this.unread++ })
    if (sheet.type !== 'StyleSheet') return
    for (const node of sheet.children) this.readRule(node, rules)
  }

  private readRule(node: CssNode, rules: Rule[]): void {
    if (node.type === 'Atrule') {
      if (node.name === 'import') this.unread++
      // Of media, what is meant for a screen is what one sees.
      if (node.name !== 'media' || !node.prelude || !node.block) return
      const media = generate(node.prelude)
      if (/^(all|screen)$/.test(media)) for (const inner of node.block.children) this.readRule(inner, rules)
      else if (!/^print$/.test(media)) this.unread++
      return
    }
    if (node.type !== 'Rule' || node.prelude.type !== 'SelectorList') return
    const says = saidIn(node.block)
    if (says.length === 0) return
    for (const selector of node.prelude.children) {
      if (selector.type !== 'Selector') continue
      if (rules.length >= MOST_RULES) {
        this.unread++
        return
      }
      try {
        const matches = compile<Element, Element>(generate(selector), { xmlMode: true })
        rules.push({ matches, weight: weightOf(selector), says })
      } catch {
        // A selector that nobody knows matches nothing, as in a browser.
        this.unread++
      }
    }
  }
}

function* sheetsIn(e: Element): Generator<Element> {
  for (const child of elementsIn(e))
    if (child.name === 'style') {
      if (!child.attribs.type || /^text\/css$/i.test(child.attribs.type)) yield child
    } else yield* sheetsIn(child)
}

const declarationsIn = (style: string): readonly Said[] => {
  if (style.trim() === '') return []
  const list = parse(style, { context: 'declarationList', parseValue: false })
  return list.type === 'DeclarationList' ? saidIn(list) : []
}

const saidIn = (block: CssNode): Said[] => {
  if (block.type !== 'Block' && block.type !== 'DeclarationList') return []
  return [...block.children].flatMap((d): Said[] => {
    if (d.type !== 'Declaration') return []
    const property = d.property.toLowerCase()
    if (!isHeeded(property)) return []
    return [{ property, value: generate(d.value).trim(), important: d.important !== false }]
  })
}

const weightOf = (selector: Selector): number => {
  let weight = 0
  walk(selector, (node) => {
    if (node.type === 'IdSelector') weight += 1e6
    else if (
      node.type === 'ClassSelector' ||
      node.type === 'AttributeSelector' ||
      node.type === 'PseudoClassSelector'
    )
      weight += 1e3
    else if (node.type === 'TypeSelector' && node.name !== '*') weight += 1
  })
  return weight
}

/** The element with an id, as references name it; the first where there are several. */
export const byId = (root: Element): ReadonlyMap<string, Element> => {
  const found = new Map<string, Element>()
  const look = (e: Element): void => {
    const { id } = e.attribs
    if (id !== undefined && !found.has(id)) found.set(id, e)
    for (const child of e.children) if (child instanceof Element) look(child)
  }
  look(root)
  return found
}

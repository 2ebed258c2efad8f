const SVG = 'http://www.w3.org/2000/svg'

/** Rounded to what can be seen: fewer different texts are fewer changes. */
export const at = (dots: number): string => String(Math.round(dots * 20) / 20)

type Attributes = Readonly<Record<string, string | number | undefined>>

/** A new node of a drawing, within another. */
export const node = <K extends keyof SVGElementTagNameMap>(
  parent: Element,
  name: K,
  attributes: Attributes = {},
): SVGElementTagNameMap[K] => {
  const made = parent.ownerDocument.createElementNS(SVG, name)
  for (const [key, value] of Object.entries(attributes))
    if (value !== undefined) made.setAttribute(key, typeof value === 'number' ? at(value) : value)
  parent.appendChild(made)
  return made
}

/** Sets an attribute only when it changes: what stays the same costs a comparison. */
export const attribute = (of: Element, name: string): ((value: string) => void) => {
  let before: string | null = of.getAttribute(name)
  return (value) => {
    if (value === before) return
    before = value
    of.setAttribute(name, value)
  }
}

/** The same for the words of a text. */
export const wordsIn = (of: SVGTextElement): ((words: string) => void) => {
  const text = of.ownerDocument.createTextNode('')
  of.appendChild(text)
  let before = ''
  return (words) => {
    if (words === before) return
    before = words
    text.data = words
  }
}

/** Whether something is to be seen. */
export const seen = (of: Element): ((is: boolean) => void) => {
  const set = attribute(of, 'visibility')
  return (is) => set(is ? 'inherit' : 'hidden')
}

const families = { words: 'B612, sans-serif', figures: 'IBM Plex Mono, monospace' } as const

/** How far below the middle of its height a line of capitals stands, as a share of its size. */
const BASELINE = 0.355

interface Lettered {
  readonly sizePx: number
  readonly align: 'start' | 'middle' | 'end'
  readonly face: keyof typeof families
  readonly bold: boolean
}

/** A line of words in a box, in the middle of its height. */
export const line = (
  parent: Element,
  { sizePx, align, face, bold }: Lettered,
  { width, height }: { readonly width: number; readonly height: number },
  paddingPx = 0,
): SVGTextElement =>
  node(parent, 'text', {
    x: align === 'start' ? paddingPx : align === 'end' ? width - paddingPx : width / 2,
    y: height / 2 + sizePx * BASELINE,
    'font-size': sizePx,
    'text-anchor': align,
    'font-family': families[face],
    'font-weight': bold ? '700' : '400',
    'xml:space': 'preserve',
  })

/** Figures at a mark of a scale. */
export const figures = (
  parent: Element,
  words: string,
  x: number,
  y: number,
  sizePx: number,
  align = 'middle',
): void => {
  node(parent, 'text', {
    ...{ x, y: y + sizePx * BASELINE, 'font-size': sizePx, 'text-anchor': align },
    'font-family': families.figures,
  }).textContent = words
}

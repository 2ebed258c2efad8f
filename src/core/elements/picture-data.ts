import { z } from 'zod'
import type { Pixels } from './element-kind'

/** A picture as it is kept: an SVG as its text, a PNG as base64. */
export const MOST_PICTURE_CHARACTERS = 1_400_000
const MOST_NODES = 20_000
export const MOST_DOTS = 16_000_000

const PNG_SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]

/** What a picture is and how large, or what is wrong with it, in words. */
export type PictureRead =
  | { readonly as: 'svg' | 'png'; readonly width: Pixels; readonly height: Pixels; readonly data: string }
  | { readonly problem: string }

const bytesOf = (base64: string): Uint8Array | null => {
  try {
    return Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
  } catch {
    return null
  }
}

/** Width and height that a PNG says of itself, in dots; null for what is no PNG. */
export const pngSize = (bytes: Uint8Array): { readonly width: Pixels; readonly height: Pixels } | null => {
  if (bytes.length < 33 || PNG_SIGNATURE.some((b, i) => bytes[i] !== b)) return null
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (String.fromCharCode(...bytes.subarray(12, 16)) !== 'IHDR') return null
  const [width, height] = [view.getUint32(16), view.getUint32(20)]
  return width > 0 && height > 0 ? { width, height } : null
}

const sizeProblem = (width: Pixels, height: Pixels): string | null =>
  width * height > MOST_DOTS
    ? `it has ${Math.round((width * height) / 1e6)} million dots; up to ${MOST_DOTS / 1e6} million are shown`
    : null

/** Elements and attributes of an SVG that could do something, or fetch something, with what is said of each. */
const refusedInSvg: readonly (readonly [RegExp, string])[] = [
  [/<\s*(?:[\w.-]+:)?script\b/i, 'it holds a script'],
  [
    /<\s*(?:[\w.-]+:)?(?:foreignObject|iframe|object|embed|audio|video|canvas)\b/i,
    'it holds parts of a web page',
  ],
  [/[\s"'/](?:[\w.-]+:)?on[a-z]+\s*=/i, 'it holds something that is to be run'],
  [/<!\s*(?:ENTITY|DOCTYPE[^>]*\[)/i, 'it defines words of its own that grow when they are read'],
  [/@import/i, 'it fetches a style from elsewhere'],
]

/** Where a picture may point: into itself, and at pictures that it carries. */
const isOwnPlace = (place: string): boolean =>
  place.startsWith('#') || /^data:image\/(?:png|jpeg);base64,[\w+/=\s]*$/.test(place)

const pointers = (text: string): string[] => [
  ...[...text.matchAll(/(?:[\w.-]+:)?(?:href|src)\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s>]+))/gi)].map((m) =>
    (m[1] ?? m[2] ?? m[3] ?? '').trim(),
  ),
  ...[...text.matchAll(/url\(\s*["']?([^"')]*)/gi)].map((m) => (m[1] ?? '').trim()),
]

const number = (text: string | undefined): number => {
  const found = /^\s*([\d.]+(?:e[+-]?\d+)?)\s*(?:px)?\s*$/i.exec(text ?? '')
  return found ? Number(found[1]) : Number.NaN
}

const attribute = (tag: string, name: string): string | undefined => {
  const found = new RegExp(`\\s${name}\\s*=\\s*(?:"([^"]*)"|'([^']*)')`, 'i').exec(tag)
  return found?.[1] ?? found?.[2]
}

const readSvg = (text: string): PictureRead => {
  const root = /<\s*(?:[\w.-]+:)?svg\b[^>]*>/i.exec(text)?.[0]
  if (!root) return { problem: 'it is no SVG picture' }
  let nodes = 0
  for (let i = text.indexOf('<'); i >= 0; i = text.indexOf('<', i + 1)) nodes++
  if (nodes > MOST_NODES) return { problem: `it consists of more than ${MOST_NODES} pieces` }
  for (const [sign, words] of refusedInSvg) if (sign.test(text)) return { problem: words }
  const outside = pointers(text).find((p) => p !== '' && !isOwnPlace(p))
  if (outside !== undefined)
    return { problem: `it fetches something from elsewhere (${outside.slice(0, 60)})` }
  const box = (attribute(root, 'viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const [width, height] = [
    number(attribute(root, 'width')) || box[2] || Number.NaN,
    number(attribute(root, 'height')) || box[3] || Number.NaN,
  ]
  if (!(width > 0 && height > 0))
    return { problem: 'it does not say how large it is (width and height, or a viewBox)' }
  return { as: 'svg', width, height, data: text }
}

/** Reads a picture file: what it is and how large, or why it is not taken. Nothing of it is ever run or fetched. */
export const readPicture = (bytes: Uint8Array): PictureRead => {
  if (bytes.length * 1.34 > MOST_PICTURE_CHARACTERS)
    return { problem: `it is larger than ${(MOST_PICTURE_CHARACTERS / 1.34e6).toFixed(1)} MB` }
  const png = pngSize(bytes)
  if (png) {
    const problem = sizeProblem(png.width, png.height)
    if (problem !== null) return { problem }
    let binary = ''
    for (let i = 0; i < bytes.length; i += 0x8000)
      binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
    return { as: 'png', ...png, data: btoa(binary) }
  }
  const text = new TextDecoder().decode(bytes)
  return /<\s*(?:[\w.-]+:)?svg\b/i.test(text)
    ? readSvg(text)
    : { problem: 'it is neither an SVG nor a PNG picture' }
}

/** Why a picture that comes with a rig is not taken, or null: files are written by others, too. */
const objectionTo = ({
  as,
  data,
  width,
  height,
}: {
  as: 'svg' | 'png'
  data: string
  width: number
  height: number
}): string | null => {
  if (as === 'svg') {
    const read = readSvg(data)
    return 'problem' in read ? read.problem : null
  }
  const size = pngSize(bytesOf(data.slice(0, 64)) ?? new Uint8Array())
  if (!size) return 'it is no PNG picture'
  return sizeProblem(Math.max(size.width, width), Math.max(size.height, height))
}

export const pictureSettings = z
  .strictObject({
    as: z.enum(['svg', 'png']),
    width: z.number().gt(0).max(1e6),
    height: z.number().gt(0).max(1e6),
    data: z.string().max(MOST_PICTURE_CHARACTERS),
  })
  .superRefine((p, context) => {
    const message = objectionTo(p)
    if (message !== null) context.addIssue({ code: 'custom', message })
  })

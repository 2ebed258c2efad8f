/** Deeper than anything that Clavik says or keeps. */
export const MOST_DEPTH = 64

/** Names that every object answers to: nothing that comes from outside may be called so, or be looked up by it. */
export const isReservedName = (name: string): boolean => name in Object.prototype

/** How deep brackets and braces of a text of JSON lie inside each other, counted no further than just beyond the most. */
export const depthOfJson = (text: string, most = MOST_DEPTH): number => {
  let depth = 0
  let deepest = 0
  let inString = false
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    if (inString) {
      if (c === 92) i++
      else if (c === 34) inString = false
    } else if (c === 34) inString = true
    else if (c === 91 || c === 123) {
      depth++
      if (depth > deepest) deepest = depth
      if (deepest > most) return deepest
    } else if (c === 93 || c === 125) depth--
  }
  return deepest
}

/** Reads JSON that comes from outside; what is broken or too deep is a sentence, and costs no more than its length. */
export const parseOutside = (text: string, most = MOST_DEPTH): { value: unknown } | { problem: string } => {
  if (text.length > most && depthOfJson(text, most) > most)
    return { problem: `it is nested more than ${most} deep` }
  try {
    return { value: JSON.parse(text) as unknown }
  } catch {
    return { problem: 'it is no JSON' }
  }
}

/** Half of a pair of UTF-16, which is no letter; and NUL, which no database keeps. */
const unkeepable = /\0|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/

/** Why a value cannot be kept as it is, with its place, or null. Meant for values that have come through JSON. */
export const objectionTo = (value: unknown, place = 'it', depth = 0): string | null => {
  if (depth > MOST_DEPTH) return `${place} is nested too deep`
  if (typeof value === 'string')
    return unkeepable.test(value) ? `${place} holds a character that is none (NUL, or half of a pair)` : null
  if (typeof value === 'number') return Number.isFinite(value) ? null : `${place} is no number`
  if (Array.isArray(value)) {
    for (const [i, item] of value.entries()) {
      const found = objectionTo(item, `${place}[${i}]`, depth + 1)
      if (found) return found
    }
    return null
  }
  if (typeof value === 'object' && value !== null)
    for (const [key, item] of Object.entries(value)) {
      if (isReservedName(key) || unkeepable.test(key)) return `${place} has a field that cannot be`
      const found = objectionTo(item, depth === 0 ? key : `${place}.${key}`, depth + 1)
      if (found) return found
    }
  return null
}

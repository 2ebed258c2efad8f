import { type ValueSettings, valueWords } from '../../core/elements/value'
import { colourFor, type DrawElement } from '../drawing'
import { attribute, line, wordsIn } from '../pen'

export const drawValue: DrawElement<ValueSettings> = (group, s, extent) => {
  const text = line(group, s, extent)
  const words = wordsIn(text)
  const fill = attribute(text, 'fill')
  const strength = attribute(text, 'fill-opacity')
  return (shown) => {
    const value = shown.value ?? null
    words(valueWords(s, value))
    fill(colourFor(s, shown))
    strength(value === null ? '0.55' : '1')
    return false
  }
}

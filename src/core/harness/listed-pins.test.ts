import { describe, expect, it } from 'vitest'
import { listedPins } from './listed-pins'

describe('pins as one text', () => {
  it.each([
    [[], ''],
    [['D5'], 'D5'],
    [['D5', 'D6'], 'D5 D6'],
    [['Motors 0', 'Motors 1', 'Motors 2', 'Motors 3'], 'Motors 0–3'],
    [['Motors 3', 'Motors 2', 'Motors 1', 'Motors 0'], 'Motors 3 2 1 0'],
    [['Lamps left 7', 'Lamps left 8'], 'Lamps left 7 8'],
    [['Row 0', 'Row 1', 'Row 2', 'Row 9', 'Row 10', 'Row 11'], 'Row 0–2 9–11'],
    [['A0', 'Row 0', 'Row 1', 'Column 1'], 'A0, Row 0 1, Column 1'],
    [['Inputs A7', 'Inputs B0'], 'Inputs A7 B0'],
  ])('%j', (pins, text) => {
    expect(listedPins(pins)).toBe(text)
  })
})

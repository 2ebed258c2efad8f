import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lampWords, packLamp, unpackLamp } from './lamp-state'

describe('a lamp state', () => {
  it('fits the 16 bits that travel, whatever is asked for', () => {
    fc.assert(
      fc.property(fc.double(), fc.double({ noNaN: true }), (brightness, hz) => {
        fc.pre(!Number.isNaN(brightness))
        const packed = packLamp(brightness, hz)
        expect(Number.isInteger(packed)).toBe(true)
        expect(packed).toBeGreaterThanOrEqual(0)
        expect(packed).toBeLessThanOrEqual(0xffff)
      }),
    )
  })

  it('keeps brightness and blink rate within what the board can show', () => {
    expect(unpackLamp(packLamp(1, 2))).toEqual({ level: 255, blinkHz: 2 })
    expect(unpackLamp(packLamp(0.5, 0))).toEqual({ level: 128, blinkHz: 0 })
    expect(unpackLamp(packLamp(1, 1000)).blinkHz).toBe(10)
  })

  it('does not blink when it is out', () => {
    expect(packLamp(0, 5)).toBe(0)
  })

  it('has words', () => {
    expect(lampWords(packLamp(1, 0))).toBe('lit')
    expect(lampWords(packLamp(1, 2))).toBe('blink 2 Hz')
    expect(lampWords(packLamp(0.4, 0))).toBe('lit 40 %')
    expect(lampWords(0)).toBe('out')
  })
})

/** A size that small screens are sold in: dots across and down, and how wide the picture really is. */
export interface UsualSize {
  readonly name: string
  readonly widthPx: number
  readonly heightPx: number
  readonly widthMm: number
}

export const usualSizes: readonly UsualSize[] = [
  { name: '2.8 inch, 320 × 240', widthPx: 320, heightPx: 240, widthMm: 57.6 },
  { name: '3.5 inch, 480 × 320', widthPx: 480, heightPx: 320, widthMm: 73.4 },
  { name: '5 inch, 800 × 480', widthPx: 800, heightPx: 480, widthMm: 108 },
  { name: '7 inch, 1024 × 600', widthPx: 1024, heightPx: 600, widthMm: 154.2 },
  { name: '10.1 inch, 1280 × 800', widthPx: 1280, heightPx: 800, widthMm: 216.9 },
  { name: 'Old tablet, 1024 × 768', widthPx: 1024, heightPx: 768, widthMm: 196.6 },
  { name: 'Strip, 1280 × 400', widthPx: 1280, heightPx: 400, widthMm: 191 },
  { name: 'Float over a picture, 420 × 160', widthPx: 420, heightPx: 160, widthMm: 111 },
]

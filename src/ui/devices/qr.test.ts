import jsqr from 'jsqr'
import { expect, it } from 'vitest'
import { qrPath } from './qr-path'

/** The code as a camera would see it: so many dots for each of its squares, white round it. */
const pictureOf = ({ size, d }: ReturnType<typeof qrPath>, dots: number) => {
  const width = (size + 8) * dots
  const data = new Uint8ClampedArray(width * width * 4).fill(255)
  for (const [, x, y] of d.matchAll(/M(\d+) (\d+)/g))
    for (let j = 0; j < dots; j++)
      for (let i = 0; i < dots; i++)
        data.fill(
          0,
          (((Number(y) + 4) * dots + j) * width + (Number(x) + 4) * dots + i) * 4,
          (((Number(y) + 4) * dots + j) * width + (Number(x) + 4) * dots + i) * 4 + 3,
        )
  return { data, width }
}

it.each([
  'http://192.168.1.20:4310/pair?code=012345',
  'http://[fd12:3456:789a:bcde:f012:3456:789a:bcde]:54310/pair?code=999999',
])('a camera reads %s', (text) => {
  const { data, width } = pictureOf(qrPath(text), 4)
  const read = (jsqr as unknown as { default?: typeof jsqr }).default ?? jsqr
  expect(read(data, width, width)?.data).toBe(text)
})

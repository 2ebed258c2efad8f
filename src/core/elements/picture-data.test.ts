import { deflateSync } from 'node:zlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pictureSettings, pngSize, readPicture } from './picture-data'

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text)
const svg = (inner: string, root = 'width="40" height="20"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${root}>${inner}</svg>`

/** A PNG whose head says a size; its dots are those of one line only. */
const png = (width: number, height: number): Uint8Array => {
  const chunk = (name: string, data: Uint8Array) => {
    const made = new Uint8Array(12 + data.length)
    new DataView(made.buffer).setUint32(0, data.length)
    made.set(bytes(name), 4)
    made.set(data, 8)
    return made
  }
  const head = new Uint8Array(13)
  new DataView(head.buffer).setUint32(0, width)
  new DataView(head.buffer).setUint32(4, height)
  head.set([8, 0, 0, 0, 0], 8)
  return Uint8Array.from([
    ...[0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
    ...chunk('IHDR', head),
    ...chunk('IDAT', new Uint8Array(deflateSync(new Uint8Array(width > 1e5 ? 1 : width + 1)))),
    ...chunk('IEND', new Uint8Array()),
  ])
}

const problem = (text: string): string => {
  const read = readPicture(bytes(text))
  return 'problem' in read ? read.problem : ''
}

describe('a picture that is brought in', () => {
  it.each<[string, string, number, number]>([
    ['with its size', svg('<path d="M0 0h4"/>'), 40, 20],
    ['in dots by name', svg('', 'width="40px" height="20px"'), 40, 20],
    ['with a box only', svg('', 'viewBox="0 0 300 150"'), 300, 150],
    [
      'with a size in parts of something else, and a box',
      svg('', 'width="100%" height="100%" viewBox="0,0,30,15"'),
      30,
      15,
    ],
    ['with a prefix', '<s:svg xmlns:s="http://www.w3.org/2000/svg" width="4" height="4"/>', 4, 4],
    ['that points into itself', svg('<use href="#a"/><rect fill="url(#g)"/>'), 40, 20],
    ['that carries a picture', svg('<image href="data:image/png;base64,iVBORw0KGgo="/>'), 40, 20],
  ])('an SVG %s', (_, text, width, height) => {
    expect(readPicture(bytes(text))).toEqual({ as: 'svg', width, height, data: text })
  })

  it.each<[string, string, RegExp]>([
    ['a script', svg('<script>alert(1)</script>'), /a script/],
    [
      'a script by another name',
      svg('<x:script xmlns:x="http://www.w3.org/2000/svg">1</x:script>'),
      /a script/,
    ],
    ['a script in capitals', svg('<SCRIPT/>'), /a script/],
    ['something to be run', svg('<rect onload="alert(1)"/>'), /is to be run/],
    ['something to be run at its root', svg('', 'width="1" height="1" onload="x()"'), /is to be run/],
    ['a foreign object', svg('<foreignObject><p>hi</p></foreignObject>'), /web page/],
    ['a frame', svg('<iframe src="x"/>'), /web page/],
    ['a picture from elsewhere', svg('<image href="https://a.example/b.png"/>'), /fetches something/],
    ['one by the older name', svg("<image xlink:href='//a.example/b.png'/>"), /fetches something/],
    ['a style from elsewhere', svg('<style>@import url(x.css)</style>'), /fetches a style/],
    ['a fill from elsewhere', svg('<rect fill="url(http://a.example/#g)"/>'), /fetches something/],
    ['a link that runs', svg('<a href="javascript:alert(1)"/>'), /fetches something/],
    ['one with signs written otherwise', svg('<a href="&#106;avascript:alert(1)"/>'), /fetches something/],
    ['a page within itself', svg('<image href="data:text/html;base64,PHA+"/>'), /fetches something/],
    ['words that grow', `<!DOCTYPE svg [<!ENTITY a "aaaa">]>${svg('&a;')}`, /grow/],
    ['no size', svg('', ''), /how large/],
    ['a million pieces', svg('<g/>'.repeat(30_000)), /more than 20000 pieces/],
    ['nothing of the kind', 'GIF89a', /neither an SVG nor a PNG/],
    ['too much', 'x'.repeat(1_400_000), /larger than/],
  ])('is not taken with %s', (_, text, words) => {
    expect(problem(text)).toMatch(words)
  })

  it('as a PNG is as large as its head says, and of a hundred million dots is refused before anybody opens it', () => {
    const small = readPicture(png(64, 32))
    expect(small).toMatchObject({ as: 'png', width: 64, height: 32 })
    expect(pngSize(png(64, 32).subarray(0, 20))).toBeNull()
    const large = readPicture(png(10_000, 10_000))
    expect('problem' in large && large.problem).toBe('it has 100 million dots; up to 16 million are shown')
  })

  it('that comes with a rig is looked at the same way', () => {
    const row = (data: string, as: 'svg' | 'png' = 'svg') =>
      pictureSettings.safeParse({ as, width: 40, height: 20, data }).error?.issues[0]?.message ?? null
    expect(row(svg('<path/>'))).toBeNull()
    expect(row(svg('<script/>'))).toBe('it holds a script')
    expect(row('iVBORw0KGgo=', 'png')).toBe('it is no PNG picture')
    expect(row(Buffer.from(png(9000, 9000)).toString('base64'), 'png')).toMatch(/81 million/)
    expect(row(Buffer.from(png(90, 90)).toString('base64'), 'png')).toBeNull()
  })

  it('whatever the bytes, is taken or refused with a sentence', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (some) => {
        const read = readPicture(some)
        expect('problem' in read ? read.problem.length : read.width).toBeGreaterThan(0)
      }),
    )
  })
})

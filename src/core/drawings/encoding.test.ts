import { describe, expect, it } from 'vitest'
import { decoded } from './encoding'

const bytes = (text: string, more: readonly number[] = []) =>
  new Uint8Array([...[...text].map((c) => c.charCodeAt(0)), ...more])
const dxf = (version: string, page: string) =>
  `0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\n${version}\n9\n$DWGCODEPAGE\n3\n${page}\n0\nENDSEC\n`

describe('the letters of a file', () => {
  it.each([
    ['UTF-8', new TextEncoder().encode('Łódź Ω'), 'Łódź Ω'],
    ['UTF-16 with its mark', new Uint8Array([0xff, 0xfe, 0xa9, 0x03, 0x41, 0x00]), 'ΩA'],
    ['UTF-16 the other way', new Uint8Array([0xfe, 0xff, 0x03, 0xa9, 0x00, 0x41]), 'ΩA'],
    ['the west, unsaid', bytes('', [0x46, 0xfc, 0x72]), 'Für'],
  ])('are read as %s', (_name, file, text) => {
    expect(decoded(file)).toBe(text)
  })

  it('are read as the file says: by its XML, or the code page of an old DXF', () => {
    expect(decoded(bytes('<?xml version="1.0" encoding="ISO-8859-2"?><svg/>', [0xa3]))).toContain('Ł')
    expect(decoded(bytes(dxf('AC1015', 'ANSI_1251'), [0xd9]))).toContain('Щ')
    expect(decoded(bytes(dxf('AC1015', 'ANSI_1253'), [0xd9]))).toContain('Ω')
    // Since 2007 it is Unicode, whatever the page says.
    expect(decoded(bytes(dxf('AC1027', 'ANSI_1251'), [0xd0, 0xa9]))).toContain('Щ')
    expect(decoded(bytes('<?xml version="1.0" encoding="nobody-knows"?><svg/>'))).toContain('<svg/>')
  })
})

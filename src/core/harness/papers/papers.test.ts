import { readFileSync } from 'node:fs'
import { parse } from 'opentype.js'
import Papa from 'papaparse'
import { PDFDocument } from 'pdf-lib'
import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../../tests/rigs'
import { apply, changeRow, type Diff } from '../../rig/edit'
import { boardsOf, leadsOnBoard, leadsOnExpander, type Rig, rowsOf } from '../../rig/rig'
import type { PartRow } from '../../rig/rows'
import { lampCircuit } from '../lamp-circuit'
import { partsListCsv, wireListCsv } from './csv'
import { labelSheets } from './labels'
import { marksPdf, marksSvg, type PaperFonts, type PaperMark, type PaperSheet } from './marks'
import { fitted, paperFonts, paperWidth, printable, wrapped } from './paper-text'
import { partsList } from './parts-list'
import { readPartsList } from './read-parts-list'
import { readWireList } from './read-wire-list'
import { wireList } from './wire-list'
import { wiringSheets } from './wiring-sheets'

const rig = demoRig()
const font = (file: string): ArrayBuffer => {
  const bytes = readFileSync(`node_modules/${file}`)
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer
}
const fonts: PaperFonts = { plain: font(paperFonts.plain), bold: font(paperFonts.bold) }

const renamed = (name: string): Rig => {
  const part = rig.part['wheel-lever'] as PartRow
  return apply(rig, [changeRow('part', part, { ...part, name }) as Diff[number]])
}

describe('the wire list', () => {
  const lines = wireList(rig)

  it('has every wire once, by number, with both its ends', () => {
    const whole = lines.filter((l) => /^\d+$/.test(l.number))
    expect(whole).toHaveLength(rowsOf(rig, 'lead').length)
    expect(whole.map((l) => Number(l.number))).toEqual(
      [...whole.map((l) => Number(l.number))].sort((a, b) => a - b),
    )
    expect(lines.find((l) => l.from === 'Wheel lever · upper contact')).toMatchObject({
      to: 'Port board D22',
      panel: 'Wheels & floats',
      connector: 'J7',
      position: '2',
    })
  })

  it('carries the lines of a chain on from chip to chip under the same number', () => {
    const links = lines.filter((l) => l.from.startsWith('Switches chip 1'))
    expect(links.map((l) => l.to)).toContain('Switches chip 2 · data in')
    for (const link of links) expect(link.number).toMatch(/^\d+a$/)
    // Five chips: four links of each of its five lines.
    expect(lines.filter((l) => /^Switches chip \d/.test(l.from))).toHaveLength(20)
  })

  it('has lengths to cut to, in steps of 50 mm', () => {
    for (const l of lines) expect(l.lengthMm % 10).toBe(0)
    for (const l of lines.filter((x) => x.panel)) {
      expect(l.lengthMm % 50).toBe(0)
      expect(l.lengthMm).toBeGreaterThan(300)
    }
  })
})

describe('CSV', () => {
  it('is read back by another reader as it was', () => {
    const text = wireListCsv(wireList(rig))
    // By this mark a spreadsheet knows that Ω is one letter.
    expect(text.charCodeAt(0)).toBe(0xfeff)
    const { data, errors } = Papa.parse<string[]>(text.slice(1).trimEnd())
    expect(errors).toEqual([])
    expect(data).toHaveLength(wireList(rig).length + 1)
    expect(data[0]?.slice(0, 4)).toEqual(['number', 'colour', 'from', 'to'])
  })

  it.each([
    '=1+1',
    '+49',
    '-2',
    '@SUM(A1)',
    '\t=x',
    '=1+1\n+2',
    '\uff1d1+1',
    '\ufeff=1',
    '\u200b=1',
    '\u2028=1',
  ])('takes the sting out of a name like %j', (name) => {
    const { data } = Papa.parse<string[]>(wireListCsv(wireList(renamed(`${name} end`))))
    const line = name.replace(/[\n\t\u2028]/g, ' ')
    const cells = data.flat().filter((c) => c.includes(`${line} end · upper`))
    expect(cells).toHaveLength(1)
    expect(cells[0]?.[0]).toBe("'")
  })

  it('keeps commas and quotes within a name, and keeps it in one line', () => {
    const { data } = Papa.parse<string[]>(wireListCsv(wireList(renamed('Lever, "the big one"\nleft'))))
    expect(data.flat()).toContain('Lever, "the big one" left · upper contact')
  })
})

describe('a wire list that comes back', () => {
  const csv = (rows: string) => `number,colour,ribbon\n${rows}`
  const taken = (text: string) => {
    const read = readWireList(rig, text)
    if ('problem' in read) throw new Error(read.problem)
    return { after: apply(rig, read.changes), left: read.left, changes: read.changes }
  }

  it('changes nothing when nothing was changed', () => {
    expect(taken(wireListCsv(wireList(rig)))).toMatchObject({ changes: [], left: [] })
  })

  it('changes colours and ribbons by the number of the wire', () => {
    const { after, left } = taken(`\uFEFF${csv('2,blue,R1\n3,violet,R1')}`)
    const leads = Object.values(after.lead)
    expect(leads.find((l) => l.number === 2)).toMatchObject({ colour: 'blue', ribbon: 'R1' })
    expect(leads.find((l) => l.number === 3)).toMatchObject({ colour: 'violet', ribbon: 'R1' })
    expect(left).toEqual([])
  })

  it('says what of it was left out, and takes the rest', () => {
    const { changes, left } = taken(csv('2,plaid,\n9999,blue,\n3,blue,\n3,green,'))
    expect(changes).toHaveLength(1)
    expect(left).toEqual([
      'line 2: wire 2 cannot be “plaid”; it stays white',
      'line 3: there is no wire “9999”',
      'line 5: wire 3 comes twice',
    ])
  })

  it.each([
    ['', 'This is not a wire list'],
    ['{"clavik":"rig"}', 'This is not a wire list'],
    ['part,pin\nLever,D2', 'This is not a wire list'],
    [csv('2,"blue,R1\n3,red,'), 'The list is damaged in line'],
    ['x'.repeat(2_000_001), 'too large'],
  ])('is refused whole when it is %j', (text, why) => {
    expect(readWireList(rig, text)).toMatchObject({ problem: expect.stringContaining(why) })
  })
})

describe('the parts list', () => {
  const lines = partsList(rig)
  const count = (what: string, value = '') => lines.find((l) => l.what === what && l.value === value)?.count

  it('counts parts, chips, resistors and wires', () => {
    expect(count('Toggle, 2 positions, guarded')).toBe(4)
    expect(count('ATmega2560 board')).toBe(3)
    expect(count('74HC165 chain')).toBe(5)
    expect(count('TLC5940 lamp driver')).toBe(4)
    expect(count('Resistor', '10 kΩ')).toBe(leadsOnExpander(rig, 'overhead-switches').length)
    // 31.5 · 1.24 V / 10 mA is 3.9 kΩ, and the next that is sold 4.7 kΩ: one for each chip of the lamp driver.
    expect(count('Resistor', '4.7 kΩ')).toBe(4)
    expect(count('Resistor', '150 Ω')).toBe(4)
    expect(lines.filter((l) => l.what === 'Wire').reduce((sum, l) => sum + l.count, 0)).toBe(
      rowsOf(rig, 'lead').length,
    )
    expect(partsListCsv(lines).split('\r\n')[0]).toBe('\uFEFFcount,what,value,used,note,link,price,sum')
  })

  it('asks for no resistor where a driver holds the current', () => {
    const series = lines.filter((l) => l.use === 'in series with a lamp').reduce((sum, l) => sum + l.count, 0)
    const pinned = rowsOf(rig, 'part').filter(
      (p) => p.settings.seriesOhms !== undefined && p.panelId !== 'overhead',
    )
    expect(series).toBe(pinned.length)
  })
})

describe('what the builder writes into the parts list', () => {
  let ids = 0
  const take = (of: Rig, text: string) => {
    const read = readPartsList(of, text, () => `bought ${++ids}`)
    if ('problem' in read) throw new Error(read.problem)
    return { after: apply(of, read.changes), left: read.left, changes: read.changes }
  }
  const cells = (of: Rig) => Papa.parse<string[]>(partsListCsv(partsList(of)).slice(1).trimEnd()).data
  const filled = (price: string, link = 'https://shop.invalid/1') =>
    `what,value,note,link,price\nResistor,150 Ω,"from the drawer, 5 %",${link},"${price}"`

  it('comes back, and is in the list again with its sum, whatever else changes', () => {
    const { after, left } = take(rig, `\uFEFF${filled('0,12 €')}`)
    expect(left).toEqual([])
    const line = cells(after).find((r) => r[1] === 'Resistor' && r[2] === '150 Ω')
    expect(line?.slice(4)).toEqual(['from the drawer, 5 %', 'https://shop.invalid/1', '0.12', '0.48'])
    // Another lamp of the kind: counted, and its note is still there.
    const lamp =
      after.part['bow-left'] ?? Object.values(after.part).find((p) => p.settings.seriesOhms === 150)
    if (!lamp) throw new Error('no lamp')
    const fewer = apply(after, [
      changeRow('part', lamp, { ...lamp, settings: { ...lamp.settings, seriesOhms: 220 } }) as Diff[number],
    ])
    expect(cells(fewer).find((r) => r[1] === 'Resistor' && r[2] === '150 Ω')?.[7]).toBe('0.36')
    expect(take(after, partsListCsv(partsList(after))).changes).toEqual([])
  })

  it.each([
    ['1.50', 1.5],
    ['1,50', 1.5],
    ['1.234,50 kr', 1234.5],
    ['$ 1,234.50', 1234.5],
    ['3', 3],
    ['', null],
  ])('has a price written as %s', (text, price) => {
    const [row] = rowsOf(take(rig, filled(text)).after, 'purchase')
    expect(row?.price).toBe(price)
  })

  it('is left out, line by line, where it cannot be taken', () => {
    const { changes, left } = take(
      rig,
      'what,value,note,link,price\nWire,red,,javascript:alert(1),\nWire,blue,,,dear\nWire,green,good,,\nWire,green,again,,',
    )
    expect(changes).toHaveLength(1)
    expect(left).toEqual([
      'line 2: link: a link begins with http:// or https://',
      'line 3: “dear” is no price',
      'line 5: Wire comes twice',
    ])
  })

  it('goes when it is emptied', () => {
    const { after } = take(rig, filled('1'))
    const emptied = take(after, 'what,value,note,link,price\nResistor,150 Ω,,,')
    expect(rowsOf(emptied.after, 'purchase')).toEqual([])
  })

  it.each([
    ['', 'not a parts list'],
    ['number,colour\n2,blue', 'not a parts list'],
    ['x'.repeat(2_000_001), 'too large'],
  ])('is refused whole when it is %.20j', (text, why) => {
    expect(readPartsList(rig, text, () => '')).toMatchObject({ problem: expect.stringContaining(why) })
  })
})

const block = { date: '2026-03-01', revision: 42 }
const textsOf = (sheet: PaperSheet) => sheet.marks.flatMap((m) => (m.is === 'text' ? [m] : []))
/** The room that a text takes, as its own width table has it. */
const roomOf = (m: Extract<PaperMark, { is: 'text' }>) => {
  const width = paperWidth(m.text, m.sizeMm, m.bold)
  const left = m.anchor === 'start' ? m.x : m.anchor === 'middle' ? m.x - width / 2 : m.x - width
  return { minX: left, maxX: left + width, minY: m.y - m.sizeMm * 0.75, maxY: m.y + m.sizeMm * 0.2 }
}

describe.each(['A4', 'A3'] as const)('the wiring drawing on %s', (paper) => {
  const all = wiringSheets(rig, null, paper, block)

  it('shows every wire once, in its colour, with its number, and where it ends', () => {
    const shown = all.flatMap(textsOf).map((m) => m.text)
    for (const lead of rowsOf(rig, 'lead')) {
      const found = shown.filter((t) => t === `${lead.number} ${lead.colour}`)
      expect(found.length, `wire ${lead.number}`).toBe(1)
    }
    for (const board of boardsOf(rig))
      for (const lead of leadsOnBoard(rig, board.id).filter((l) => !l.shared))
        expect(shown).toContain(lead.pin)
  })

  it('is of the size of its paper, and nothing reaches beyond its margin', () => {
    const [w, h] = paper === 'A4' ? [210, 297] : [420, 297]
    for (const sheet of all) {
      expect([sheet.widthMm, sheet.heightMm]).toEqual([w, h])
      for (const m of sheet.marks) {
        const box =
          m.is === 'text'
            ? roomOf(m)
            : m.is === 'box'
              ? { minX: m.x, minY: m.y, maxX: m.x + m.width, maxY: m.y + m.height }
              : {
                  minX: Math.min(...m.points.map((p) => p[0])),
                  minY: Math.min(...m.points.map((p) => p[1])),
                  maxX: Math.max(...m.points.map((p) => p[0])),
                  maxY: Math.max(...m.points.map((p) => p[1])),
                }
        expect(box.minX).toBeGreaterThanOrEqual(9)
        expect(box.minY).toBeGreaterThanOrEqual(9)
        expect(box.maxX).toBeLessThanOrEqual(w - 9)
        expect(box.maxY).toBeLessThanOrEqual(h - 9)
      }
    }
  })

  it('has no words over others, and no wire through a number', () => {
    for (const sheet of all) {
      const rooms = textsOf(sheet).map((m) => ({ ...roomOf(m), text: m.text }))
      for (const [i, a] of rooms.entries())
        for (const b of rooms.slice(i + 1)) {
          const apart = a.maxX <= b.minX || b.maxX <= a.minX || a.maxY <= b.minY || b.maxY <= a.minY
          expect(apart, `“${a.text}” over “${b.text}”`).toBe(true)
        }
    }
  })

  it('has parts and hosts in boxes of their own', () => {
    for (const sheet of all) {
      const boxes = sheet.marks.flatMap((m) => (m.is === 'box' && !m.filled ? [m] : []))
      for (const [i, a] of boxes.entries())
        for (const b of boxes.slice(i + 1))
          expect(
            a.x + a.width <= b.x + 0.01 ||
              b.x + b.width <= a.x + 0.01 ||
              a.y + a.height <= b.y + 0.01 ||
              b.y + b.height <= a.y + 0.01,
          ).toBe(true)
    }
  })

  it('says on each sheet what it is of, and refers to others by numbers that are right', () => {
    const texts = all.map((s) => textsOf(s).map((m) => m.text))
    for (const [i, words] of texts.entries()) expect(words).toContain(`${i + 1} of ${all.length}`)
    expect(texts.every((t) => t.includes('2026-03-01') && t.includes('edit 42 of the rig'))).toBe(true)
    // The switches' channels are where the drawing of their board says.
    const switches = texts.findIndex((t) =>
      t.some((w) => w.includes('74HC165') && w.includes('its channels:')),
    )
    const said = texts[switches]?.find((w) => w.includes('74HC165') && w.includes('its channels:')) ?? ''
    const [first] = /sheets? (\d+)/.exec(said)?.slice(1) ?? []
    expect(texts[Number(first) - 1]).toContain('Switches')
    expect(texts[Number(first) - 1]).toContain(`its own lines: sheet ${switches + 1}`)
  })

  it('of one board has the same sheets with the same numbers', () => {
    const one = wiringSheets(rig, 'stern-board', paper, block)
    expect(one.length).toBeGreaterThan(0)
    expect(one.length).toBeLessThan(all.length)
    const own = new Set(all.map((s) => JSON.stringify(s)))
    for (const sheet of one) expect(own.has(JSON.stringify(sheet))).toBe(true)
  })

  it('has the value of each resistor in its wire', () => {
    const shown = all.flatMap(textsOf).map((m) => m.text)
    const lamps = rowsOf(rig, 'part').filter((p) => {
      const lamp = lampCircuit(rig, p)
      return lamp && !lamp.held && !lamp.inductive && p.settings.seriesOhms !== undefined
    })
    expect(lamps.length).toBeGreaterThan(0)
    expect(shown.filter((t) => /^\d+ Ω/.test(t))).toHaveLength(lamps.length)
  })

  it('is one SVG and one PDF of real letters', async () => {
    expect(marksSvg(all.slice(0, 2), 'Wiring')).toContain('</svg>')
    const pdf = await PDFDocument.load(await marksPdf(all, 'Wiring', fonts))
    expect(pdf.getPageCount()).toBe(all.length)
  })
})

describe('labels', () => {
  const lines = wireList(rig)
  const sheets = labelSheets(lines)

  it('are two for each wire, on pages of A4', async () => {
    const boxes = sheets.flatMap((s) => s.marks.filter((m) => m.is === 'box'))
    expect(boxes).toHaveLength(lines.length * 2)
    const pdf = await PDFDocument.load(await marksPdf(sheets, 'Labels', fonts))
    expect(pdf.getPageCount()).toBe(sheets.length)
    expect(pdf.getPage(0).getWidth()).toBeCloseTo(595.3, 0)
  })

  it('say both ends in full, this one and the other, and nothing leaves its label', () => {
    const long = wireList(
      renamed('Undercarriage lever of the starboard float, with its guard and the long handle'),
    )
    for (const list of [lines, long]) {
      for (const sheet of labelSheets(list)) {
        const boxes = sheet.marks.flatMap((m) => (m.is === 'box' ? [m] : []))
        for (const m of textsOf(sheet)) {
          expect(m.text).not.toContain('…')
          const r = roomOf(m)
          const inside = boxes.some(
            (b) =>
              r.minX >= b.x &&
              r.maxX <= b.x + b.width &&
              r.minY >= b.y - 0.2 &&
              r.maxY <= b.y + b.height + 0.2,
          )
          expect(inside, m.text).toBe(true)
        }
      }
      const said = labelSheets(list)
        .flatMap(textsOf)
        .map((m) => m.text)
        .join(' ')
      for (const l of list) {
        expect(said).toContain(`at ${l.from} to ${l.to}`)
        expect(said).toContain(`at ${l.to} to ${l.from}`)
      }
    }
  })

  it('come out whatever a part is called', async () => {
    const odd = wireList(renamed('Hebel → 輪 ✈ “rot” Łódź Щ'))
    await expect(marksPdf(labelSheets(odd.slice(0, 4)), 'Labels', fonts)).resolves.toBeInstanceOf(Uint8Array)
    expect(printable('Hebel → 輪 Łódź Щ Ω')).toBe('Hebel → □ Łódź Щ Ω')
  })
})

describe('the words of papers', () => {
  it('are as wide as the faces that ship set them', () => {
    for (const [name, bold] of [
      ['plain', false],
      ['bold', true],
    ] as const) {
      const font = parse(fonts[name])
      for (const text of ['Port board D22', 'Łódź → Щ Ω 150', 'two-wire data · “X”']) {
        const width = [...text].reduce((sum, c) => sum + (font.charToGlyph(c).advanceWidth ?? 0), 0)
        expect(paperWidth(text, 10, bold) / ((width / font.unitsPerEm) * 10)).toBeCloseTo(1, 2)
      }
    }
  })

  it('break between words, within one only where it must, and lose nothing', () => {
    expect(wrapped('one two three', paperWidth('one two', 2) + 0.01, 2)).toEqual(['one two', 'three'])
    expect(wrapped('Donaudampfschiff', 10, 2).join('')).toBe('Donaudampfschiff')
    const { lines, sizeMm } = fitted('a long one that has to be smaller', 20, [3, 2, 1], 2)
    expect(lines.join(' ')).toBe('a long one that has to be smaller')
    expect(sizeMm).toBeLessThan(3)
  })
})

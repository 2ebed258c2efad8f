import Papa from 'papaparse'
import { PDFDocument } from 'pdf-lib'
import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../../tests/rigs'
import { apply, changeRow, type Diff } from '../../rig/edit'
import { boardsOf, leadsOnBoard, leadsOnExpander, type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, PartRow } from '../../rig/rows'
import { partsListCsv, wireListCsv } from './csv'
import { labelSheets } from './labels'
import { marksPdf, marksSvg } from './marks'
import { partsList } from './parts-list'
import { readWireList } from './read-wire-list'
import { wireList } from './wire-list'
import { wiringDrawing } from './wiring-drawing'

const rig = demoRig()

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
    const { data, errors } = Papa.parse<string[]>(wireListCsv(wireList(rig)).trimEnd())
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
    expect(count('Resistor', '150 Ω')).toBe(4)
    expect(lines.filter((l) => l.what === 'Wire').reduce((sum, l) => sum + l.count, 0)).toBe(
      rowsOf(rig, 'lead').length,
    )
    expect(partsListCsv(lines).split('\r\n')[0]).toBe('count,what,value,note')
  })

  it('asks for no resistor where a driver holds the current', () => {
    const series = lines
      .filter((l) => l.note === 'in series with a lamp')
      .reduce((sum, l) => sum + l.count, 0)
    const pinned = rowsOf(rig, 'part').filter(
      (p) => p.settings.seriesOhms !== undefined && p.panelId !== 'overhead',
    )
    expect(series).toBe(pinned.length)
  })
})

describe('the wiring drawing', () => {
  it.each(boardsOf(rig).map((b) => b.name))(
    'of %s shows every wire in its colour, with its number at both ends',
    async (name) => {
      const board = boardsOf(rig).find((b) => b.name === name) as BoardRow
      const sheet = await wiringDrawing(rig, board)
      const texts = sheet.marks.flatMap((m) => (m.is === 'text' ? [m.text] : []))
      for (const lead of leadsOnBoard(rig, board.id).filter((l) => !l.shared)) {
        expect(texts.filter((t) => t === `${lead.number}`)).toHaveLength(2)
        expect(texts).toContain(lead.pin)
      }
      for (const m of sheet.marks) {
        const points = m.is === 'line' ? m.points : [[m.x, m.y] as const]
        for (const [x, y] of points) {
          expect(x).toBeGreaterThanOrEqual(0)
          expect(y).toBeGreaterThanOrEqual(0)
          expect(x).toBeLessThanOrEqual(sheet.widthMm)
          expect(y).toBeLessThanOrEqual(sheet.heightMm)
        }
      }
      expect(marksSvg(sheet, board.name)).toContain('</svg>')
    },
  )

  it('keeps boxes apart', async () => {
    const sheet = await wiringDrawing(rig, rig.board['stern-board'] as BoardRow)
    const boxes = sheet.marks.flatMap((m) => (m.is === 'box' ? [m] : []))
    for (const [i, a] of boxes.entries())
      for (const b of boxes.slice(i + 1))
        expect(
          a.x + a.width <= b.x + 0.01 ||
            b.x + b.width <= a.x + 0.01 ||
            a.y + a.height <= b.y + 0.01 ||
            b.y + b.height <= a.y + 0.01,
        ).toBe(true)
  })
})

describe('labels', () => {
  it('are two for each wire, on pages of A4', async () => {
    const lines = wireList(rig)
    const sheets = labelSheets(lines)
    const boxes = sheets.flatMap((s) => s.marks.filter((m) => m.is === 'box'))
    expect(boxes).toHaveLength(lines.length * 2)
    const pdf = await PDFDocument.load(await marksPdf(sheets, 'Labels'))
    expect(pdf.getPageCount()).toBe(sheets.length)
    expect(pdf.getPage(0).getWidth()).toBeCloseTo(595.3, 0)
  })

  it('come out whatever a part is called', async () => {
    const odd = wireList(renamed('Hebel → 輪 ✈ “rot”'))
    await expect(marksPdf(labelSheets(odd.slice(0, 4)), 'Labels')).resolves.toBeInstanceOf(Uint8Array)
  })
})

import { NextResponse } from 'next/server'
import { partsListCsv, wireListCsv } from '@/core/harness/papers/csv'
import { labelSheets } from '@/core/harness/papers/labels'
import { marksPdf, marksSvg } from '@/core/harness/papers/marks'
import { panelPartsList, partsList } from '@/core/harness/papers/parts-list'
import { wireList } from '@/core/harness/papers/wire-list'
import { wiringDrawing } from '@/core/harness/papers/wiring-drawing'
import { boardsOf, type Rig, rigRow } from '@/core/rig/rig'
import { isAway } from '@/store/database'
import { loadRig } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { refused } from '../../refused'

interface Made {
  readonly type: string
  readonly body: string | Uint8Array
}

/** The papers of the harness by the name of their file. */
const papers: Readonly<
  Record<string, (rig: Rig, boardId: string | null, panelId: string | null) => Promise<Made | null>>
> = {
  'wires.csv': async (rig) => ({ type: 'text/csv; charset=utf-8', body: wireListCsv(wireList(rig)) }),
  'parts.csv': async (rig, _, panelId) => ({
    type: 'text/csv; charset=utf-8',
    body: partsListCsv(panelId === null ? partsList(rig) : panelPartsList(rig, panelId)),
  }),
  'labels.pdf': async (rig) => ({
    type: 'application/pdf',
    body: await marksPdf(labelSheets(wireList(rig)), 'Wire labels'),
  }),
  'wiring.svg': async (rig, boardId) => {
    const board = rig.board[boardId ?? ''] ?? boardsOf(rig)[0]
    return board
      ? { type: 'image/svg+xml', body: marksSvg(await wiringDrawing(rig, board), board.name) }
      : null
  },
  'wiring.pdf': async (rig, boardId) => {
    const boards = boardId === null ? boardsOf(rig) : boardsOf(rig).filter((b) => b.id === boardId)
    const sheets = await Promise.all(boards.map((b) => wiringDrawing(rig, b)))
    return sheets.length > 0 ? { type: 'application/pdf', body: await marksPdf(sheets, 'Wiring') } : null
  },
}

/** A paper of the harness: wires.csv, parts.csv, labels.pdf, wiring.svg or wiring.pdf, the last two of one ?board, parts.csv of one ?panel. */
export const GET = async (request: Request, { params }: { params: Promise<{ file: string }> }) => {
  const { file } = await params
  const make = Object.hasOwn(papers, file) ? papers[file] : undefined
  if (!make) return refused(`There is no paper called ${file}.`, 404)
  try {
    const loaded = await loadRig(webDatabase())
    const asked = new URL(request.url).searchParams
    const made = loaded && (await make(loaded.rig, asked.get('board'), asked.get('panel')))
    if (!loaded || !made) return refused('There is nothing in the rig to make that of.', 404)
    const name = `${rigRow(loaded.rig)?.name ?? 'rig'} ${file}`.replace(/[^\p{L}\p{N} ._-]+/gu, '')
    return new NextResponse(made.body as BodyInit, {
      headers: {
        'content-type': made.type,
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      },
    })
  } catch (error) {
    if (isAway(error)) return refused('The database is away; try again when it is back.', 503)
    throw error
  }
}

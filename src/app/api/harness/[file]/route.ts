import { type HarnessPaper, harnessPapers } from '@/core/harness/papers/names'
import { type WiringPaper, wiringPapers } from '@/core/harness/papers/wiring-papers'
import { madeFile } from '../../maker'
import { refused } from '../../refused'

/**
 * A paper of the harness: wires.csv, parts.csv, labels.pdf, wiring.svg or wiring.pdf; the last two of one ?board and on ?paper A4
 * or A3, parts.csv of one ?panel.
 */
export const GET = async (request: Request, { params }: { params: Promise<{ file: string }> }) => {
  const { file } = await params
  if (!(harnessPapers as readonly string[]).includes(file))
    return refused(`There is no paper called ${file}.`, 404)
  const query = new URL(request.url).searchParams
  const paper = query.get('paper') ?? 'A4'
  if (!Object.hasOwn(wiringPapers, paper)) return refused('Wiring is printed on A4 or A3.', 400)
  return madeFile({
    ...{ is: 'harness', file: file as HarnessPaper, paper: paper as WiringPaper },
    ...{ boardId: query.get('board'), panelId: query.get('panel') },
  })
}

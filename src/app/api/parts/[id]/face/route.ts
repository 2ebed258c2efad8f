import { printedFile } from '../../../drawing'

/** The face of a gauge in its colours, at its real size: ?as=svg|pdf, with paper. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  printedFile(request, 'part', (await params).id)

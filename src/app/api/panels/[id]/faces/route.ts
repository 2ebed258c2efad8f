import { printedFile } from '../../../drawing'

/** The faces of all gauges on a panel in their colours, at their real size, on as few pages as they take: ?as=pdf, with paper. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  printedFile(request, 'panel', (await params).id)

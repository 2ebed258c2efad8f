import { drawingFile } from '../../../drawing'

/** A panel as a file to be made from: ?as=svg|dxf|pdf, with kerf in millimetres and paper. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  drawingFile(request, 'panel', (await params).id)

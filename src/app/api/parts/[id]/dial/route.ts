import { drawingFile } from '../../../drawing'

/** The face of a gauge as a file: ?as=svg|dxf|pdf. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  drawingFile(request, 'dial', (await params).id)

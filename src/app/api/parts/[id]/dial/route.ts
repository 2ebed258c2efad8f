import { dialDrawing } from '@/core/layout/cut-drawing'
import { drawingFile } from '../../../drawing-file'

/** The face of a gauge as a file: ?as=svg|dxf|pdf. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const { id } = await params
  return drawingFile(request, (rig, _query, letters) => {
    const part = rig.part[id]
    return part ? dialDrawing(part, letters) : null
  })
}

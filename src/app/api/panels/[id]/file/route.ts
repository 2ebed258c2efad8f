import { panelDrawing } from '@/core/layout/cut-drawing'
import { drawingFile } from '../../../drawing-file'

/** A panel as a file to be made from: ?as=svg|dxf|pdf, with kerf in millimetres and paper. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const { id } = await params
  return drawingFile(request, (rig, { kerf, as }, letters) => {
    const panel = rig.panel[id]
    // Paper is held against the part: it shows what is wanted, not where the tool runs.
    return panel ? panelDrawing(rig, panel, letters, { kerfMm: as === 'pdf' ? 0 : kerf }) : null
  })
}

'use client'
import type { BoardModel } from '@/core/catalogue/board-model'
import { sameValue } from '@/core/rig/edit'
import { readBoardFile } from '@/core/rig/own-file'
import { rowsOf } from '@/core/rig/rig'
import { notify, useStore } from '../live/store'
import { Sheet } from '../primitives/sheet'
import { BoardDrawing } from './board-drawing'
import { addBoard, newBoard, useBoard, useHarness } from './harness-store'
import { solve } from './solve'

/** Reads a board file and shows what is in it, or says what is wrong with it. */
export const openBoardFile = async (file: File): Promise<void> => {
  const read = readBoardFile(await file.text())
  if ('problem' in read) notify(`${file.name}: ${read.problem} Nothing was changed.`)
  else useHarness.setState({ boardFile: { name: file.name, own: read.own } })
}

/** A board model from a file, drawn, before it becomes a board of the rig. */
export const BoardFileSheet = () => {
  const file = useHarness((s) => s.boardFile)
  const close = () => useHarness.setState({ boardFile: null })
  return (
    <Sheet
      title={file?.own.name ?? 'A board of your own'}
      titleShown
      className="max-h-[86vh] w-[680px] overflow-y-auto p-4"
      open={file !== null}
      setOpen={(open) => !open && close()}
    >
      {file && <Found own={file.own} file={file.name} close={close} />}
    </Sheet>
  )
}

const Found = ({ own, file, close }: { own: BoardModel; file: string; close: () => void }) => {
  const rig = useStore((s) => s.rig)
  const board = useBoard()
  const others = rowsOf(rig, 'board').filter((b) => b.model === own.id && !sameValue(b.own, own))
  const pins = own.pins.filter((p) => !p.taken)
  const add = () => {
    addBoard(own, (name) => `Added ${name} from ${file}`, { name: own.name })
    close()
  }
  const become = () => {
    if (board) solve(`${board.name} becomes ${own.name}`, { is: 'model', boardId: board.id, model: own })
    close()
  }
  return (
    <div className="flex flex-col gap-2 text-[12px]">
      <p className="text-ink2">
        {pins.length} pins to use, {own.logicVolts} V, {own.milliampsPerPin} mA a pin, {own.milliampsAllPins}{' '}
        mA all together, {own.widthMm} × {own.heightMm} mm. From {file}.
      </p>
      <div inert className="max-h-[440px] overflow-auto bg-[var(--sheet)] p-2">
        <BoardDrawing board={{ ...newBoard(rig, own), id: 'sample' }} model={own} sheet={null} />
      </div>
      {others.length > 0 && (
        <p className="text-warn">
          {others.map((b) => b.name).join(', ')} {others.length === 1 ? 'has' : 'have'} another version of
          this model, and {others.length === 1 ? 'keeps' : 'keep'} it.
        </p>
      )}
      <div className="flex gap-1.5">
        <button type="button" className="btn" data-strong="true" onClick={add}>
          Add a board of it
        </button>
        {board && (
          <button type="button" className="btn" onClick={become}>
            Make {board.name} one …
          </button>
        )}
        <button type="button" className="btn" onClick={close}>
          Leave it
        </button>
      </div>
    </div>
  )
}

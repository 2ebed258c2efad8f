'use client'
import { Download } from 'lucide-react'
import { readWireList } from '@/core/harness/papers/read-wire-list'
import { rowsOf } from '@/core/rig/rig'
import { useChosenPanel } from '../live/chosen-panel'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { useBoard } from './harness-store'

const Paper = ({
  file,
  query = '',
  word,
  says,
}: {
  file: string
  query?: string
  word: string
  says: string
}) => (
  <li className="border-b border-hair px-3 py-2">
    <a
      href={`/api/harness/${file}${query}`}
      download
      className="btn"
      aria-label={`${word}, ${file.split('.').at(-1)?.toUpperCase()}`}
    >
      <Download size={13} strokeWidth={1.6} /> {word}
      <span className="text-ink3">{file.split('.').at(-1)?.toUpperCase()}</span>
    </a>
    <p className="pt-1 text-[12px] leading-4 text-ink2">{says}</p>
  </li>
)

/** What is taken to the workshop: lists, the wiring drawing, labels. */
export const FilesDrawer = () => {
  const rig = useStore((s) => s.rig)
  const board = useBoard()
  const panel = useChosenPanel()
  const wires = rowsOf(rig, 'lead').length
  if (wires === 0)
    return <p className="p-3 text-[12px] text-ink2">There are no wires yet to make lists of.</p>
  const query = board ? `?board=${encodeURIComponent(board.id)}` : ''
  return (
    <>
      <ul aria-label="Papers">
        <Paper
          file="wires.csv"
          word="Wire list"
          says={`${wires} wires: number, colour, both ends, connector and position, ribbon, estimated length.`}
        />
        <Paper
          file="parts.csv"
          word="Parts list"
          says="What to buy, counted, with resistors and their values."
        />
        {panel && (
          <Paper
            file="parts.csv"
            query={`?panel=${encodeURIComponent(panel.id)}`}
            word={`Parts of ${panel.name}`}
            says="The same for this panel alone."
          />
        )}
        <Paper
          file="wiring.svg"
          query={query}
          word={`Wiring of ${board?.name ?? 'a board'}`}
          says="Parts, expanders and the board, with every wire in its colour and by its number."
        />
        <Paper
          file="wiring.pdf"
          query={query}
          word={`Wiring of ${board?.name ?? 'a board'}`}
          says="The same on one large page."
        />
        <Paper file="wiring.pdf" word="Wiring of all boards" says="A page for each board." />
        <Paper
          file="labels.pdf"
          word="Wire labels"
          says="Two for each wire, for both ends: its number, and where the other end is."
        />
      </ul>
      <TakeIn />
    </>
  )
}

/** A wire list that was changed in a spreadsheet. */
const TakeIn = () => {
  const take = async (file: File) => {
    const { rig } = useStore.getState()
    const read = readWireList(rig, await file.text())
    if ('problem' in read) {
      notify(`${read.problem} Nothing was changed.`)
      return
    }
    edit(`Took ${read.changes.length} changes from the wire list ${file.name}`, read.changes)
    const taken = `${read.changes.length} ${read.changes.length === 1 ? 'wire' : 'wires'} changed.`
    notify(read.left.length === 0 ? taken : `${taken} Left out: ${read.left.join('; ')}.`, 'plain')
  }
  return (
    <div className="px-3 py-2">
      <FileButton
        words="Take a wire list in …"
        label="Wire list"
        accept=".csv,text/csv"
        take={(f) => void take(f)}
      />
      <p className="pt-1 text-[12px] leading-4 text-ink2">
        Colours and ribbons, by the number of the wire, as changed in a spreadsheet.
      </p>
    </div>
  )
}

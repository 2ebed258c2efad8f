'use client'
import { Download } from 'lucide-react'
import { type ReactNode, useState } from 'react'
import { readPartsList } from '@/core/harness/papers/read-parts-list'
import { readWireList } from '@/core/harness/papers/read-wire-list'
import { type WiringPaper, wiringPapers } from '@/core/harness/papers/wiring-papers'
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
  children,
}: {
  file: string
  query?: string
  word: string
  says: string
  children?: ReactNode
}) => (
  <li className="border-b border-hair px-3 py-2">
    <div className="flex items-center gap-2">
      <a
        href={`/api/harness/${file}${query}`}
        download
        className="btn"
        aria-label={`${word}, ${file.split('.').at(-1)?.toUpperCase()}`}
      >
        <Download size={13} strokeWidth={1.6} /> {word}
        <span className="text-ink3">{file.split('.').at(-1)?.toUpperCase()}</span>
      </a>
      {children}
    </div>
    <p className="pt-1 text-[12px] leading-4 text-ink2">{says}</p>
  </li>
)

/** What is taken to the workshop: lists, the wiring drawing, labels. */
export const FilesDrawer = () => {
  const rig = useStore((s) => s.rig)
  const board = useBoard()
  const panel = useChosenPanel()
  const [paper, setPaper] = useState<WiringPaper>('A4')
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
          says="What to buy, counted, with resistors and their values; with notes, links and prices of your own."
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
          file="wiring.pdf"
          query={`${query}${query ? '&' : '?'}paper=${paper}`}
          word={`Wiring of ${board?.name ?? 'a board'}`}
          says="To print: a sheet or more for the board and for each of its expanders, with every wire in its colour, by its number, and where it goes on."
        >
          <label className="flex items-center gap-1.5 text-[12px] text-ink2">
            on
            <select
              aria-label="Paper of the wiring"
              className="h-6 py-0"
              value={paper}
              onChange={(e) => setPaper(e.target.value as WiringPaper)}
            >
              {Object.keys(wiringPapers).map((p) => (
                <option key={p}>{p}</option>
              ))}
            </select>
          </label>
        </Paper>
        <Paper
          file="wiring.pdf"
          query={`?paper=${paper}`}
          word="Wiring of all boards"
          says="All sheets in one file; references between them hold in either."
        />
        <Paper
          file="wiring.svg"
          query={query}
          word={`Wiring of ${board?.name ?? 'a board'}`}
          says="The sheets of this board as a drawing to work on, one below the other."
        />
        <Paper
          file="labels.pdf"
          word="Wire labels"
          says="Two for each wire, for both ends: its number, and where the other end is."
        />
      </ul>
      <TakeWires />
      <TakeParts />
    </>
  )
}

/** A wire list that was changed in a spreadsheet. */
const TakeWires = () => {
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

/** A parts list into which notes, links and prices were written. */
const TakeParts = () => {
  const take = async (file: File) => {
    const { rig } = useStore.getState()
    const read = readPartsList(rig, await file.text(), () => crypto.randomUUID())
    if ('problem' in read) {
      notify(`${read.problem} Nothing was changed.`)
      return
    }
    edit(`Took ${read.changes.length} lines from the parts list ${file.name}`, read.changes)
    const taken = `${read.changes.length} ${read.changes.length === 1 ? 'line' : 'lines'} changed.`
    notify(read.left.length === 0 ? taken : `${taken} Left out: ${read.left.join('; ')}.`, 'plain')
  }
  return (
    <div className="px-3 py-2">
      <FileButton
        words="Take a parts list in …"
        label="Parts list"
        accept=".csv,text/csv"
        take={(f) => void take(f)}
      />
      <p className="pt-1 text-[12px] leading-4 text-ink2">
        Notes, links and prices, as filled in in a spreadsheet. They are kept with the rig, and are in the
        list again whenever it is made.
      </p>
    </div>
  )
}

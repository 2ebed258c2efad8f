'use client'
import { commandCalled } from './commands'
import { useSurface } from './view-store'

/** What can be done to what is picked, by the words of its command. */
const icons: Record<string, string> = {
  'Align left edges': 'M2 1v14M4 4h9M4 10h5',
  'Align on one upright line': 'M8 1v14M3 4h10M5 10h6',
  'Align right edges': 'M14 1v14M3 4h9M7 10h5',
  'Align upper edges': 'M1 2h14M4 4v9M10 4v5',
  'Align on one level line': 'M1 8h14M4 3v10M10 5v6',
  'Align lower edges': 'M1 14h14M4 3v9M10 7v5',
  'Even out the gaps across': 'M2 2v12M14 2v12M6.500 5h3v6h-3z',
  'Even out the gaps down': 'M2 2h12M2 14h12M5 6.500h6v3h-6z',
  Duplicate: 'M2 5h8v8h-8zM5 5V2.500h8V10h-3',
  'Mirror left to right': 'M8 1v14M6 4L2 12h4zM10 4l4 8h-4z',
  'Mirror top to bottom': 'M1 8h14M4 6l8-4v4zM4 10l8 4v-4z',
  Group: 'M1.500 1.500h4v4h-4zM10.500 10.500h4v4h-4zM5.500 3.500h7v7M3.500 5.500v7h7',
  'Lock, or unlock': 'M3 7h10v7H3zM5 7V5a3 3 0 0 1 6 0v2',
}

/** Two more for what lies above each other. */
const orderIcons: Record<string, string> = {
  'Bring to the front': 'M1.500 1.500h8v8h-8zM6.500 6.500h8v8h-8zM8.500 10.500h4M10.500 8.500v4',
  'Send to the back': 'M6.500 6.500h8v8h-8zM1.500 1.500h8v8h-8zM3.500 5.500h4',
}

/** What can be done to what is picked; on a screen also what lies above what. */
export const ArrangeButtons = ({ ordered = false }: { ordered?: boolean }) => {
  const picked = useSurface((s) => s.picked.size)
  return (
    <>
      {Object.entries(ordered ? { ...icons, ...orderIcons } : icons).map(([words, d]) => {
        const command = commandCalled(words)
        return (
          <button
            key={words}
            type="button"
            title={`${words}${command.key ? ` (${command.key.replaceAll('+', ' ')})` : ''}`}
            aria-label={words}
            disabled={picked < command.takes}
            className="grid h-[22px] w-[18px] place-items-center text-ink2 hover:text-ink disabled:opacity-35"
            onClick={command.run}
          >
            <svg
              width={15}
              height={15}
              viewBox="0 0 16 16"
              fill="none"
              stroke="currentColor"
              strokeWidth={1.3}
              aria-hidden="true"
            >
              <path d={d} />
            </svg>
          </button>
        )
      })}
    </>
  )
}

export const FitButton = () => (
  <button
    type="button"
    title="Show the whole of it (0)"
    className="h-[22px] px-1.5 text-[12px] text-ink2 hover:text-ink"
    onClick={commandCalled('Show the whole of it').run}
  >
    Fit
  </button>
)

/** The grid that things snap to. */
export const GridChoice = ({ of }: { of: 'gridMm' | 'gridPx' }) => {
  const now = useSurface((s) => s[of])
  const [sizes, unit] =
    of === 'gridMm' ? [[0, 0.5, 1, 2.54, 5, 10], 'mm'] : [[0, 1, 2, 4, 5, 8, 10, 20], 'px']
  return (
    <label
      className="ml-1 flex items-center gap-1 text-[12px] whitespace-nowrap text-ink2"
      title="Grid that things snap to"
    >
      <span className="sr-only">Grid</span>
      <select
        className="h-[22px] w-[76px] py-0 text-[12px]"
        value={now}
        onChange={(e) => useSurface.setState({ [of]: Number(e.target.value) })}
      >
        {sizes.map((n) => (
          <option key={n} value={n}>
            {n === 0 ? 'none' : `${n} ${unit}`}
          </option>
        ))}
      </select>
    </label>
  )
}

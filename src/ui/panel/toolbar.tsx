'use client'
import { commandCalled } from './commands'
import { type Tool, usePanelView } from './view-store'

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

const tools: readonly { tool: Tool; word: string; hint: string }[] = [
  { tool: { is: 'pick' }, word: 'Pick', hint: 'Pick and move; Shift adds, a frame picks many (Esc)' },
  { tool: { is: 'text' }, word: 'Text', hint: 'Put a legend where you click' },
  { tool: { is: 'frame' }, word: 'Frame', hint: 'Put a frame with a title where you click' },
  { tool: { is: 'line' }, word: 'Line', hint: 'Put a line where you click' },
  { tool: { is: 'hole' }, word: 'Hole', hint: 'Drill a mounting hole where you click' },
]

/** What a click does, and what can be done to what is picked. */
export const Toolbar = () => {
  const tool = usePanelView((s) => s.tool)
  const behind = usePanelView((s) => s.behind)
  const gridMm = usePanelView((s) => s.gridMm)
  const picked = usePanelView((s) => s.picked.size)
  return (
    <div
      role="toolbar"
      aria-label="Drawing tools"
      className="flex min-h-[30px] flex-wrap items-center gap-x-0.5 gap-y-1 border-y border-line px-2 py-0.5"
    >
      {tools.map((t) => (
        <button
          key={t.word}
          type="button"
          title={t.hint}
          aria-pressed={tool.is === t.tool.is}
          className={`h-[22px] px-1.5 text-[12px] ${tool.is === t.tool.is ? 'bg-accent-bg text-accent' : 'text-ink2 hover:text-ink'}`}
          onClick={() => usePanelView.setState({ tool: t.tool })}
        >
          {t.word}
        </button>
      ))}
      <span className="mx-1 h-4 border-l border-line" />
      {Object.entries(icons).map(([words, d]) => {
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
      <span className="mx-1 h-4 border-l border-line" />
      <button
        type="button"
        aria-pressed={behind}
        title="Bodies, holes and screws as if the plate were glass (Shift B)"
        className={`h-[22px] px-1.5 text-[12px] ${behind ? 'bg-accent-bg text-accent' : 'text-ink2 hover:text-ink'}`}
        onClick={() => usePanelView.setState({ behind: !behind })}
      >
        Behind
      </button>
      <button
        type="button"
        title="Show the whole panel (0)"
        className="h-[22px] px-1.5 text-[12px] text-ink2 hover:text-ink"
        onClick={commandCalled('Show the whole panel').run}
      >
        Fit
      </button>
      <label
        className="ml-1 flex items-center gap-1 text-[12px] whitespace-nowrap text-ink2"
        title="Grid that things snap to"
      >
        <span className="sr-only">Grid</span>
        <select
          className="h-[22px] w-[76px] py-0 text-[12px]"
          value={gridMm}
          onChange={(e) => usePanelView.setState({ gridMm: Number(e.target.value) })}
        >
          {[0, 0.5, 1, 2.54, 5, 10].map((mm) => (
            <option key={mm} value={mm}>
              {mm === 0 ? 'none' : `${mm} mm`}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

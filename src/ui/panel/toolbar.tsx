'use client'
import { ArrangeButtons, FitButton, GridChoice } from '../surface/arrange-buttons'
import { type Tool, useSurface } from '../surface/view-store'

const tools: readonly { tool: Tool; word: string; hint: string }[] = [
  { tool: { is: 'pick' }, word: 'Pick', hint: 'Pick and move; Shift adds, a frame picks many (Esc)' },
  { tool: { is: 'text' }, word: 'Text', hint: 'Put a legend where you click' },
  { tool: { is: 'frame' }, word: 'Frame', hint: 'Put a frame with a title where you click' },
  { tool: { is: 'line' }, word: 'Line', hint: 'Put a line where you click' },
  { tool: { is: 'hole' }, word: 'Hole', hint: 'Drill a mounting hole where you click' },
]

/** What a click does, and what can be done to what is picked. */
export const Toolbar = () => {
  const tool = useSurface((s) => s.tool)
  const behind = useSurface((s) => s.behind)
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
          onClick={() => useSurface.setState({ tool: t.tool })}
        >
          {t.word}
        </button>
      ))}
      <span className="mx-1 h-4 border-l border-line" />
      <ArrangeButtons />
      <span className="mx-1 h-4 border-l border-line" />
      <button
        type="button"
        aria-pressed={behind}
        title="Bodies, holes and screws as if the plate were glass (Shift B)"
        className={`h-[22px] px-1.5 text-[12px] ${behind ? 'bg-accent-bg text-accent' : 'text-ink2 hover:text-ink'}`}
        onClick={() => useSurface.setState({ behind: !behind })}
      >
        Behind
      </button>
      <FitButton />
      <GridChoice of="gridMm" />
    </div>
  )
}

import type { Guide, Step } from '@/core/calibration/guide'
import type { Measuring } from './probe'

/** What the builder is to do, large enough for two metres, with how far it has come and what was wrong. */
export const AskingFor = ({ guide, problem, left, again }: Measuring<Guide>) => {
  const { says, hint, share } = guide.asking
  return (
    <div className="min-h-[118px]">
      <p role="status" className="text-[30px] leading-9 font-bold">
        {problem === null ? says : 'It cannot be measured now.'}
      </p>
      {problem === null ? (
        <p className="mt-0.5 text-[15px] leading-5 text-ink2">{hint}</p>
      ) : (
        <p className="mt-0.5 text-[15px] leading-5 text-warn">{problem}.</p>
      )}
      <div
        className={`mt-2 h-1.5 w-[420px] max-w-full ${share === null || problem !== null ? '' : 'bg-hair'}`}
        aria-hidden="true"
      >
        {share !== null && problem === null && (
          <div className="h-full bg-accent" style={{ width: `${share * 100}%` }} />
        )}
      </div>
      {guide.objection !== null && (
        <p role="alert" className="mt-1.5 text-[15px] leading-5 text-warn">
          <span aria-hidden="true">◇ </span>
          {guide.objection}
        </p>
      )}
      {left > 0 && (
        <p className="mt-1 text-[12px] text-ink2">
          {left} moments found no room on the line to the board and are missing.
        </p>
      )}
      {guide.taken > 0 && (
        <button type="button" className="btn mt-1.5" onClick={again}>
          Begin anew
        </button>
      )}
    </div>
  )
}

/** The steps of a guide, those that are done ticked, and the one that is asked for now. */
export const StepList = ({ steps }: { steps: readonly Step[] }) => {
  const now = steps.find((s) => !s.done)
  return (
    <ol aria-label="Steps" className="flex flex-col gap-1 py-1.5 pl-2">
      {steps.map((s) => (
        <li
          key={s.id}
          aria-current={s === now ? 'step' : undefined}
          className={`flex items-center gap-2 text-[12px] ${s === now ? 'font-bold' : 'text-ink2'}`}
        >
          <svg
            viewBox="0 0 14 14"
            width={13}
            height={13}
            className="shrink-0"
            role="img"
            aria-label={s.done ? 'done' : s === now ? 'now' : 'to come'}
          >
            <rect
              x={1}
              y={1}
              width={12}
              height={12}
              fill={s.done ? 'var(--live)' : 'none'}
              stroke={s.done ? 'var(--live)' : s === now ? 'var(--accent)' : 'var(--ink3)'}
              strokeWidth={s === now ? 2 : 1}
            />
            {s.done && (
              <path
                d="M3.500 7.200l2.400 2.400L10.500 4.500"
                fill="none"
                stroke="var(--sheet)"
                strokeWidth={1.7}
              />
            )}
          </svg>
          {s.words}
        </li>
      ))}
    </ol>
  )
}

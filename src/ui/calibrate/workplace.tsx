import type { ReactNode } from 'react'
import type { Step } from '@/core/calibration/guide'
import { kindOf } from '@/core/catalogue/own-kind'
import { type Aspect, isControl } from '@/core/catalogue/part-kind'
import { isWired, wiringOf } from '@/core/harness/wiring'
import type { PartRow } from '@/core/rig/rows'
import { PartDrawing } from '../drawing/part-drawing'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { StepList } from './asking'
import { Nature } from './nature'
import { Since } from './since'

/** Room round a part, so that its labels and the marks of its focus are seen, in millimetres. */
const ROUND_MM = 4

/** A part that is measured: what is asked for, the steps, a drawing of what comes, figures, and the part itself to be worked. */
export const Workplace = ({
  part,
  aspect,
  steps,
  asking,
  figures,
  children,
}: {
  part: PartRow
  aspect: Aspect
  steps: readonly Step[]
  asking: ReactNode
  figures: ReactNode
  children: ReactNode
}) => {
  const board = useBoard(part, aspect)
  return (
    <div className="flex min-w-0 flex-1 flex-col overflow-y-auto px-4 py-3">
      <div className="flex gap-4">
        {steps.length > 0 && (
          <div className="w-[164px] shrink-0">
            <StepList steps={steps} />
          </div>
        )}
        <div className="min-w-0 flex-1">{asking}</div>
      </div>
      {board && !board.loaded && board.state === 'up' && (
        <p className="mt-2 flex items-center gap-3 border-y border-hair py-1.5 text-[13px]">
          <span className="text-warn">◇ {board.name} is not loaded with this yet.</span>
          <button
            type="button"
            className="btn"
            data-strong="true"
            disabled={board.loading !== null}
            onClick={() => board.id !== null && sayToHub({ say: 'load', boardId: board.id })}
          >
            {board.loading === null ? `Load ${board.name}` : `Loading ${Math.round(board.loading * 100)} %`}
          </button>
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-x-5 gap-y-3">
        <div className="min-w-0 flex-1 basis-[400px]">{children}</div>
        <dl className="w-[150px] shrink-0">{figures}</dl>
      </div>
      <Since part={part} aspect={aspect} />
    </div>
  )
}

const useBoard = (part: PartRow, aspect: Aspect) => {
  const rig = useStore((s) => s.rig)
  const boards = useStore((s) => s.status?.boards)
  const wiring = wiringOf(rig, part, aspect)
  return isWired(wiring) ? boards?.find((b) => b.id === wiring.boardId) : undefined
}

/** A simulated part, to be worked, and what it is really like. */
export const Itself = ({ part, aspect }: { part: PartRow; aspect: Aspect }) => {
  const board = useBoard(part, aspect)
  if (!board?.simulated) return null
  return (
    <section aria-label="The part itself" className="border-t border-line p-2">
      {(isControl(aspect) || aspect.kind !== 'needle') && <Drawn part={part} />}
      <Nature part={part} aspect={aspect} />
    </section>
  )
}

/** The part as it is drawn, to be looked at, and worked with mouse and keys. */
const Drawn = ({ part }: { part: PartRow }) => {
  const kind = kindOf(part)
  if (!kind) return null
  const w = kind.frontMm.width + 2 * ROUND_MM
  const h = kind.frontMm.height + 2 * ROUND_MM
  return (
    <svg
      viewBox={`${-w / 2} ${-h / 2} ${w} ${h}`}
      className="h-[190px] w-full"
      style={{ background: 'var(--plate)' }}
    >
      <title>{part.name}, as it is</title>
      <PartDrawing part={{ ...part, xMm: 0, yMm: 0, rotationDeg: 0 }} selected={false} operable />
    </svg>
  )
}

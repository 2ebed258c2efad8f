'use client'
import { clockWords } from '@/core/live/raw-text'
import { useRaw } from '../connections/raw-store'
import { useStore } from '../live/store'
import type { WithDescription } from './device-edit'

const SHOWN = 5

/** What goes out and what comes back, as it is sent. */
export const LineNow = ({ row }: { row: WithDescription }) => {
  const armed = useStore((s) => s.status?.armed ?? false)
  const out = useRaw((s) => s.items).filter((i) => i.d === 'out')
  const back = useRaw((s) => s.items).filter((i) => i.d === 'in')
  const isUp = useStore((s) => s.status?.connections.find((c) => c.id === row.id)?.state === 'up')
  const none = !armed
    ? 'Held: nothing goes out until the rig is armed.'
    : isUp
      ? 'Nothing has gone out since this was opened.'
      : 'Nothing goes out while the line is not open.'
  return (
    <section aria-label="On the line" className="shrink-0">
      <Lines title="Goes out" arrow="→" lines={out} none={none} />
      <Lines title="Comes back" arrow="←" lines={back} none="Nothing has come back since this was opened." />
    </section>
  )
}

const Lines = ({
  title,
  arrow,
  lines,
  none,
}: {
  title: string
  arrow: string
  lines: readonly {
    readonly n: number
    readonly t: number
    readonly words: string
    readonly sound: boolean
  }[]
  none: string
}) => (
  <div className="pb-2">
    <h3 className="font-bold">{title}</h3>
    <div className="mono h-[96px] overflow-hidden border border-line bg-sheet px-2 py-0.5 text-[11.5px] leading-[18px]">
      {lines.length === 0 && <p className="font-sans text-ink2">{none}</p>}
      {lines.slice(-SHOWN).map((l) => (
        <p key={l.n} className={`truncate ${l.sound ? '' : 'text-fault'}`} title={l.words}>
          <span className="text-ink2">
            {clockWords(l.t)} {arrow}{' '}
          </span>
          {l.words}
        </p>
      ))}
    </div>
  </div>
)

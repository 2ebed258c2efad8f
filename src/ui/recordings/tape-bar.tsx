'use client'
import { Pause, Play, Repeat, StepBack, StepForward } from 'lucide-react'
import { Slider } from 'radix-ui'
import { type ReactNode, useEffect, useRef, useState } from 'react'
import { type RecordingState, type ReplayState, SPEEDS } from '@/core/live/recording-states'
import { runWords } from '@/core/recording/listed'
import type { MarkedBy } from '@/core/recording/moment'
import { sayToHub } from '../live/connection'
import { leaveField } from '../primitives/leave-field'
import { Segments } from '../primitives/segments'
import { useSurface } from '../surface/view-store'
import { askRecordings, useRecordings } from './recordings-store'

/** What is recorded, or played, wherever one looks: a line above every view. */
export const TapeBar = () => {
  const recording = useRecordings((s) => s.recording)
  const replay = useRecordings((s) => s.replay)
  if (replay) return <ReplayBar replay={replay} />
  return recording ? <RecordingBar recording={recording} /> : null
}

const Bar = ({ label, name, children }: { label: string; name: string; children: ReactNode }) => (
  <section
    aria-label={label}
    className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-accent-bg px-3 py-1.5"
  >
    <h2 className="flex min-w-0 items-baseline gap-2">
      <span className="cap text-accent">{label}</span>
      <span className="max-w-[180px] truncate font-bold">{name}</span>
    </h2>
    {children}
  </section>
)

const Clock = ({ at, of }: { at: number; of?: number }) => (
  <span className="mono text-[15px] whitespace-nowrap">
    {runWords(at)}
    {of !== undefined && <span className="text-[12px] text-ink2"> of {runWords(of)}</span>}
  </span>
)

const RecordingBar = ({ recording }: { recording: RecordingState }) => {
  const [words, setWords] = useState('')
  const mark = () => {
    sayToHub({ say: 'record mark', words: words.trim() || 'Mark' })
    setWords('')
    leaveField()
  }
  return (
    <Bar label="Recording" name={recording.name}>
      <Clock at={recording.length} />
      {recording.problem !== null && (
        <span role="status" className="text-fault">
          {`${recording.problem}; ${Math.ceil(recording.waitingBytes / 1024)} kB wait here and are kept as soon as that is over.`}
        </span>
      )}
      <form
        className="ml-auto flex gap-1.5"
        onSubmit={(e) => {
          e.preventDefault()
          mark()
        }}
      >
        <input
          className="w-[180px]"
          aria-label="Words for a mark"
          placeholder="What happens now"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <button type="submit" className="btn">
          Mark
        </button>
        <button
          type="button"
          className="btn"
          data-strong="true"
          onClick={() => sayToHub({ say: 'record end' })}
        >
          End recording
        </button>
      </form>
    </Bar>
  )
}

const speedWords = (speed: number): string => `${speed}×`

/** What is asked of the replay now; several at once are one. */
const change = (
  what: Omit<Extract<Parameters<typeof sayToHub>[0], { say: 'replay change' }>, 'say'>,
): void => {
  sayToHub({ say: 'replay change', ...what })
}

const ReplayBar = ({ replay }: { replay: ReplayState }) => {
  const { playing, speed, loop, hands, from, until } = replay
  return (
    <Bar label="Replay" name={replay.name}>
      <div className="flex gap-1">
        <Tool words="A frame back" act={() => sayToHub({ say: 'replay step', by: -1 })}>
          <StepBack size={14} />
        </Tool>
        <Tool words={playing ? 'Pause' : 'Play'} strong act={() => change({ playing: !playing })}>
          {playing ? <Pause size={14} /> : <Play size={14} />}
        </Tool>
        <Tool words="A frame on" act={() => sayToHub({ say: 'replay step', by: 1 })}>
          <StepForward size={14} />
        </Tool>
        <Tool words="Again from the beginning at its end" on={loop} act={() => change({ loop: !loop })}>
          <Repeat size={14} />
        </Tool>
      </div>
      <Clock at={replay.at - from} of={until - from} />
      <Tape replay={replay} />
      <select
        aria-label="How fast"
        className="h-[24px] py-0 text-[12px]"
        value={speed}
        onChange={(e) => change({ speed: Number(e.target.value) })}
      >
        {SPEEDS.map((s) => (
          <option key={s} value={s}>
            {speedWords(s)}
          </option>
        ))}
      </select>
      {replay.behind && <span className="text-warn">as fast as this machine can</span>}
      <span className="flex items-center gap-1.5">
        <span className="cap">Hands</span>
        <Segments
          label="Whose hands operate the panel"
          words={{ panel: 'At the panel', recorded: 'Recorded' }}
          is={hands ? 'recorded' : 'panel'}
          choose={(who) => change({ hands: who === 'recorded' })}
        />
      </span>
      <Trim replay={replay} />
      <button type="button" className="btn" onClick={() => sayToHub({ say: 'replay close' })}>
        Close replay
      </button>
      {replay.problem !== null && (
        <span role="alert" className="text-fault">
          {replay.problem}
        </span>
      )}
    </Bar>
  )
}

const Tool = ({
  words,
  act,
  on,
  strong,
  children,
}: {
  words: string
  act: () => void
  on?: boolean
  strong?: boolean
  children: ReactNode
}) => (
  <button
    type="button"
    className={`btn px-1.5 ${on ? 'bg-sheet text-accent' : ''}`}
    data-strong={strong}
    aria-label={words}
    aria-pressed={on}
    title={words}
    onClick={act}
  >
    {children}
  </button>
)

/** Marks as lines of different length, by who made them. */
const markHeights: Readonly<Record<MarkedBy, number>> = { builder: 16, edit: 12, hand: 7 }

/** Where it is, to be dragged; the marks stand above. */
const Tape = ({ replay }: { replay: ReplayState }) => {
  const { from, until, marks } = replay
  const length = Math.max(1, until - from)
  const [dragged, setDragged] = useState<number | null>(null)
  const saidAt = useRef(0)
  const at = dragged ?? replay.at - from
  // Where it was let go is where it is until the hub has come there.
  useEffect(() => {
    if (dragged !== null && Math.abs(replay.at - from - dragged) < 200_000) setDragged(null)
  }, [replay.at, from, dragged])
  const go = (to: number, last: boolean) => {
    setDragged(to)
    const t = performance.now()
    if (!last && t - saidAt.current < 60) return
    saidAt.current = t
    change({ at: to + from })
  }
  return (
    <Slider.Root
      className="relative flex h-[24px] min-w-[180px] flex-1 touch-none items-center"
      min={0}
      max={length}
      step={Math.min(100_000, length / 100)}
      value={[at]}
      onValueChange={([to]) => to !== undefined && go(to, false)}
      onValueCommit={([to]) => to !== undefined && go(to, true)}
    >
      <svg aria-hidden="true" className="absolute inset-x-0 top-0 h-[16px] w-full overflow-visible">
        {marks.map((m, i) => (
          <line
            key={`${m.at} ${i}`}
            x1={`${((m.at - from) / length) * 100}%`}
            x2={`${((m.at - from) / length) * 100}%`}
            y1={16 - markHeights[m.by]}
            y2={16}
            stroke={m.by === 'hand' ? 'var(--ink3)' : 'var(--accent)'}
            strokeWidth={m.by === 'builder' ? 2 : 1}
          >
            <title>{`${runWords(m.at - from)} ${m.words}`}</title>
          </line>
        ))}
      </svg>
      <Slider.Track className="absolute inset-x-0 top-[16px] h-[4px] bg-line">
        <Slider.Range className="absolute h-full bg-accent" />
      </Slider.Track>
      <Slider.Thumb
        aria-label="Where it is"
        aria-valuetext={runWords(at)}
        className="block h-[24px] w-[6px] bg-ink"
      />
    </Slider.Root>
  )
}

/** Cuts away what lies before, or behind, where it is; asked once, since it cannot be taken back. */
const Trim = ({ replay }: { replay: ReplayState }) => {
  const { id, from, until, at } = replay
  const [open, setOpen] = useState(false)
  const isExample = useRecordings((s) => s.list?.some((r) => r.id === id && r.exampleOf !== null) ?? false)
  const cut = (what: string, range: { from: number; until: number }) => {
    setOpen(false)
    useSurface.setState({
      asking: {
        words: `Everything ${what} ${runWords(at - from)} is deleted from “${replay.name}”, for good.${isExample ? ' It is an example no longer then.' : ''}`,
        act: async () => {
          if (await askRecordings({ do: 'trim', id, ...range })) sayToHub({ say: 'replay open', id })
        },
      },
    })
  }
  if (!open)
    return (
      <button type="button" className="btn" onClick={() => setOpen(true)}>
        Trim …
      </button>
    )
  return (
    <span className="flex gap-1">
      <button
        type="button"
        className="btn"
        disabled={at <= from}
        onClick={() => cut('before', { from: at, until })}
      >
        Cut what is before
      </button>
      <button
        type="button"
        className="btn"
        disabled={at >= until}
        onClick={() => cut('after', { from, until: at })}
      >
        Cut what is after
      </button>
    </span>
  )
}

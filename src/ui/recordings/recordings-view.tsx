'use client'
import { useEffect, useState } from 'react'
import { type RecordingFormat, recordingFormatNames, recordingFormats } from '@/core/recording/files/formats'
import { type ListedRecording, MOST_RECORDING_BYTES, runWords } from '@/core/recording/listed'
import { numbered } from '@/core/rig/numbered'
import { TextField } from '../editors/text-field'
import { sayToHub } from '../live/connection'
import { notify, useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { leaveField } from '../primitives/leave-field'
import { Mark } from '../primitives/mark'
import { useScope } from '../scope/scope-store'
import { useSurface } from '../surface/view-store'
import { Differences } from './differences'
import { askRecordings, listRecordings, takeRecording, useRecordings } from './recordings-store'
import { replayTo } from './replay-acts'

/** All recordings: made, taken from files, named, played, kept as examples and deleted. */
export const RecordingsView = () => {
  const list = useRecordings((s) => s.list)
  useEffect(() => {
    void listRecordings()
  }, [])
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <Making names={new Set(list?.map((r) => r.name))} />
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div tabIndex={0} className="min-h-0 flex-1 overflow-y-auto">
        {list === null ? (
          <p className="p-3 text-ink2">Looking …</p>
        ) : list.length === 0 ? (
          <p className="max-w-[640px] p-3 text-ink2">
            Nothing is recorded yet. A recording keeps all that the sources tell and all that is operated, and
            is played in their place: paused, slower, again and again, with no simulator at all.
          </p>
        ) : (
          <ul aria-label="Recordings">
            {list.map((r) => (
              <RecordingLine key={r.id} recording={r} />
            ))}
          </ul>
        )}
      </div>
    </div>
  )
}

const Making = ({ names }: { names: ReadonlySet<string> }) => {
  const pinned = useScope((s) => s.pinned)
  const busy = useRecordings((s) => s.recording !== null || s.replay !== null)
  const sources = useStore((s) => s.sources.length)
  const [name, setName] = useState('')
  const [all, setAll] = useState(true)
  const free = names.has('Session') ? numbered('Session', names, 2) : 'Session'
  const take = (f: File) =>
    f.size > MOST_RECORDING_BYTES
      ? notify(`“${f.name}” is larger than ${MOST_RECORDING_BYTES / 1e6} MB. Nothing was kept.`)
      : void takeRecording(f)
  return (
    <form
      className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-3 py-2"
      onSubmit={(e) => {
        e.preventDefault()
        sayToHub({ say: 'record', name: name.trim() || free, names: all ? null : pinned })
        setName('')
        leaveField()
      }}
    >
      <input
        className="w-[200px]"
        aria-label="Name of the recording"
        placeholder={free}
        maxLength={120}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <select
        aria-label="What is recorded"
        className="h-[24px] py-0 text-[12px]"
        value={all ? 'all' : 'some'}
        onChange={(e) => setAll(e.target.value === 'all')}
      >
        <option value="all">everything</option>
        <option value="some">{`what is bound, and ${pinned.length} pinned`}</option>
      </select>
      <button
        type="submit"
        className="btn"
        data-strong={!busy && sources > 0}
        disabled={busy || sources === 0}
        title={
          busy
            ? 'End the recording, or close the replay, first'
            : 'What is bound or pinned is kept in each frame; what else moves all the time, five times a second'
        }
      >
        Record
      </button>
      <span className="ml-auto">
        <FileButton
          words="From a file …"
          label="Recording from a file"
          accept=".csv,.tsv,.txt,.jsonl,.ndjson"
          mostBytes={MOST_RECORDING_BYTES}
          take={take}
        />
      </span>
    </form>
  )
}

const bytesWords = (bytes: number): string =>
  bytes < 1_000_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`

const RecordingLine = ({ recording: r }: { recording: ListedRecording }) => {
  const playing = useRecordings((s) => s.replay?.id === r.id)
  const making = useRecordings((s) => s.recording !== null)
  const rigId = useStore((s) => s.rigId)
  const soFar = useRecordings((s) => (s.recording?.id === r.id ? s.recording.length : null))
  const goingOn = r.state === 'going on'
  const length = soFar ?? r.until - r.from
  const builders = r.marks.filter((m) => m.by === 'builder').length
  const remove = () =>
    useSurface.setState({
      asking: {
        words: `“${r.name}”, ${runWords(r.until - r.from, false)} of ${r.craft || 'a file'}, is deleted for good.`,
        act: () => {
          if (playing) sayToHub({ say: 'replay close' })
          void askRecordings({ do: 'delete', id: r.id })
        },
      },
    })
  return (
    <li aria-label={r.name} className={`border-b border-hair px-3 py-1.5 ${playing ? 'bg-accent-bg' : ''}`}>
      <div className="flex items-center gap-3">
        <TextField
          label={`Name of ${r.name}`}
          value={r.name}
          width={250}
          objection={(t) => (t.trim() === '' ? 'a recording needs a name' : null)}
          take={(name) => void askRecordings({ do: 'rename', id: r.id, name: name.trim() })}
        />
        <span className="mono w-[72px] text-right text-[15px]">{runWords(length, false)}</span>
        <span className="min-w-0 flex-1 truncate text-[12px] text-ink2">
          {[
            r.craft,
            `${r.variables} variables`,
            bytesWords(r.bytes),
            ...(builders > 0 ? [`${builders} ${builders === 1 ? 'mark' : 'marks'}`] : []),
            new Date(r.begunAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }),
            ...(r.otherRig === null ? [] : [`recorded with ${r.otherRig}`]),
          ]
            .filter((w) => w !== '')
            .join(' · ')}
        </span>
        <button
          type="button"
          className="btn"
          data-strong={!playing && !goingOn && !making}
          aria-label={`Replay ${r.name}`}
          disabled={goingOn || making || playing}
          onClick={() => sayToHub({ say: 'replay open', id: r.id })}
        >
          Replay
        </button>
        <SaveAs recording={r} />
        {r.exampleOf === null ? (
          <button
            type="button"
            className="btn"
            aria-label={`Keep as example: ${r.name}`}
            disabled={goingOn || r.rigId !== rigId}
            title="What the panel shows with it now is what it is to show from now on; whatever differs after an edit is listed"
            onClick={() => void askRecordings({ do: 'keep', id: r.id })}
          >
            Keep as example
          </button>
        ) : (
          <button
            type="button"
            className="btn"
            aria-label={`No example: ${r.name}`}
            onClick={() => void askRecordings({ do: 'release', id: r.id })}
          >
            No example
          </button>
        )}
        <button
          type="button"
          className="btn"
          aria-label={`Delete ${r.name}`}
          disabled={goingOn}
          onClick={remove}
        >
          Delete
        </button>
      </div>
      {r.why !== null && (
        <p className="flex items-center gap-1.5 pt-1 text-[12px] text-warn">
          <Mark shape="warn" words="cut short" />
          {`It was cut short: ${r.why}. What was kept until then can be played.`}
        </p>
      )}
      {goingOn && <p className="pt-1 text-[12px] text-ink2">It is being made.</p>}
      {playing && <Marks recording={r} />}
      {r.exampleOf !== null && <Differences recording={r} />}
    </li>
  )
}

/** More of them are found on the tape. */
const MOST_MARKS = 40

/** The builder's own marks of what is played: each leads there. */
const Marks = ({ recording: r }: { recording: ListedRecording }) => {
  const own = r.marks.filter((m) => m.by !== 'hand')
  if (own.length === 0) return null
  return (
    <ul aria-label={`Marks of ${r.name}`} className="flex flex-wrap gap-1 pt-1.5">
      {own.slice(0, MOST_MARKS).map((m) => (
        <li key={`${m.at} ${m.words}`}>
          <button type="button" className="btn" onClick={() => replayTo((m.at - r.from) / 1000)}>
            <span className="mono">{runWords(m.at - r.from, false)}</span> {m.words}
          </button>
        </li>
      ))}
    </ul>
  )
}

const SaveAs = ({ recording: r }: { recording: ListedRecording }) => {
  const save = (format: RecordingFormat) => {
    const a = document.createElement('a')
    a.href = `/api/recordings/${r.id}/file?as=${format}`
    a.download = ''
    a.click()
  }
  return (
    <select
      aria-label={`Save ${r.name} as a file`}
      className="h-[24px] w-[92px] py-0 text-[12px]"
      value=""
      disabled={r.state === 'going on'}
      onChange={(e) => save(e.target.value as RecordingFormat)}
    >
      <option value="">Save as …</option>
      {recordingFormatNames.map((f) => (
        <option key={f} value={f}>
          {recordingFormats[f].words}
        </option>
      ))}
    </select>
  )
}

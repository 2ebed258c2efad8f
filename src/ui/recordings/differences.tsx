import { type ListedRecording, runWords } from '@/core/recording/listed'
import { sayToHub, select } from '../live/connection'
import { useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { askRecordings, useRecordings } from './recordings-store'

/** More of them say no more. */
const MOST_SHOWN = 60

/** What an example shows differently now, part by part, and where in it. */
export const Differences = ({ recording: r }: { recording: ListedRecording }) => {
  const compared = useRecordings((s) => s.compared[r.id])
  const revision = useStore((s) => s.revision)
  const playing = useRecordings((s) => s.replay?.id === r.id)
  if (!compared) return <p className="pt-1 text-[12px] text-ink2">It is played with the rig as it is …</p>
  const { differences } = compared
  const fresh = compared.revision === revision
  const words =
    differences.length === 0
      ? 'The panel shows and tells what it did when this was kept.'
      : `${differences.length} ${differences.length === 1 ? 'thing differs' : 'things differ'} from when this was kept.`
  const lookAt = (at: number) => {
    if (!playing) sayToHub({ say: 'replay open', id: r.id })
    sayToHub({ say: 'replay change', at, playing: false })
  }
  return (
    <div className="pt-1 text-[12px]">
      <p className="flex items-center gap-1.5" role="status">
        {fresh ? (
          <Mark shape={differences.length === 0 ? 'ok' : 'warn'} words="compared" />
        ) : (
          <Mark shape="wait" words="not compared yet" />
        )}
        {fresh ? words : `${words} It is played anew with what was edited …`}
        {differences.length > 0 && (
          <button
            type="button"
            className="btn ml-2"
            onClick={() => void askRecordings({ do: 'keep', id: r.id })}
          >
            As it is now is right
          </button>
        )}
      </p>
      {differences.length > 0 && (
        <table className="mt-1 ml-5" aria-label={`What differs in ${r.name}`}>
          <thead>
            <tr className="cap text-left">
              <th className="pr-6">What</th>
              <th className="pr-6">First at</th>
              <th className="pr-6">For</th>
              <th className="pr-6">Was</th>
              <th>Is now</th>
            </tr>
          </thead>
          <tbody>
            {differences.slice(0, MOST_SHOWN).map((d) => (
              <tr key={`${d.partId} ${d.aspectId} ${d.name}`} className="border-t border-hair">
                <td className="py-0.5 pr-6">
                  {d.partId === null ? (
                    <span>
                      told <span className="mono">{d.name}</span>
                    </span>
                  ) : (
                    <button type="button" className="text-accent underline" onClick={() => select(d.partId)}>
                      {d.name}
                    </button>
                  )}
                </td>
                <td className="pr-6">
                  <button
                    type="button"
                    className="mono text-accent underline"
                    title="Goes there in the recording"
                    onClick={() => lookAt(d.at)}
                  >
                    {runWords(d.at - r.from)}
                  </button>
                </td>
                <td className="mono pr-6">{d.for > 0 ? `${(d.for / 1e6).toFixed(1)} s` : '–'}</td>
                <td className="mono pr-6">{d.was ?? 'nothing'}</td>
                <td className="mono">{d.is ?? 'nothing'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {differences.length > MOST_SHOWN && (
        <p className="ml-5 text-ink2">{`and ${differences.length - MOST_SHOWN} more`}</p>
      )}
    </div>
  )
}

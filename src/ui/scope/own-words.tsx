import { useEffect, useState } from 'react'
import type { EventInfo, VariableInfo } from '@/core/rig/simulator-catalogue'
import { MOST_WORDS_BYTES } from '@/core/rig/words-file'
import { unitNamed } from '@/core/signal/unit'
import { postDoor } from '../live/door'
import { notify } from '../live/store'
import { FileButton } from '../primitives/file-button'

/** Says something of names of a craft, or takes a file of that; true where it was kept. What was odd is said. */
const post = async (body: unknown, done: (count: number) => string | null): Promise<boolean> => {
  const answer = await postDoor<{ count: number; odd: string[] }>('/api/words', body)
  const words = answer && done(answer.count)
  if (answer && words !== null) notify([words, ...answer.odd].join(' '), 'plain')
  return answer !== null
}

/** What the builder says of one name: how it is called, its unit, what it is. Empty is as the simulator tells it. */
export const OwnWords = ({
  craft,
  name,
  info,
}: {
  craft: string
  /** As its source tells it. */
  name: string
  info: VariableInfo | EventInfo
}) => {
  const [open, setOpen] = useState(false)
  const isVariable = 'writable' in info
  const before = {
    called: info.called ?? '',
    unit: isVariable ? (info.unit ?? '') : '',
    description: info.description,
  }
  const [said, setSaid] = useState(before)
  const { called, unit, description } = before
  useEffect(() => setSaid({ called, unit, description }), [called, unit, description])
  if (!open)
    return (
      <button type="button" className="btn" onClick={() => setOpen(true)}>
        {info.called ? 'In your words …' : 'Say what it is …'}
      </button>
    )
  const unknown = said.unit !== '' && !unitNamed(said.unit)
  const save = async () => {
    const word = {
      name,
      called: said.called,
      unit: isVariable ? said.unit || null : null,
      description: said.description,
    }
    if (await post({ craft, words: [word] }, () => null)) setOpen(false)
  }
  const field = (label: string, of: 'called' | 'unit' | 'description', most: number) => (
    <label className="mb-1 grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-ink2">{label}</span>
      <input
        className="min-w-0"
        maxLength={most}
        value={said[of]}
        onChange={(e) => setSaid({ ...said, [of]: e.target.value })}
      />
    </label>
  )
  return (
    <form
      aria-label={`${name} in your words`}
      onSubmit={(e) => {
        e.preventDefault()
        void save()
      }}
      onKeyDown={(e) => e.key === 'Escape' && setOpen(false)}
    >
      {field('Called', 'called', 120)}
      {isVariable && field('Unit', 'unit', 20)}
      {unknown && (
        <p className="mb-1 text-warn">{`“${said.unit}” is not known: it is shown, and nothing is converted.`}</p>
      )}
      {field('It is', 'description', 500)}
      <div className="flex gap-1.5">
        <button type="submit" className="btn" data-strong="true">
          Keep
        </button>
        <button type="button" className="btn" onClick={() => setOpen(false)}>
          Leave
        </button>
      </div>
    </form>
  )
}

/** What is said of all names of a craft, as a file. */
export const WordsFile = ({ craft }: { craft: string }) => {
  const take = async (file: File) =>
    void post(
      { craft, text: await file.text() },
      (count) =>
        `What “${file.name}” says of ${count} ${count === 1 ? 'name' : 'names'} of ${craft} is kept.`,
    )
  return (
    <div className="border-t border-line p-3 text-[12px]">
      <p className="cap mb-1.5">{`Words for ${craft}`}</p>
      <div className="flex flex-wrap gap-1.5">
        <FileButton
          words="From a file …"
          label={`Words for ${craft} from a file`}
          accept=".csv,.json,text/csv,application/json"
          mostBytes={MOST_WORDS_BYTES}
          take={(f) => void take(f)}
        />
        <a className="btn" href={`/api/words/file?craft=${encodeURIComponent(craft)}`} download>
          Save as a file
        </a>
      </div>
    </div>
  )
}

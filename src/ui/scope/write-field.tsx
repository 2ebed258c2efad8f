import { useId, useState } from 'react'
import type { EventInfo, VariableInfo } from '@/core/rig/simulator-catalogue'
import { typedEventValue, typedValue } from '@/core/scope/typed-value'
import { sayToHub } from '../live/connection'
import { notify } from '../live/store'
import { RefusalNote } from '../primitives/refusal-note'

/** What may be typed, in a few words. */
const allowed = (info: VariableInfo | EventInfo): string => {
  if (!('writable' in info)) return info.value ? (info.value.unit ?? info.value.type) : ''
  if (info.type === 'boolean') return 'on or off'
  if (info.choices) return info.choices.join(', ')
  const unit = info.unit ? ` ${info.unit}` : ''
  return info.range ? `${info.range[0]} to ${info.range[1]}${unit}` : `${info.type}${unit}`
}

/** A value by hand, checked as it is typed; Enter sends it. */
export const WriteField = ({
  info,
  autoFocus = false,
  done = () => {},
}: {
  info: VariableInfo | EventInfo
  autoFocus?: boolean
  done?: () => void
}) => {
  const [typed, setTyped] = useState('')
  const [refused, setRefused] = useState<string | null>(null)
  const note = useId()
  const isEvent = !('writable' in info)
  const send = () => {
    const read = isEvent ? typedEventValue(info, typed) : typedValue(info, typed)
    if ('problem' in read) {
      setRefused(read.problem)
      return
    }
    const say = isEvent ? ('scope event' as const) : ('scope write' as const)
    if (!sayToHub({ say, name: info.name, typed })) {
      notify('The hub is away, so nothing was sent.')
      return
    }
    setRefused(null)
    setTyped('')
    done()
  }
  const takesNone = isEvent && info.value === null
  return (
    <form
      className="relative flex min-w-0 flex-1 items-center gap-1.5"
      onSubmit={(e) => {
        e.preventDefault()
        send()
      }}
    >
      {!takesNone && (
        <input
          // biome-ignore lint/a11y/noAutofocus: it was opened to be typed in
          autoFocus={autoFocus}
          className="mono h-[24px] w-full min-w-0"
          aria-label={`Value for ${info.name}`}
          aria-invalid={refused !== null}
          aria-describedby={refused === null ? undefined : note}
          placeholder={allowed(info)}
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value)
            setRefused(null)
          }}
          onKeyDown={(e) => {
            if (e.key !== 'Escape') return
            e.stopPropagation()
            setTyped('')
            setRefused(null)
            done()
          }}
        />
      )}
      <button type="submit" className="btn">
        {isEvent ? 'Send' : 'Write'}
      </button>
      {refused !== null && <RefusalNote id={note} words={`Not sent: ${refused}.`} />}
    </form>
  )
}

'use client'
import { useSyncExternalStore } from 'react'
import { pressables } from '@/core/keys/keys'
import { values } from '../live/store'

/** What stands otherwise than at rest, in a text that differs only where that does. */
const pressedText = (prefix: string): string =>
  pressables
    .flatMap((p) => {
      const value = values.get(prefix + p.name)
      if (typeof value !== 'number' || value === 0) return []
      return [p.is === 'axis' ? `${p.name.slice(5)} ${value.toFixed(2)}` : p.words]
    })
    .join('\n')

/** The keys and buttons that are pressed now, really or only to be shown. */
export const KeysNow = ({ prefix }: { prefix: string }) => {
  const text = useSyncExternalStore(
    (told) => {
      const ends = pressables.map((p) => values.subscribe(prefix + p.name, told))
      return () => {
        for (const end of ends) end()
      }
    },
    () => pressedText(prefix),
    () => '',
  )
  const pressed = text === '' ? [] : text.split('\n')
  return (
    <section aria-label="Pressed now" className="max-w-[640px] border border-line p-2">
      <b>Pressed now</b>
      <div className="flex min-h-[30px] flex-wrap items-center gap-1.5 pt-1">
        {pressed.length === 0 && <span className="text-ink2">nothing</span>}
        {pressed.map((words) => (
          <span key={words} className="mono border border-accent bg-accent-bg px-1.5 py-0.5">
            {words}
          </span>
        ))}
      </div>
      <p className="pt-1 text-ink2">
        Bind a part to one of its variables with <b>hold</b>: the key is pressed for as long as the part is. A
        lever is bound to an axis.
      </p>
    </section>
  )
}

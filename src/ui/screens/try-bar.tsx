'use client'
import { livePropertiesOf } from '@/core/elements/elements'
import type { ElementRow } from '@/core/rig/rows'
import { screenKey } from '@/core/screens/screen-key'
import { TextField } from '../editors/text-field'
import { Segments } from '../primitives/segments'
import { followedOf, setSample, useScreens } from './screens-store'

const asValue = (text: string): number | string | null => {
  const bare = text.trim()
  if (bare === '' || bare === 'absent') return null
  if (bare === 'on' || bare === 'yes') return 1
  if (bare === 'off' || bare === 'no') return 0
  const number = Number(bare.replace(',', '.').replace('−', '-'))
  return Number.isFinite(number) ? number : bare
}

/** What the drawing shows while it is drawn on: what is told, values that are typed, or a sweep. */
export const TryBar = ({ elements }: { elements: readonly ElementRow[] }) => {
  const trying = useScreens((s) => s.trying)
  const samples = useScreens((s) => s.samples)
  const lines = elements.flatMap((row) => {
    const main = livePropertiesOf(row.settings)[0]
    const followed = followedOf(row)
    const shown = followed.length > 0 ? followed : main ? [main.property] : []
    return shown.map((property) => ({ row, property, key: screenKey(row.id, property) }))
  })
  return (
    <section aria-label="Try it" className="flex max-h-[38%] flex-col gap-1.5 border-t border-line p-2.5">
      <div className="flex items-center gap-2">
        <b className="flex-1 text-[12px]">Shows</b>
        <Segments
          label="What the drawing shows"
          words={{ live: 'Live', samples: 'Samples', sweep: 'Sweep' }}
          is={trying}
          choose={(to) => useScreens.setState({ trying: to })}
        />
      </div>
      {trying === 'sweep' && (
        <p className="text-[12px] text-ink2">
          {elements.length > 0 ? 'What is picked goes' : 'Everything goes'} through its range, there and back.
        </p>
      )}
      {trying === 'samples' &&
        (lines.length === 0 ? (
          <p className="text-[12px] text-ink2">Pick an element and type what it is to show.</p>
        ) : (
          <div className="min-h-0 overflow-y-auto">
            {lines.map(({ row, property, key }) => (
              // biome-ignore lint/a11y/noLabelWithoutControl: the field within names itself
              <label key={key} className="flex items-center gap-2 py-px text-[12px]">
                <span className="min-w-0 flex-1 truncate">
                  {row.name} <span className="text-ink2">{property}</span>
                </span>
                <TextField
                  label={`Sample for ${property} of ${row.name}`}
                  width={84}
                  placeholder="live"
                  value={samples.has(key) ? String(samples.get(key) ?? 'absent') : ''}
                  take={(text) => setSample(key, text === '' ? undefined : asValue(text))}
                />
              </label>
            ))}
          </div>
        ))}
    </section>
  )
}

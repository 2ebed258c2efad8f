'use client'
import { X } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useMemo, useState } from 'react'
import type { ElementProperty, Followed, LiveProperty } from '@/core/elements/element-kind'
import { livePropertiesOf } from '@/core/elements/elements'
import type { BindingRow, ElementRow } from '@/core/rig/rows'
import { screenKey } from '@/core/screens/screen-key'
import { formatNumber } from '@/core/signal/format'
import { ExpressionField } from '../editors/expression-field'
import { placeOf } from '../editors/expression-scope'
import { ShapingSteps } from '../editors/shaping-steps'
import { SimulatorPicker } from '../editors/simulator-picker'
import { useStore } from '../live/store'
import { Segments } from '../primitives/segments'
import { follow } from './change'
import { followedOf } from './screens-store'
import { useProblem, useTold } from './told-screens'

/** What of an element follows a value, one line each, with what it is now; and what else could. */
export const Follows = ({ row }: { row: ElementRow }) => {
  const all = livePropertiesOf(row.settings)
  const on = followedOf(row)
  const [fresh, setFresh] = useState<ElementProperty | null>(null)
  const shown = all.filter((l) => on.includes(l.property) || l.property === fresh)
  return (
    <section aria-label="Follows" className="flex flex-col border-t border-line pt-1.5">
      <div className="flex items-center justify-between pb-1">
        <b className="text-[12px]">Follows</b>
        <select
          aria-label="Let another property follow a value"
          className="h-[22px] py-0 text-[12px]"
          value=""
          onChange={(e) => setFresh((e.target.value as ElementProperty) || null)}
        >
          <option value="">Add …</option>
          {all
            .filter((l) => !on.includes(l.property))
            .map((l) => (
              <option key={l.property} value={l.property}>
                {l.word}
              </option>
            ))}
        </select>
      </div>
      {shown.map((l) => (
        <FollowLine
          key={`${row.id} ${l.property}`}
          row={row}
          live={l}
          opens={l.property === fresh}
          closed={() => setFresh(null)}
        />
      ))}
      {shown.length === 0 && (
        <p className="pb-1 text-[12px] text-ink2">Nothing of it follows a value; it is drawn as it is set.</p>
      )}
    </section>
  )
}

const wordsOfValue = (value: number | string | null | undefined): string =>
  value === undefined
    ? ''
    : value === null
      ? 'absent'
      : typeof value === 'number'
        ? formatNumber(value)
        : `“${value}”`

const FollowLine = ({
  row,
  live,
  opens,
  closed,
}: {
  row: ElementRow
  live: LiveProperty
  opens: boolean
  closed: () => void
}) => {
  const { property, word } = live
  const key = screenKey(row.id, property)
  const [open, setOpen] = useState(opens)
  const now = useTold(row.screenId, key)
  const problem = useProblem(row.screenId, key)
  const followed = row.settings.follows[property]
  const source = followed ? (followed.variable ?? 'expression') : 'choose …'
  const shaped = followed && followed.show !== 'input' ? followed.show : ''
  return (
    <Popover.Root
      open={open}
      onOpenChange={(is) => {
        setOpen(is)
        if (!is) closed()
      }}
    >
      <div className="flex items-start gap-1 border-t border-hair py-1 text-[12px]" data-follows={property}>
        <Popover.Trigger asChild>
          <button
            type="button"
            className="grid min-w-0 flex-1 grid-cols-[64px_minmax(0,1fr)] gap-x-1.5 text-left hover:text-accent"
          >
            <span className="truncate text-ink2">{word}</span>
            <span className="mono truncate" title={source}>
              {source}
            </span>
            {shaped && (
              <span className="mono col-start-2 truncate text-[11px] text-ink2" title={shaped}>
                {shaped}
              </span>
            )}
            {problem ? (
              <span className="col-start-2 text-[11px] text-fault">{problem}</span>
            ) : (
              followed && <span className="mono col-start-2 text-[11px] text-live">{wordsOfValue(now)}</span>
            )}
          </button>
        </Popover.Trigger>
        {followed && (
          <button
            type="button"
            className="p-1 text-ink3 hover:text-ink"
            aria-label={`Let ${word} follow nothing`}
            onClick={() => follow(row, property, null)}
          >
            <X size={12} />
          </button>
        )}
      </div>
      <Popover.Portal>
        <Popover.Content
          side="left"
          align="start"
          collisionPadding={8}
          className="z-30 max-h-[88vh] overflow-y-auto border border-line bg-raised shadow-lg"
          aria-label={`What ${word} follows`}
        >
          <FollowForm row={row} live={live} followed={followed} close={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

/** An expression of an element stands where one of an indicator would. */
const asBinding = (row: ElementRow, property: ElementProperty, { variable, show }: Followed): BindingRow => ({
  id: `${row.id} ${property}`,
  partId: '',
  position: 0,
  on: true,
  settings: { kind: 'needle', variable, show, onlyWhile: null, rest: 'out' },
})

const nothing: Followed = { variable: null, show: 'input' }

const FollowForm = ({
  row,
  live: { property, word, wanted },
  followed = nothing,
  close,
}: {
  row: ElementRow
  live: LiveProperty
  followed: Followed | undefined
  close: () => void
}) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const [part, setPart] = useState<'variable' | 'shaping'>(
    followed.variable === null && followed.show !== 'input' ? 'shaping' : 'variable',
  )
  const binding = useMemo(() => asBinding(row, property, followed), [row, property, followed])
  const place = useMemo(
    () => placeOf(rig, index, binding, 'shaping', undefined, wanted),
    [rig, index, binding, wanted],
  )
  const put = (to: Partial<Followed>) => follow(row, property, { ...followed, ...to })
  return (
    <div className="flex w-[600px] flex-col">
      <div className="flex items-center gap-3 border-b border-line px-3 py-2">
        <b className="flex-1 text-[13px]">
          {word} of “{row.name}”
        </b>
        <Segments
          label="What is chosen"
          words={{ variable: 'Variable', shaping: 'Shaping' }}
          is={part}
          choose={setPart}
        />
      </div>
      {part === 'variable' ? (
        <SimulatorPicker
          forControl={false}
          current={followed.variable}
          choose={(found) => {
            put({ variable: found.info.name })
            close()
          }}
          leave={close}
        />
      ) : (
        <div className="flex flex-col gap-2 p-3">
          <ShapingSteps
            source={followed.show}
            place={place}
            free={followed.variable === null}
            take={(show) => put({ show })}
          />
          <ExpressionField
            binding={binding}
            use="shaping"
            wanted={wanted}
            label={`Expression for ${word}`}
            value={followed.show}
            emptyMeans={null}
            take={(show) => put({ show: show ?? 'input' })}
          />
        </div>
      )}
    </div>
  )
}

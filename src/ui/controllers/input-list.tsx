'use client'
import { useEffect, useMemo, useRef } from 'react'
import type { ControllerInput } from '@/core/controllers/capabilities'
import { partsByPin, plainParts, type Taken, takingParts } from '@/core/controllers/take'
import type { BoardRow, PartRow } from '@/core/rig/rows'
import { select } from '../live/connection'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { useController } from './controller-store'

/** Takes inputs as parts, in one edit. */
export const take = (board: BoardRow, taken: readonly Taken[], sentence: string): void => {
  const { rig } = useStore.getState()
  edit(
    sentence,
    takingParts(rig, board, taken, () => crypto.randomUUID()),
  )
}

/** Hats are worked as one: their sides are one line. */
interface Line {
  readonly name: string
  readonly inputs: readonly ControllerInput[]
}

const linesOf = (inputs: readonly ControllerInput[]): Line[] => {
  const hats = new Map<string, ControllerInput[]>()
  const lines: Line[] = []
  for (const input of inputs) {
    if (input.is !== 'hat side') {
      lines.push({ name: input.name, inputs: [input] })
      continue
    }
    const hat = input.name.replace(/ \w+$/, '')
    const sides = hats.get(hat)
    if (sides) sides.push(input)
    else {
      const begun = [input]
      hats.set(hat, begun)
      lines.push({ name: hat, inputs: begun })
    }
  }
  return lines
}

/** Everything that can be worked, with where it stands now and the part that it is. */
export const InputList = ({ board, inputs }: { board: BoardRow; inputs: readonly ControllerInput[] }) => {
  const rig = useStore((s) => s.rig)
  const parts = useMemo(() => partsByPin(rig, board), [rig, board])
  const lines = linesOf(inputs)
  const bare = lines.filter((l) => !l.inputs.some((i) => parts.has(i.name)))
  const all = () =>
    take(
      board,
      plainParts(bare.flatMap((l) => l.inputs)),
      `Took ${bare.length} ${bare.length === 1 ? 'input' : 'inputs'} of ${board.name} as parts`,
    )
  return (
    <section aria-label="Inputs" className="flex min-h-0 flex-col">
      <div className="flex items-center gap-2 pb-1.5">
        <h3 className="font-bold">Inputs</h3>
        <span className="text-ink2">
          {bare.length === 0
            ? 'each is a part of the rig'
            : 'an input does something once it is a part: then it is bound, layered and calibrated like any other'}
        </span>
        <button
          type="button"
          className="btn ml-auto"
          data-strong={bare.length > 0}
          disabled={bare.length === 0}
          onClick={all}
        >
          {bare.length === lines.length ? 'Take all as parts' : `Take the other ${bare.length} as parts`}
        </button>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div tabIndex={0} className="min-h-0 flex-1 overflow-y-auto border border-line">
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(330px,1fr))]">
          {lines.map((line) => (
            <InputLine
              key={line.name}
              board={board}
              line={line}
              part={line.inputs.map((i) => parts.get(i.name)).find((p) => p !== undefined)}
            />
          ))}
        </ul>
      </div>
    </section>
  )
}

const InputLine = ({ board, line, part }: { board: BoardRow; line: Line; part: PartRow | undefined }) => {
  const pins = line.inputs.map((i) => i.pin)
  const isTouched = useController((s) => s.touched !== null && pins.includes(s.touched.pin))
  const place = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (isTouched) place.current?.scrollIntoView({ block: 'nearest' })
  }, [isTouched])
  const isAxis = line.inputs[0]?.is === 'axis'
  return (
    <li
      ref={place}
      data-input={line.name}
      data-touched={isTouched}
      className="grid h-[30px] grid-cols-[64px_112px_minmax(0,1fr)_auto] items-center gap-2 border-r border-b border-hair px-2 data-[touched=true]:bg-raised data-[touched=true]:outline data-[touched=true]:outline-2 data-[touched=true]:-outline-offset-2 data-[touched=true]:outline-accent"
    >
      <b className="truncate">{line.name}</b>
      {isAxis ? <AxisNow pin={pins[0] ?? 0} code={line.inputs[0]?.code ?? 0} /> : <ContactsNow line={line} />}
      {part ? (
        <button
          type="button"
          className="truncate text-left underline decoration-hair underline-offset-2 hover:decoration-ink"
          title={`Show ${part.name} and its paths`}
          onClick={() => {
            select(part.id)
            useStore.setState({ ownSheet: null })
          }}
        >
          {part.name}
        </button>
      ) : (
        <span className="text-ink2">no part yet</span>
      )}
      {part ? (
        <span />
      ) : (
        <button
          type="button"
          className="btn h-[21px]"
          aria-label={`Take ${line.name} as a part`}
          onClick={() => take(board, plainParts(line.inputs), `Took ${line.name} of ${board.name} as a part`)}
        >
          Take
        </button>
      )}
    </li>
  )
}

/** The level of an axis as it says itself, and where that is on its way. */
const AxisNow = ({ pin, code }: { pin: number; code: number }) => {
  const value = useController((s) => s.raw.get(pin) ?? 0)
  const range = useController((s) => s.hello?.axes.find((a) => a.code === code))
  const share = range && range.most > range.least ? (value - range.least) / (range.most - range.least) : 0
  return (
    <span className="flex items-center gap-1.5">
      <span className="mono w-[46px] text-right">{value}</span>
      <svg width="56" height="10" aria-hidden>
        <path d="M0.5 9.500h55" stroke="var(--line)" />
        <rect x={0} y={3} width={Math.max(0, Math.min(56, share * 56))} height={5} fill="var(--live)" />
      </svg>
    </span>
  )
}

/** Whether contacts are closed: a filled mark and a word. */
const ContactsNow = ({ line }: { line: Line }) => {
  const words = useController((s) => {
    const [first] = line.inputs
    if (first?.is === 'button') return (s.raw.get(first.pin) ?? 0) === 0 ? 'open' : 'closed'
    const closed = line.inputs.filter((i) => (s.raw.get(i.pin) ?? 0) * (i.sign ?? 1) > 0)
    return closed.length === 0 ? 'open' : closed.map((i) => i.name.split(' ').at(-1)).join(' ')
  })
  return (
    <span className="flex items-center gap-1.5">
      <svg width="10" height="10" aria-hidden>
        <circle
          cx="5"
          cy="5"
          r="4"
          fill={words === 'open' ? 'none' : 'var(--live)'}
          stroke={words === 'open' ? 'var(--ink3)' : 'var(--live)'}
        />
      </svg>
      <span className={words === 'open' ? 'text-ink2' : 'font-bold'}>{words}</span>
    </span>
  )
}

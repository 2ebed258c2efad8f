'use client'
import { type KeyboardEvent, type ReactNode, useMemo, useRef, useState } from 'react'
import type { AspectSettings } from '@/core/aspects/aspects'
import { type ColourSettings, lampsOf } from '@/core/aspects/colour'
import { bendFor, type LightCurve, strengthOf, type Trial } from '@/core/aspects/light'
import { thenOf } from '@/core/calibration/calibrated'
import type { Step } from '@/core/calibration/guide'
import type { Aspect, ColourAspect, DigitsAspect, LampAspect, TextAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { changeRow } from '@/core/rig/edit'
import { lightingsOf, partsOf } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { orderFrom } from '@/core/signal/colours'
import { put } from '../editors/change-aspect'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Figure } from './figure'
import { useHeld } from './held'
import { sound } from './tone'
import type { CalibrateProps } from './work-props'
import { Workplace } from './workplace'

type LightAspect = LampAspect | DigitsAspect | ColourAspect | TextAspect
type At = 'order' | 'count' | 'least' | 'most' | 'half' | 'contrast' | 'done'
type Seen = 'R' | 'G' | 'B'

const stepWords: Record<Exclude<At, 'done'>, string> = {
  order: 'Its colours',
  count: 'All its lamps',
  least: 'Just seen',
  most: 'Bright enough',
  half: 'Half as bright',
  contrast: 'Contrast',
}

const stepsOf = (aspect: LightAspect): readonly Exclude<At, 'done'>[] => {
  if (aspect.kind === 'text') return ['contrast']
  const curve = ['least', 'most', 'half'] as const
  if (aspect.kind !== 'colour') return curve
  return aspect.lamps > 1 ? ['order', 'count', ...curve] : ['order', ...curve]
}

/** How strongly something shines that is to be dimmed until it is just seen. */
const BEGINS = 0.2

/** The finest step of strength that can be told: digits have fifteen, lamps 255. */
const finest = (aspect: LightAspect): number => (aspect.kind === 'digits' ? 1 / 15 : 1 / 255)

const percent = (share: number): string => `${Math.round(share * 100)} %`

/** A lamp, a window of digits, a strip, a text display: how strongly it has to shine to be as bright as it is asked to be. */
export const LightPlace = ({ part, aspect }: CalibrateProps<LightAspect>) => {
  const rig = useStore((s) => s.rig)
  const found = part.settings.aspects?.[aspect.id]
  const own = found?.kind === aspect.kind ? found : undefined
  const curve = own as LightCurve | undefined
  const strip = own?.kind === 'colour' ? own : undefined
  const order = stepsOf(aspect)
  const [at, setAt] = useState<At>(order[0] ?? 'done')
  const [strength, setStrength] = useState(curve?.least ?? BEGINS)
  const [atFull, setAtFull] = useState(false)
  const [seen, setSeen] = useState<Seen | null>(null)
  const [objection, setObjection] = useState<string | null>(null)
  const [lamps, setLamps] = useState(aspect.kind === 'colour' ? lampsOf(aspect, strip) : 1)
  const surface = useRef<HTMLDivElement>(null)
  const most = curve?.most ?? 1
  const shown = atFull ? most : strength
  const trial = useMemo((): Trial | null => {
    if (at === 'done') return null
    if (at === 'order') return { strength: 1, colour: seen === null ? '#ff0000' : '#00ff00' }
    if (at === 'count') return { strength: 0.4, lamps }
    return { strength: shown }
  }, [at, seen, lamps, shown])
  useHeld(part, aspect.id, trial)
  const take = (more: Partial<ColourSettings>) => {
    const measured = thenOf(rig, part, aspect, new Date())
    put(part, aspect, { ...own, kind: aspect.kind, measured, ...more } as AspectSettings)
  }
  const enter = (step: At) => {
    setAt(step)
    setSeen(null)
    setAtFull(false)
    setObjection(null)
    if (step === 'least') setStrength(curve?.least ?? BEGINS)
    if (step === 'most') setStrength(most)
    if (step === 'half') setStrength(strengthOf(curve, 0.5))
    surface.current?.focus()
  }
  const goOn = () => enter(order[order.indexOf(at as (typeof order)[number]) + 1] ?? 'done')
  const saw = (what: Seen) => {
    if (seen === null) return setSeen(what)
    const real = orderFrom(strip?.order, seen, what)
    sound(real ? 'taken' : 'not yet')
    if (real === null) {
      setSeen(null)
      return setObjection('It cannot show the same for both: look once more.')
    }
    setObjection(null)
    if (real === (strip?.order ?? 'GRB')) return goOn()
    take({ order: real })
    setSeen(null)
  }
  const taken = () => {
    const round = (x: number) => Number(x.toFixed(3))
    if (at === 'half' && (strength <= (curve?.least ?? 0) || strength >= most)) {
      sound('not yet')
      return setObjection(
        'That is no brighter than just seen, or as bright as it gets: between the two is half.',
      )
    }
    if (at === 'most' && strength <= (curve?.least ?? 0)) {
      sound('not yet')
      return setObjection('That is no brighter than just seen.')
    }
    sound('taken')
    if (at === 'count') take({ lamps })
    if (at === 'least') take({ least: round(strength) })
    if (at === 'most') take({ most: round(strength) })
    if (at === 'half') take({ bend: bendFor(curve?.least ?? 0, most, strength) })
    goOn()
  }
  const nudge = (steps: number) => {
    setObjection(null)
    if (at === 'count') setLamps((n) => Math.min(1000, Math.max(1, n + Math.sign(steps))))
    else setStrength((s) => Math.min(1, Math.max(finest(aspect), s + steps * finest(aspect))))
  }
  const isByHand = at === 'least' || at === 'most' || at === 'half' || at === 'count'
  const far = aspect.kind === 'digits' ? 3 : 16
  const keyDown = (e: KeyboardEvent) => {
    if (e.target !== e.currentTarget || !isByHand) return
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowUp: far, ArrowDown: -far }[e.key]
    if (e.key === 'Enter') taken()
    else if (by !== undefined) nudge(by)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const done = (id: Exclude<At, 'done'>) => at === 'done' || order.indexOf(id) < order.indexOf(at)
  const steps: Step[] = order.map((id) => ({ id, words: stepWords[id], done: done(id) }))
  return (
    <Workplace
      part={part}
      aspect={aspect}
      steps={steps}
      asking={
        <div
          ref={surface}
          role="application"
          aria-label="Light"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: its keys dim the light
          tabIndex={0}
          className="min-h-[118px]"
          onKeyDown={keyDown}
        >
          <p role="status" className="text-[30px] leading-9 font-bold">
            {says(at, seen)}
          </p>
          <p className="mt-0.5 text-[15px] leading-5 text-ink2">{hints[at]}</p>
          {objection && (
            <p role="alert" className="mt-1 text-[15px] leading-5 text-warn">
              <span aria-hidden="true">◇ </span>
              {objection}
            </p>
          )}
          <p className="mt-2 flex flex-wrap items-center gap-1.5">
            {at === 'order' &&
              colours.map(([what, words]) => (
                <button
                  key={what}
                  type="button"
                  className="btn h-[30px] px-3 text-[14px]"
                  onClick={() => saw(what)}
                >
                  {words}
                </button>
              ))}
            {isByHand && (
              <>
                <Nudge by={-1} nudge={nudge}>
                  {at === 'count' ? 'One fewer' : 'Darker'}
                </Nudge>
                <Nudge by={1} nudge={nudge}>
                  {at === 'count' ? 'One more' : 'Brighter'}
                </Nudge>
                {at === 'half' && (
                  <button
                    type="button"
                    className="btn h-[30px] px-2.5 text-[14px]"
                    aria-pressed={atFull}
                    onClick={() => setAtFull((f) => !f)}
                  >
                    Full, to compare
                  </button>
                )}
                <button
                  type="button"
                  className="btn h-[30px] px-3 text-[14px]"
                  data-strong="true"
                  onClick={taken}
                >
                  {at === 'count' ? 'These are all' : 'Take it'}
                </button>
              </>
            )}
            {at === 'contrast' && (
              <button
                type="button"
                className="btn h-[30px] px-3 text-[14px]"
                data-strong="true"
                onClick={() => {
                  sound('taken')
                  goOn()
                }}
              >
                It can be read
              </button>
            )}
            {at !== order[0] && (
              <button type="button" className="btn h-[30px]" onClick={() => enter(order[0] as At)}>
                Begin anew
              </button>
            )}
          </p>
        </div>
      }
      figures={
        aspect.kind === 'text' ? null : (
          <>
            {isByHand && at !== 'count' && <Figure word="Shines with">{percent(shown)}</Figure>}
            {at === 'count' && <Figure word="Lamps lit">{lamps}</Figure>}
            <Figure word="Just seen with">{percent(curve?.least ?? 0)}</Figure>
            <Figure word="Brightest with">{percent(most)}</Figure>
            {aspect.kind === 'colour' && (
              <>
                <Figure word="Colours in order">{strip?.order ?? 'GRB'}</Figure>
                <Figure word="Its lamps">{lampsOf(aspect, strip)}</Figure>
              </>
            )}
          </>
        )
      }
    >
      <div className="flex flex-wrap items-start gap-5">
        {aspect.kind !== 'text' && (
          <CurveChart curve={curve} now={isByHand && at !== 'count' ? shown : null} />
        )}
        {aspect.kind !== 'text' && (
          <div className="flex min-w-[220px] flex-1 flex-col gap-3 text-[12px]">
            <Group part={part} />
            <Others part={part} aspect={aspect} curve={curve} />
          </div>
        )}
      </div>
    </Workplace>
  )
}

const colours: readonly [Seen, string][] = [
  ['R', 'Red'],
  ['G', 'Green'],
  ['B', 'Blue'],
]

const says = (at: At, seen: Seen | null): string => {
  switch (at) {
    case 'order':
      return seen === null ? 'It is told to be red. What is it?' : 'Now it is told to be green. What is it?'
    case 'count':
      return 'Until the last lamp is lit, and no further.'
    case 'least':
      return 'So dark that it is just seen.'
    case 'most':
      return 'As bright as you want it.'
    case 'half':
      return 'Half as bright as that.'
    case 'contrast':
      return 'Turn the screw on its back.'
    case 'done':
      return 'It is as your eye has it.'
  }
}

const hints: Record<At, string> = {
  order: 'What your eye sees is taken, whatever the strip was sold as.',
  count: '← → one lamp. Enter when the last is lit.',
  least: 'In the dark, from your seat. ← → a step, ↑ ↓ several. Enter takes it.',
  most: 'By day, from your seat. ← → a step, ↑ ↓ several. Enter takes it.',
  half: 'Compare with full, and trust your eye. Enter takes it.',
  contrast: 'Until the digits are dark and the empty places beside them are not seen.',
  done: 'Dimmed to half it looks half as bright; at the bottom of its dimmer it is just seen, or out.',
}

const Nudge = ({ by, nudge, children }: { by: number; nudge: (by: number) => void; children: ReactNode }) => (
  <button type="button" className="btn h-[30px] px-2.5 text-[14px]" onClick={() => nudge(by)}>
    {children}
  </button>
)

const WIDE = 250
const HIGH = 170
const PAD = 28
const RIGHT = 16

/** How strongly it shines for how bright it is to be, with where it is now. */
const CurveChart = ({ curve, now }: { curve: LightCurve | undefined; now: number | null }) => {
  const x = (share: number) => PAD + share * (WIDE - PAD - RIGHT)
  const y = (share: number) => HIGH - PAD - share * (HIGH - PAD - 8)
  const points = Array.from({ length: 41 }, (_, i) => {
    const share = Math.max(1e-6, i / 40)
    return `${x(share).toFixed(1)} ${y(strengthOf(curve, share)).toFixed(1)}`
  })
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-[250px] shrink-0"
      role="img"
      aria-label="Strength by brightness"
    >
      {[0, 0.5, 1].map((v) => (
        <g key={v} className="text-[10px]" fill="var(--ink2)">
          <path d={`M${x(0)} ${y(v)}H${x(1)}M${x(v)} ${y(0)}V${y(1)}`} stroke="var(--hair)" fill="none" />
          <text x={x(0) - 4} y={y(v) + 3} textAnchor="end">
            {v * 100}
          </text>
          <text x={x(v)} y={y(0) + 12} textAnchor="middle">
            {v * 100}
          </text>
        </g>
      ))}
      <text x={x(0.5)} y={HIGH - 3} textAnchor="middle" className="text-[11px]" fill="var(--ink2)">
        bright, % · shines with, % ↑
      </text>
      <path d={`M${points.join('L')}`} fill="none" stroke="var(--accent)" strokeWidth={2} />
      {now !== null && (
        <path
          d={`M${x(0)} ${y(now)}H${x(1)}`}
          stroke="var(--warn)"
          strokeDasharray="4 3"
          data-strength={now.toFixed(3)}
        />
      )}
    </svg>
  )
}

/** With which group of lights it is dimmed. */
const Group = ({ part }: { part: PartRow }) => {
  const rig = useStore((s) => s.rig)
  const groups = lightingsOf(rig)
  const choose = (id: string) => {
    const { lighting: _, ...settings } = part.settings
    const next = id === '' ? settings : { ...settings, lighting: id }
    const name = groups.find((g) => g.id === id)?.name
    edit(name ? `“${part.name}” is dimmed with ${name}` : `“${part.name}” is dimmed by nothing`, [
      changeRow('part', part, { ...part, settings: next }),
    ])
  }
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <label className="flex items-center gap-1.5 text-ink2">
        Dimmed with
        <select
          aria-label="Dimmed with"
          value={part.settings.lighting ?? ''}
          onChange={(e) => choose(e.target.value)}
          className="h-6 py-0"
        >
          <option value="">nothing</option>
          {groups.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="btn" onClick={() => useStore.setState({ lightingOpen: true })}>
        Groups of lights …
      </button>
    </div>
  )
}

/** Gives the curve to all others of the same kind: they were made alike, so they shine alike. */
const Others = ({
  part,
  aspect,
  curve,
}: {
  part: PartRow
  aspect: Aspect
  curve: LightCurve | undefined
}) => {
  const rig = useStore((s) => s.rig)
  const others = partsOf(rig, part.panelId).filter((p) => p.kind === part.kind && p.id !== part.id)
  if (!curve || others.length === 0) return null
  const give = () => {
    const { least, most, bend } = curve
    const same = Object.fromEntries(Object.entries({ least, most, bend }).filter(([, v]) => v !== undefined))
    edit(
      `Gave the brightness of “${part.name}” to ${others.length} others`,
      others.flatMap((p) => {
        const theirs = p.settings.aspects?.[aspect.id]
        const next = { ...theirs, kind: aspect.kind, ...same } as AspectSettings
        const aspects = { ...p.settings.aspects, [aspect.id]: next }
        return changeRow('part', p, { ...p, settings: { ...p.settings, aspects } }) ?? []
      }),
    )
  }
  const name = partKind(part.kind)?.name ?? part.kind
  return (
    <p>
      <button type="button" className="btn" title={`${name} on this panel`} onClick={give}>
        {others.length === 1
          ? 'The same for the other one of its kind'
          : `The same for ${others.length} others of its kind`}
      </button>
    </p>
  )
}

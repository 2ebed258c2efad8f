'use client'
import { useMemo, useRef, useState } from 'react'
import type { AspectSettings } from '@/core/aspects/aspects'
import { type ColourOwn, lampsOf } from '@/core/aspects/colour'
import { bendFor, type LightCurve, strengthOf } from '@/core/aspects/light'
import type { Trial } from '@/core/aspects/trial'
import { thenOf } from '@/core/calibration/calibrated'
import type { Step } from '@/core/calibration/guide'
import { orderFrom } from '@/core/signal/colours'
import { put } from '../editors/change-aspect'
import { useStore } from '../live/store'
import { ByHand, HandButton } from './by-hand'
import { Figure } from './figure'
import { useHeld } from './held'
import { Group, Others } from './light-company'
import { CurveChart } from './light-curve'
import {
  colours,
  hints,
  type LightAspect,
  type LightStep,
  type Seen,
  says,
  stepsOf,
  stepWords,
} from './light-steps'
import { sound } from './tone'
import type { CalibrateProps } from './work-props'
import { Workplace } from './workplace'

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
  const [at, setAt] = useState<LightStep>(order[0] ?? 'done')
  const [strength, setStrength] = useState(curve?.least ?? BEGINS)
  const [atFull, setAtFull] = useState(false)
  const [seen, setSeen] = useState<Seen | null>(null)
  const [objection, setObjection] = useState<string | null>(null)
  const driven = aspect.kind === 'colour' ? lampsOf(aspect, strip) : 1
  const [lamps, setLamps] = useState(driven)
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
  const take = (more: Partial<ColourOwn>) => {
    const measured = thenOf(rig, part, aspect, new Date())
    put(part, aspect, { ...own, kind: aspect.kind, measured, ...more } as AspectSettings)
  }
  const enter = (step: LightStep) => {
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
    if (at === 'count') {
      take({ lamps })
      // More than its board drives are seen once it is loaded with them.
      if (lamps > driven) return
    }
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
  const done = (id: Exclude<LightStep, 'done'>) => at === 'done' || order.indexOf(id) < order.indexOf(at)
  const steps: Step[] = order.map((id) => ({ id, words: stepWords[id], done: done(id) }))
  return (
    <Workplace
      part={part}
      aspect={aspect}
      steps={steps}
      asking={
        <ByHand
          ref={surface}
          label="Light"
          says={says(at, seen)}
          hint={
            at === 'count' && lamps > driven
              ? `Its board drives ${driven} so far: take it, load the board, and count on.`
              : hints[at]
          }
          objection={objection}
          steps={isByHand ? { step: 1, far: aspect.kind === 'digits' ? 3 : 16 } : null}
          nudge={nudge}
          take={taken}
        >
          {at === 'order' &&
            colours.map(([what, words]) => (
              <HandButton key={what} take={() => saw(what)}>
                {words}
              </HandButton>
            ))}
          {isByHand && (
            <>
              <HandButton take={() => nudge(-1)}>{at === 'count' ? 'One fewer' : 'Darker'}</HandButton>
              <HandButton take={() => nudge(1)}>{at === 'count' ? 'One more' : 'Brighter'}</HandButton>
              {at === 'half' && (
                <HandButton pressed={atFull} take={() => setAtFull((f) => !f)}>
                  Full, to compare
                </HandButton>
              )}
              <HandButton strong take={taken}>
                {at === 'count' ? 'These are all' : 'Take it'}
              </HandButton>
            </>
          )}
          {at === 'contrast' && (
            <HandButton
              strong
              take={() => {
                sound('taken')
                goOn()
              }}
            >
              It can be read
            </HandButton>
          )}
          {at !== order[0] && (
            <button type="button" className="btn h-[30px]" onClick={() => enter(order[0] as LightStep)}>
              Begin anew
            </button>
          )}
        </ByHand>
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
                <Figure word="Its lamps">{driven}</Figure>
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

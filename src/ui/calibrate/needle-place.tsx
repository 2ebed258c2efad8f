'use client'
import { useEffect, useMemo, useRef, useState } from 'react'
import { APART_US, type NeedleSettings } from '@/core/aspects/needle'
import { PULSES_US } from '@/core/aspects/trial'
import { thenOf } from '@/core/calibration/calibrated'
import type { Step } from '@/core/calibration/guide'
import { centredZero, keepPair, leadsFrom, outOfReach, type SeenToDo } from '@/core/calibration/motor'
import { kindOf } from '@/core/catalogue/own-kind'
import type { NeedleAspect } from '@/core/catalogue/part-kind'
import { leadsCuredOn } from '@/core/harness/wiring'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { needleAngle } from '@/core/signal/needle'
import { put } from '../editors/change-aspect'
import { firstPoints, PaceFields } from '../editors/needle-form'
import { NumberField } from '../editors/number-field'
import { useKeyed } from '../live/keyed-values'
import { parts, useStore } from '../live/store'
import { Segments } from '../primitives/segments'
import { ByHand, HandButton } from './by-hand'
import { DialSheet } from './dial-sheet'
import { FaceForm } from './face-form'
import { Figure } from './figure'
import { useHeld } from './held'
import {
  answers,
  hintOf,
  MIDDLE_US,
  MIXED,
  type NeedleStep,
  nudges,
  orders,
  PULSE_FAR_US,
  PULSE_STEP_US,
  pulseNudges,
  STEP_DEG,
  says,
  stepWords,
} from './needle-steps'
import { PointTable } from './point-table'
import { QuickEnough } from './quick-enough'
import { SameFor } from './same-for'
import { sound } from './tone'
import type { CalibrateProps } from './work-props'
import { Workplace } from './workplace'

/** From one end of the trial to the other. */
const TRIAL_MS = 1800

/** A needle: which way it turns, where its zero is, which value stands where, how far and how quickly it goes. */
export const NeedlePlace = ({ part, aspect }: CalibrateProps<NeedleAspect>) => {
  const dial: NeedleSettings = settingsOf(part.settings, aspect.id, 'needle') ?? {
    kind: 'needle',
    points: firstPoints,
  }
  const { points } = dial
  const zero = dial.zeroDeg ?? -aspect.travelDeg / 2
  const [low, high] = [
    Math.max(zero, dial.leastDeg ?? Number.NEGATIVE_INFINITY),
    Math.min(zero + aspect.travelDeg, dial.mostDeg ?? Number.POSITIVE_INFINITY),
  ]
  const order = orders[aspect.drive]
  const [at, setAt] = useState<NeedleStep>(order[0] as NeedleStep)
  const [deg, setDeg] = useState<number | null>(null)
  const [us, setUs] = useState(dial.leastUs ?? MIDDLE_US)
  const isPulse = at === 'shortest' || at === 'longest'
  const [isForward, setForward] = useState(false)
  const [beyondCure, setBeyondCure] = useState(false)
  const [value, setValue] = useState<number | null>(null)
  const [side, setSide] = useState<keyof typeof sides>('points')
  const surface = useRef<HTMLDivElement>(null)
  const rig = useStore((s) => s.rig)
  const trial = useMemo(() => (isPulse ? { pulseUs: us } : deg === null ? null : { deg }), [isPulse, us, deg])
  useHeld(part, aspect.id, trial)
  // Until its zero is known, its limits lie askew as well: then only what its motor can turn counts.
  const go = (to: number, isZero = at === 'first') => {
    const [least, most] = isZero ? [zero, zero + aspect.travelDeg] : [low, high]
    setDeg(Number(Math.min(most, Math.max(least, to)).toFixed(2)))
  }
  // The trial goes to and fro until somebody has said what is to be seen.
  useEffect(() => {
    if (at !== 'way') return
    const turn = (forward: boolean) => {
      setForward(forward)
      setDeg(Number((low + (high - low) * (forward ? 0.65 : 0.35)).toFixed(2)))
    }
    let forward = false
    turn(false)
    const again = setInterval(() => {
      forward = !forward
      turn(forward)
    }, TRIAL_MS)
    return () => clearInterval(again)
  }, [at, low, high])
  const first = points[0]
  const last = points.at(-1)
  // One that has no leads to be tried stands on its first mark at once.
  useEffect(() => {
    if (at === 'first' && deg === null && first) setDeg(first.deg)
  }, [at, deg, first])
  const take = (more: Partial<NeedleSettings>) => put(part, aspect, { ...dial, ...more })
  const enter = (step: NeedleStep) => {
    setAt(step)
    if (step === 'shortest') setUs(dial.leastUs ?? MIDDLE_US)
    if (step === 'longest') setUs(dial.mostUs ?? MIDDLE_US)
    if (step === 'first' && first) go(first.deg, true)
    if (step === 'last' && last) go(last.deg, false)
    surface.current?.focus()
  }
  const saw = (seen: SeenToDo) => {
    const next = leadsFrom(dial.leads ?? null, seen)
    sound(next ? 'not yet' : 'taken')
    setBeyondCure(false)
    if (!next) return enter('first')
    const cured = leadsCuredOn(rig, part, aspect)
    const isBeyond = next.leads !== null && !cured.includes(next.leads)
    setBeyondCure(isBeyond)
    if (isBeyond) return
    const { leads: _, ...rest } = dial
    put(part, aspect, next.leads === null ? rest : { ...rest, leads: next.leads })
  }
  const atEnd = () => {
    const isShortest = at === 'shortest'
    const other = isShortest ? (dial.mostUs ?? PULSES_US.most) : (dial.leastUs ?? PULSES_US.least)
    const isApart = isShortest ? other - us >= APART_US : us - other >= APART_US
    sound(isApart ? 'taken' : 'not yet')
    if (!isApart) return
    take(isShortest ? { leastUs: us } : { mostUs: us })
    enter(isShortest ? 'longest' : 'first')
  }
  const stands = () => {
    if (isPulse) return atEnd()
    if (deg === null) return
    sound('taken')
    if (at === 'first' && first) {
      // It stands on the mark: what the motor is at there is what the mark says.
      const measured = thenOf(rig, part, aspect, new Date())
      put(part, aspect, { ...dial, zeroDeg: Number((zero + first.deg - deg).toFixed(2)), measured })
      enter('last')
    } else if (at === 'last' && last) {
      if (deg !== last.deg) take({ points: keepPair(points, { value: last.value, deg }) })
      enter('marks')
    } else if (at === 'marks' && value !== null) take({ points: keepPair(points, { value, deg }) })
  }
  const nudge = (by: number) => {
    if (!isPulse) return go((deg ?? first?.deg ?? 0) + by)
    const step = Math.abs(by) > STEP_DEG ? PULSE_FAR_US : PULSE_STEP_US
    setUs((now) => Math.min(PULSES_US.most, Math.max(PULSES_US.least, now + Math.sign(by) * step)))
  }
  const steps: Step[] = order.map((id) => ({
    id,
    words: stepWords[id],
    done: order.indexOf(id) < order.indexOf(at),
  }))
  const beyond = outOfReach(dial, aspect.travelDeg)
  return (
    <Workplace
      part={part}
      aspect={aspect}
      steps={steps}
      asking={
        <ByHand
          ref={surface}
          label="Needle"
          says={says(at, isForward, (at === 'first' ? first : last)?.value ?? 0)}
          hint={hintOf(at)}
          objection={beyondCure ? MIXED : null}
          steps={at === 'way' ? null : { step: STEP_DEG, far: 5 }}
          nudge={nudge}
          take={stands}
        >
          {at === 'way' ? (
            answers.map(([seen, words]) => (
              <HandButton key={seen} take={() => saw(seen)}>
                {words}
              </HandButton>
            ))
          ) : (
            <>
              {(isPulse ? pulseNudges : nudges).map(([by, words]) => (
                <HandButton key={words} take={() => nudge(by)}>
                  {words}
                </HandButton>
              ))}
              {at === 'marks' && (
                <NumberField
                  label="value there"
                  unit=""
                  least={-1e9}
                  most={1e9}
                  value={value ?? undefined}
                  take={setValue}
                />
              )}
              <HandButton
                strong
                disabled={!isPulse && (deg === null || (at === 'marks' && value === null))}
                take={stands}
              >
                {isPulse ? 'It stands at its end' : at === 'marks' ? 'Keep the pair' : 'It stands on it'}
              </HandButton>
              <button type="button" className="btn h-[30px]" onClick={() => enter(order[0] as NeedleStep)}>
                Begin anew
              </button>
            </>
          )}
        </ByHand>
      }
      figures={
        <>
          <Figure word="Driven to">{isPulse ? `${us} µs` : deg === null ? '–' : `${deg.toFixed(1)}°`}</Figure>
          {aspect.sensor !== undefined && <Seen part={part} needleId={aspect.id} />}
          {aspect.drive === 'servo' && (
            <Figure word="Its pulses">
              {dial.leastUs ?? PULSES_US.least} to {dial.mostUs ?? PULSES_US.most} µs
            </Figure>
          )}
          <Figure word="Its motor’s zero">{zero.toFixed(1)}°</Figure>
          {aspect.drive === 'four-wire' && <Figure word="Its leads">{dial.leads ?? 'straight'}</Figure>}
          <Figure word="Its motor">
            {aspect.travelDeg}°, {dial.degPerS ?? aspect.degPerS}
            {aspect.drive === 'frequency' ? ' Hz' : ' °/s'}
          </Figure>
          <QuickEnough part={part} aspect={aspect} dial={dial} />
        </>
      }
    >
      <div className="flex items-start gap-4">
        <DialSheet part={part} aspect={aspect} dial={dial} deg={isPulse ? null : deg} />
        <div className="min-w-0 flex-1">
          <div className="mb-2 flex">
            <Segments label="What is shown of it" words={sides} is={side} choose={setSide} />
          </div>
          {side === 'face' ? (
            <FaceForm part={part} aspect={aspect} dial={dial} />
          ) : (
            <>
              <PointTable
                points={points}
                beyond={beyond}
                show={(p) => {
                  if (at === 'way') setAt('marks')
                  go(needleAngle(points, dial.smooth)(p.value))
                }}
                put={(next) => take({ points: [...next] })}
              />
              <p className="mt-1.5 flex flex-wrap items-center gap-3 text-[12px]">
                <label className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={dial.smooth ?? false}
                    onChange={(e) => take({ smooth: e.target.checked })}
                  />
                  smooth between them
                </label>
                <button
                  type="button"
                  className="btn"
                  title="The scale in the middle of what the motor can turn, so that it never meets its stop"
                  onClick={() => take({ zeroDeg: centredZero(points, aspect.travelDeg) })}
                >
                  Centre the travel
                </button>
              </p>
              <div className="mt-2 flex flex-wrap items-center gap-3">
                <PaceFields aspect={aspect} dial={dial} take={take} />
              </div>
              <SameFor part={part} aspect={aspect} give={(theirs) => ({ ...theirs, ...pointsOf(dial) })} />
              {beyond.length > 0 && (
                <p role="alert" className="mt-1.5 text-[13px] text-warn">
                  ◇ {beyond.length === 1 ? 'A point lies' : `${beyond.length} points lie`} beyond what the
                  motor reaches: the needle stops at {low.toFixed(0)}° and {high.toFixed(0)}°. Centre the
                  travel, or move the points.
                </p>
              )}
            </>
          )}
        </div>
      </div>
    </Workplace>
  )
}

/** What twins have in common: where their zero is, and how their leads are soldered, is each one's own. */
const pointsOf = ({ points, smooth, leastDeg, mostDeg, homeDeg }: NeedleSettings) => ({
  ...{ points, smooth, leastDeg, mostDeg, homeDeg },
})

const sides = { points: 'Points', face: 'Dial face' } as const

/** Whether the sensor of its zero sees it now. */
const Seen = ({ part, needleId }: { part: PartRow; needleId: string }) => {
  const live = useKeyed(parts, part.id)
  const sensor = kindOf(part)?.aspects.find((a) => a.kind === 'positions' && a.senses === needleId)
  const told = sensor && live?.aspects[sensor.id]?.told
  return (
    <Figure word="Its sensor">
      {told === null || told === undefined ? '–' : told === 'home' ? 'sees it' : 'sees nothing'}
    </Figure>
  )
}

'use client'
import { Volume2, VolumeX } from 'lucide-react'
import { useEffect, useMemo } from 'react'
import { aspectWord } from '@/core/aspects/aspects'
import { measuredOf } from '@/core/calibration/calibrated'
import type { Aspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { select } from '../live/connection'
import { useStore } from '../live/store'
import { Segments } from '../primitives/segments'
import { useCalibrate } from './calibrate-store'
import { kindIds, type MeasuredKindId, measuredAs } from './measured-kind'
import { measuredKinds } from './places'
import { whenWords } from './since'
import { flipSound, recallSound, useSound } from './tone'
import { Itself } from './workplace'

interface Listed {
  readonly part: PartRow
  readonly aspect: Aspect
  /** The aspect's own word, where its part has several that are measured alike. */
  readonly word: string | null
  readonly panel: string
}

const listOf = (rig: Rig, kind: MeasuredKindId): Listed[] =>
  panelsOf(rig).flatMap((panel) =>
    partsOf(rig, panel.id).flatMap((part) => {
      const aspects = (partKind(part.kind)?.aspects ?? []).filter((a) => measuredAs(a) === kind)
      return aspects.map((aspect) => ({
        part,
        aspect,
        word: aspects.length > 1 ? aspect.id : null,
        panel: panel.name,
      }))
    }),
  )

/** The kinds that the rig has, with the word for each; the one that is looked at stays, whatever goes. */
const kindsIn = (rig: Rig, looked: MeasuredKindId): Partial<Record<MeasuredKindId, string>> =>
  Object.fromEntries(
    kindIds
      .filter((id) => id === looked || listOf(rig, id).length > 0)
      .map((id) => [id, measuredKinds[id].word]),
  )

/** What moves is made to agree with the real thing, by measuring. */
export const Calibrate = () => {
  const rig = useStore((s) => s.rig)
  const selected = useStore((s) => s.selected)
  const { kind, aspectId } = useCalibrate()
  const sounds = useSound((s) => s.on)
  const list = useMemo(() => listOf(rig, kind), [rig, kind])
  const kinds = useMemo(() => kindsIn(rig, kind), [rig, kind])
  useEffect(recallSound, [])
  // Whoever selects a part elsewhere means to measure that: its kind is listed then.
  useEffect(() => {
    const part = rig.part[selected ?? '']
    if (!part || list.some((l) => l.part.id === part.id)) return
    const other = kindIds.find((id) => partKind(part.kind)?.aspects.some((a) => measuredAs(a) === id))
    if (other) useCalibrate.setState({ kind: other, aspectId: null })
  }, [selected])
  const mine = list.filter((l) => l.part.id === selected)
  const chosen = mine.find((l) => l.aspect.id === aspectId) ?? mine[0]
  const { Place } = measuredKinds[kind]
  return (
    <section aria-label="Calibrate" className="flex h-full flex-col">
      <div className="flex items-center gap-3 border-b border-line px-3 py-2">
        <h2 className="sr-only">Calibrate</h2>
        <Segments
          label="What is measured"
          words={kinds as Record<MeasuredKindId, string>}
          is={kind}
          choose={(k) => useCalibrate.setState({ kind: k, aspectId: null })}
        />
        {chosen && (
          <p className="min-w-0 flex-1 truncate">
            <b className="text-[14px]">{chosen.part.name}</b>
            {chosen.word && <span className="text-ink2"> · {chosen.word}</span>}{' '}
            <span className="cap ml-1">{chosen.panel}</span>
          </p>
        )}
        <button
          type="button"
          className="btn ml-auto flex items-center gap-1.5"
          aria-pressed={sounds}
          onClick={flipSound}
        >
          {sounds ? <Volume2 size={13} aria-hidden="true" /> : <VolumeX size={13} aria-hidden="true" />}
          {sounds ? 'Sound on' : 'Sound off'}
        </button>
      </div>
      <div className="flex min-h-0 flex-1">
        <div className="flex w-[176px] shrink-0 flex-col border-r border-line 2xl:w-[260px]">
          <ul aria-label="Parts" className="min-h-0 flex-1 overflow-y-auto">
            {list.map((l) => (
              <PartLine key={`${l.part.id} ${l.aspect.id}`} listed={l} on={l === chosen} />
            ))}
            {list.length === 0 && <li className="p-3 text-ink2">This rig has none of these.</li>}
          </ul>
          {chosen && <Itself part={chosen.part} aspect={chosen.aspect} />}
        </div>
        {chosen ? (
          <Place key={`${chosen.part.id} ${chosen.aspect.id}`} part={chosen.part} aspect={chosen.aspect} />
        ) : (
          <p className="p-4 text-[15px] text-ink2">
            {list.length === 0
              ? 'Draw one on a panel first.'
              : 'Choose a part on the left. What it asks for is taken by itself: your hands can stay on the part.'}
          </p>
        )}
      </div>
    </section>
  )
}

const PartLine = ({ listed, on }: { listed: Listed; on: boolean }) => {
  const { part, aspect, word, panel } = listed
  const measured = measuredOf(part, aspect)
  const isWorse = useStore((s) => s.drift.some((d) => d.partId === part.id && d.aspectId === aspect.id))
  return (
    <li>
      <button
        type="button"
        aria-current={on ? 'true' : undefined}
        className={`block w-full border-b border-l-[3px] border-b-hair px-2 py-1 text-left ${on ? 'border-l-accent bg-accent-bg' : 'border-l-transparent hover:text-accent'}`}
        onClick={() => {
          useCalibrate.setState({ aspectId: aspect.id })
          select(part.id)
        }}
      >
        <span className="block truncate">
          {part.name}
          {word && <span className="text-ink2"> · {word}</span>}
        </span>
        <span className="block truncate text-[11px] text-ink2">
          {isWorse && <span className="text-warn">◇ worse since · </span>}
          {measured ? `measured ${whenWords(measured.at)}` : 'not measured'} · {panel}
          <span className="sr-only"> {aspectWord(aspect)}</span>
        </span>
      </button>
    </li>
  )
}

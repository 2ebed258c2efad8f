'use client'
import type { HarnessFinding } from '@/core/harness/findings/finding'
import { findingWords } from '@/core/harness/findings/findings'
import type { BindingFinding } from '@/core/rig/binding-findings'
import { select } from '../live/connection'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { newId, useHarness } from './harness-store'

/** Goes to where a finding is. */
const goTo = ({ place }: HarnessFinding): void => {
  if (place.boardId) useHarness.setState({ boardId: place.boardId })
  const [part] = place.partIds
  if (part) select(part)
  useHarness.setState({ leadId: place.leadIds[0] ?? null })
  if (place.expanderId)
    document
      .querySelector(`[data-expander="${CSS.escape(place.expanderId)}"]`)
      ?.scrollIntoView({ block: 'nearest' })
}

/** What will not work in the wiring, each with its place and, where there is one, its way out. */
export const FindingsList = ({
  findings,
  bindings,
}: {
  findings: readonly HarnessFinding[]
  bindings: readonly BindingFinding[]
}) =>
  findings.length + bindings.length === 0 ? (
    <p className="flex gap-2 p-3 text-[12px]">
      <Mark shape="ok" words="sound" />
      <span>
        Nothing found: ends, abilities, addresses, currents, resistors, supplies, voltages and bindings all
        hold.
      </span>
    </p>
  ) : (
    <ul>
      <CureAll findings={findings} />
      {findings.map((f) => {
        const { cure } = f
        return (
          <li key={f.id} data-finding={f.kind} className="border-b border-hair p-2.5 text-[12px] leading-4">
            <button type="button" className="flex w-full gap-2 text-left" onClick={() => goTo(f)}>
              <Mark
                shape={f.kind === 'open' || f.kind === 'unknown' ? 'warn' : 'fault'}
                words={findingWords[f.kind]}
              />
              <span>
                <span className="cap mr-1">{findingWords[f.kind]}</span>
                {f.words}
              </span>
            </button>
            {cure && (
              <button
                type="button"
                className="btn mt-1.5 ml-5 h-auto py-0.5 text-left whitespace-normal"
                onClick={() => edit(cure.words, cure.changes(newId))}
              >
                {cure.words}
              </button>
            )}
          </li>
        )
      })}
      {bindings.map((f) => (
        <li
          key={f.id}
          data-binding-finding={f.kind}
          className="border-b border-hair p-2.5 text-[12px] leading-4"
        >
          <button
            type="button"
            className="flex w-full gap-2 text-left"
            onClick={() => select(f.partIds[0] ?? null)}
          >
            <Mark shape="warn" words={f.kind} />
            <span>
              <span className="cap mr-1">binding</span>
              {f.words}
            </span>
          </button>
          {f.partIds.length > 1 && (
            <p className="mt-1 ml-5 flex flex-wrap gap-1.5">
              {f.partIds.map((id) => (
                <PartButton key={id} id={id} />
              ))}
            </p>
          )}
        </li>
      ))}
    </ul>
  )

const PartButton = ({ id }: { id: string }) => {
  const name = useStore((s) => s.rig.part[id]?.name)
  return (
    <button type="button" className="btn h-auto py-0.5" onClick={() => select(id)}>
      {name}
    </button>
  )
}

/** Findings of one kind that all have a way out are put right in one edit. */
const CureAll = ({ findings }: { findings: readonly HarnessFinding[] }) => {
  const resistors = findings.filter((f) => f.kind === 'resistor' && f.cure)
  if (resistors.length < 2) return null
  const cure = () => {
    edit(
      `Gave ${resistors.length} lamps the right resistor`,
      resistors.flatMap((f) => f.cure?.changes(newId) ?? []),
    )
  }
  return (
    <li className="flex items-center gap-2 border-b border-hair p-2.5 text-[12px]">
      <span className="flex-1">{resistors.length} lamps have no right resistor</span>
      <button type="button" className="btn" data-strong="true" onClick={cure}>
        Give all of them
      </button>
    </li>
  )
}

'use client'
import type { HarnessFinding } from '@/core/harness/findings/finding'
import { findingWords } from '@/core/harness/findings/findings'
import { select } from '../live/connection'
import { edit } from '../live/edits'
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
export const FindingsList = ({ findings }: { findings: readonly HarnessFinding[] }) =>
  findings.length === 0 ? (
    <p className="flex gap-2 p-3 text-[12px]">
      <Mark shape="ok" words="sound" />
      <span>
        Nothing found: ends, abilities, addresses, currents, resistors, supplies and voltages all hold.
      </span>
    </p>
  ) : (
    <ul>
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
    </ul>
  )

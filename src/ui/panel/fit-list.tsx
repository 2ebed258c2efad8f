'use client'
import { thinnestBridge } from '@/core/layout/fit/bridges'
import { curedBy } from '@/core/layout/fit/cures'
import type { FitFinding, FitKind } from '@/core/layout/fit/finding'
import type { Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { edit } from '../live/edits'
import { Mark } from '../primitives/mark'
import { pick } from '../surface/view-store'

const kindWords: Record<FitKind, string> = {
  'in front': 'in front',
  fingers: 'fingers',
  behind: 'behind',
  bridge: 'bridge',
  edge: 'edge',
  beyond: 'outline',
  'legend under': 'legend',
  angle: 'angle',
  across: 'across the edge',
  twice: 'twice',
  within: 'openings',
  letter: 'letters',
  through: 'hole',
}

/** What will not fit or cannot be made, each with its place and, where there is one, its way out. */
export const FitList = ({
  rig,
  panel,
  findings,
}: {
  rig: Rig
  panel: PanelRow
  findings: readonly FitFinding[]
}) => (
  // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
  <section aria-label="Fit" tabIndex={0} className="h-full overflow-y-auto">
    {findings.length === 0 ? (
      <p className="flex gap-2 p-2.5 text-[12px]">
        <Mark shape="ok" words="fits" />
        <span>
          Everything fits: in front, behind, to the edge, and no bridge is thinner than{' '}
          {formatNumber(thinnestBridge(panel))} mm.
        </span>
      </p>
    ) : (
      <ul>
        {findings.map((f) => (
          <li key={f.id} data-finding={f.kind} className="border-b border-hair p-2.5 text-[12px] leading-4">
            <button
              type="button"
              className="flex w-full gap-2 text-left"
              onClick={() => pick(new Set(f.keys))}
            >
              <Mark shape="fault" words={kindWords[f.kind]} />
              <span>
                <span className="cap mr-1">{kindWords[f.kind]}</span>
                {f.words}
              </span>
            </button>
            {f.cure && (
              <button
                type="button"
                className="btn mt-1.5 ml-5 h-auto py-0.5 text-left whitespace-normal"
                onClick={() => {
                  const { cure } = f
                  if (cure) edit(cure.words, curedBy(rig, panel, cure))
                }}
              >
                {f.cure.words}
              </button>
            )}
          </li>
        ))}
      </ul>
    )}
  </section>
)

'use client'
import { useMemo } from 'react'
import type { KnownLimits } from '@/core/harness/findings/capacity'
import { type HarnessFinding, partsThatCannotWork } from '@/core/harness/findings/finding'
import { harnessFindings } from '@/core/harness/findings/findings'
import { type BindingFinding, bindingFindings } from '@/core/rig/binding-findings'
import { useStore } from './store'

/** What is found in the wiring of the rig on the page, with what its boards have said that they can hold. */
export const useFindings = (): readonly HarnessFinding[] => {
  const rig = useStore((s) => s.rig)
  // As text, so that a rate that changes does not have everything looked at anew.
  const told = useStore((s) =>
    JSON.stringify(s.status?.boards.flatMap((b) => (b.id && b.limits ? [[b.id, b.limits]] : [])) ?? []),
  )
  return useMemo(() => {
    const known: KnownLimits = new Map(JSON.parse(told))
    return harnessFindings(rig, known)
  }, [rig, told])
}

/** What is found in the bindings of the rig on the page. */
export const useBindingFindings = (): readonly BindingFinding[] => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  return useMemo(() => bindingFindings(rig, index), [rig, index])
}

/** Parts of which nothing counts as seen to work, because their wiring says that they cannot. */
export const useHopeless = (): ReadonlySet<string> => {
  const findings = useFindings()
  return useMemo(() => partsThatCannotWork(findings), [findings])
}

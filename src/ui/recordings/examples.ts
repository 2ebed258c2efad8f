import { useRouter } from 'next/navigation'
import { useEffect, useRef } from 'react'
import type { Difference } from '@/core/recording/example'
import { notify, useStore } from '../live/store'
import { useScope } from '../scope/scope-store'
import { compare, listRecordings, useRecordings } from './recordings-store'

/** After an edit examples are played anew once nobody has edited for this long. */
const SETTLED_MS = 1500

const listed = (differences: readonly Difference[]): string => {
  const names = [...new Set(differences.map((d) => d.name))]
  return names.slice(0, 3).join(', ') + (names.length > 3 ? ` and ${names.length - 3} more` : '')
}

/** Whether the list of recordings is what one looks at. */
const isLookedAt = (): boolean =>
  window.location.pathname.startsWith('/scope') && useScope.getState().mode === 'recordings'

/**
 * Plays the examples of the open rig after each edit, or when the list is opened, one after the other; what an edit has
 * changed is said wherever one looks.
 */
export const useExamples = (): void => {
  const router = useRouter()
  const list = useRecordings((s) => s.list)
  const rigId = useStore((s) => s.rigId)
  const revision = useStore((s) => s.revision)
  const mode = useScope((s) => s.mode)
  const seen = useRef<{ rigId: string; revision: number } | null>(null)
  useEffect(() => {
    if (rigId !== null) void listRecordings()
  }, [rigId])
  useEffect(() => {
    if (rigId === null || list === null) return
    if (seen.current?.rigId !== rigId) seen.current = { rigId, revision }
    const edited = seen.current.revision !== revision
    if (!edited && !(mode === 'recordings' && isLookedAt())) return
    const late = setTimeout(async () => {
      seen.current = { rigId, revision }
      // Of several pages the one that is looked at.
      if (document.visibilityState !== 'visible') return
      for (const r of list) {
        const before = useRecordings.getState().compared[r.id]
        if (r.exampleOf === null || r.rigId !== rigId || before?.revision === revision) continue
        await compare(r.id)
        const { differences = [] } = useRecordings.getState().compared[r.id] ?? {}
        if (!edited || isLookedAt() || differences.length <= (before?.differences.length ?? 0)) continue
        notify(`In the example “${r.name}” something else is shown now: ${listed(differences)}.`, 'plain', {
          words: 'Look',
          act: () => {
            useScope.setState({ mode: 'recordings' })
            router.push('/scope')
          },
        })
      }
    }, SETTLED_MS)
    return () => clearTimeout(late)
  }, [list, rigId, revision, mode, router])
}

'use client'
import { usePathname, useRouter } from 'next/navigation'
import { panelsOf } from '@/core/rig/rig'
import { useStore } from '../live/store'
import { newPanel } from './new-panel'

/** What stands where a panel would, while there is none: how to begin, or what is waited for. */
export const NoPanel = () => {
  const hub = useStore((s) => s.hub)
  const router = useRouter()
  const path = usePathname()
  if (hub !== 'up') return <p className="p-4 text-ink2">Waiting for the rig …</p>
  return (
    <div className="p-4">
      <p className="pb-3 text-ink2">
        This rig has no panel yet. Begin with an empty plate, or open another rig.
      </p>
      <div className="flex gap-1.5">
        <button
          type="button"
          className="btn"
          data-strong="true"
          onClick={() => {
            newPanel(panelsOf(useStore.getState().rig))
            if (path !== '/panel') router.push('/panel')
          }}
        >
          New panel
        </button>
        <button type="button" className="btn" onClick={() => useStore.setState({ rigsOpen: true })}>
          Rigs …
        </button>
      </div>
    </div>
  )
}

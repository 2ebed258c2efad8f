'use client'
import { useRouter } from 'next/navigation'
import { type Rig, rowsOf, screensOf } from '@/core/rig/rig'
import type { ScreenRow } from '@/core/rig/rows'
import { contentOf, pageShown } from '@/core/screens/content'
import { PAGE_KEY } from '@/core/screens/screen-key'
import { useStore } from '../live/store'
import { useScreens } from '../screens/screens-store'
import { useProblems, useTold } from '../screens/told-screens'

/** Screens of the rig: where each sits, what of it cannot be worked out, and the way to other devices. */
export const BenchScreens = ({ rig }: { rig: Rig }) => {
  const screens = screensOf(rig)
  if (screens.length === 0) return null
  return (
    <section aria-label="Screens" className="border-t border-line pb-2">
      <div className="flex items-baseline gap-2 px-3.5 pt-2.5 pb-1">
        <h2>Screens</h2>
        <span className="cap flex-1">drawn instruments</span>
        <button type="button" className="btn" onClick={() => useStore.setState({ devicesOpen: true })}>
          Devices
        </button>
      </div>
      {screens.map((s) => (
        <ScreenLine key={s.id} rig={rig} screen={s} />
      ))}
    </section>
  )
}

const ScreenLine = ({ rig, screen }: { rig: Rig; screen: ScreenRow }) => {
  const router = useRouter()
  // Looked at, so that what is wrong with it is known here.
  const named = useTold(screen.id, PAGE_KEY)
  const content = contentOf(rig, screen.id)
  const paged = content ? pageShown(content, named).problem : null
  const problems = Object.keys(useProblems(screen.id)).length
  const panels = rowsOf(rig, 'part').flatMap((p) =>
    p.settings.screen === screen.id ? [rig.panel[p.panelId]?.name ?? ''] : [],
  )
  return (
    <div className="flex h-8 items-center gap-3 border-t border-hair px-3.5">
      <b className="min-w-0 flex-1 truncate">{screen.name}</b>
      {paged !== null && <span className="truncate text-[12px] text-fault">{paged}</span>}
      {problems > 0 && (
        <span className="text-[12px] text-fault">
          {problems === 1 ? '1 property is wrong' : `${problems} properties are wrong`}
        </span>
      )}
      <span className="truncate text-[12px] text-ink2">
        {panels.length > 0 ? `in ${panels.join(', ')}` : 'on a device'}
      </span>
      <span className="mono text-[12px] text-ink2">
        {screen.widthPx} × {screen.heightPx}
      </span>
      <button
        type="button"
        className="btn"
        onClick={() => {
          useScreens.setState({ screenId: screen.id, pageId: null })
          router.push('/screens')
        }}
      >
        Draw it
      </button>
    </div>
  )
}

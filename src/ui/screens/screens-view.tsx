'use client'
import { useEffect, useMemo } from 'react'
import { surfaceOfPage, thingsOn } from '@/core/layout/things'
import { pagesOf, type Rig, screensOf } from '@/core/rig/rig'
import type { ElementRow, PageRow, ScreenRow } from '@/core/rig/rows'
import { contentOf, pageShown } from '@/core/screens/content'
import { PAGE_KEY } from '@/core/screens/screen-key'
import { usualSizes } from '@/core/screens/usual-sizes'
import { useStore } from '../live/store'
import { ArrangeButtons, FitButton, GridChoice } from '../surface/arrange-buttons'
import { ArrayForm } from '../surface/array-form'
import { ManyPlace } from '../surface/many-place'
import { useSurface } from '../surface/view-store'
import { ElementForm, ManyElements } from './element-form'
import { floatScreen } from './float-screen'
import { newScreen } from './new-screen'
import { ElementPalette, Outline } from './outline'
import { ScreenCanvas } from './screen-canvas'
import { BringScreen } from './screen-file-buttons'
import { ScreenForm } from './screen-form'
import { useScreens } from './screens-store'
import { useTold } from './told-screens'
import { TryBar } from './try-bar'

/** Drawn instruments: a screen is chosen, its pages are drawn on, tried, and shown on devices and in panels. */
export const ScreensView = () => {
  const rig = useStore((s) => s.rig)
  const chosen = useScreens((s) => s.screenId)
  const screen = rig.screen[chosen ?? ''] ?? screensOf(rig)[0]
  if (!screen) return <NoScreen rig={rig} />
  return <OneScreen key={screen.id} rig={rig} screen={screen} />
}

const NoScreen = ({ rig }: { rig: Rig }) => (
  <section aria-label="No screen yet" className="max-w-[640px] p-6">
    <h2 className="text-[15px]">There is no screen yet</h2>
    <p className="pt-1 pb-3 text-ink2">
      A screen shows instruments that are drawn instead of bought: on a small display behind a cut-out, on an
      old tablet, or in a strip that floats over the simulator. Begin with the size it really has; all of it
      can be changed later.
    </p>
    <ul className="m-0 flex list-none flex-col gap-1 p-0">
      {usualSizes.map((u) => (
        <li key={u.name}>
          <button type="button" className="btn w-[280px]" onClick={() => newScreen(rig, u)}>
            {u.name}
          </button>
        </li>
      ))}
    </ul>
    <div className="pt-3">
      <BringScreen rig={rig} />
    </div>
  </section>
)

const OneScreen = ({ rig, screen }: { rig: Rig; screen: ScreenRow }) => {
  const pages = pagesOf(rig, screen.id)
  const wanted = useScreens((s) => s.pageId)
  const page = pages.find((p) => p.id === wanted) ?? pages[0]
  const pageId = page?.id ?? null
  const drawer = useScreens((s) => s.drawer)
  const picked = useSurface((s) => s.picked)
  useEffect(() => {
    useSurface.setState({ page: { screenId: screen.id, pageId }, tool: { is: 'pick' } })
    return () => useSurface.setState({ page: null, picked: new Set(), tool: { is: 'pick' } })
  }, [screen.id, pageId])
  const on = useMemo(() => surfaceOfPage(screen, pageId), [screen, pageId])
  const things = useMemo(() => thingsOn(rig, on).filter((t) => picked.has(t.key)), [rig, on, picked])
  const elements = things.flatMap((t): ElementRow[] => (t.table === 'element' ? [t.row] : []))
  const [only, more] = elements
  return (
    <div className="grid h-full grid-cols-[204px_minmax(0,1fr)_300px] 2xl:grid-cols-[300px_minmax(0,1fr)_340px]">
      <div className="flex min-h-0 flex-col border-r border-line">
        <ElementPalette />
        <Outline rig={rig} screen={screen} pageId={pageId} />
      </div>
      <section
        aria-label="Screen drawing"
        className="drawing-sheet grid min-h-0 grid-rows-[auto_auto_minmax(0,1fr)]"
      >
        <Head rig={rig} screen={screen} pages={pages} pageId={pageId} />
        <div
          role="toolbar"
          aria-label="Drawing tools"
          className="flex min-h-[30px] flex-wrap items-center gap-x-0.5 gap-y-1 border-y border-line px-2 py-0.5"
        >
          <ArrangeButtons ordered />
          <span className="mx-1 h-4 border-l border-line" />
          <FitButton />
          <GridChoice of="gridPx" />
        </div>
        <ScreenCanvas rig={rig} screen={screen} pageId={pageId} />
      </section>
      <div className="flex min-h-0 flex-col border-l border-line">
        <div role="tablist" aria-label="Drawer" className="flex h-[34px] shrink-0 border-b border-line">
          {(['element', 'screen'] as const).map((d) => (
            <button
              key={d}
              type="button"
              role="tab"
              aria-selected={drawer === d}
              className={`flex-1 border-b-2 text-[12px] ${drawer === d ? 'border-accent text-accent' : 'border-transparent text-ink2 hover:text-ink'}`}
              onClick={() => useScreens.setState({ drawer: d })}
            >
              {d === 'element' ? 'Element' : 'Screen'}
            </button>
          ))}
        </div>
        <div role="tabpanel" aria-label={drawer} className="min-h-0 flex-1 overflow-y-auto p-2.5">
          {drawer === 'screen' ? (
            <ScreenForm key={screen.id} rig={rig} screen={screen} />
          ) : !only ? (
            <p className="text-[12px] text-ink2">
              Nothing is picked. Click on an element, or draw a frame round several. Shift adds; arrows move
              by a dot, with Shift by ten.
            </p>
          ) : more ? (
            <section aria-label="Placement" className="form-lines flex flex-col gap-1.5">
              <ManyPlace rig={rig} on={on} things={things} />
              <ArrayForm on={on} things={things} />
              <ManyElements rows={elements} />
            </section>
          ) : (
            <ElementForm key={only.id} rig={rig} row={only} />
          )}
        </div>
        <TryBar elements={elements} />
      </div>
    </div>
  )
}

/** Which screen, which page, and where else it can be seen. */
const Head = ({
  rig,
  screen,
  pages,
  pageId,
}: {
  rig: Rig
  screen: ScreenRow
  pages: readonly PageRow[]
  pageId: string | null
}) => {
  const screens = screensOf(rig)
  const named = useTold(screen.id, PAGE_KEY)
  const content = contentOf(rig, screen.id)
  const shown = content ? pageShown(content, named) : null
  return (
    <div className="flex min-h-[34px] min-w-0 flex-wrap items-center gap-x-2 gap-y-1 px-2.5 py-1">
      <h2 className="shrink-0">
        <select
          aria-label="Screen"
          className="max-w-[150px]"
          value={screen.id}
          onChange={(e) => useScreens.setState({ screenId: e.target.value, pageId: null })}
        >
          {screens.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      </h2>
      <div role="tablist" aria-label="Pages" className="flex max-w-full flex-auto gap-0.5 overflow-x-auto">
        {pages.length > 1 &&
          pages.map((p) => (
            <button
              key={p.id}
              type="button"
              role="tab"
              aria-selected={p.id === pageId}
              title={p.id === shown?.page?.id ? 'This page is shown now' : undefined}
              className={`mono h-[22px] shrink-0 border px-1.5 text-[11px] ${p.id === pageId ? 'border-ink bg-ink text-sheet' : 'border-line text-ink2 hover:text-ink'}`}
              onClick={() => useScreens.setState({ pageId: p.id })}
            >
              {p.name}
              {p.id === shown?.page?.id && <span aria-hidden="true"> ●</span>}
            </button>
          ))}
        {shown?.problem && <span className="truncate text-[12px] text-fault">{shown.problem}</span>}
      </div>
      <a
        className="btn"
        href={`/screen/${encodeURIComponent(screen.name)}`}
        target="_blank"
        rel="noreferrer"
        title="The screen alone, as a device shows it"
      >
        Open alone
      </a>
      <button
        type="button"
        className="btn"
        title="In a small window that stays on top of other programs"
        onClick={() => void floatScreen(screen)}
      >
        Float
      </button>
      <button
        type="button"
        className="btn"
        onClick={() => newScreen(rig, usualSizes[2] ?? (usualSizes[0] as never))}
      >
        New screen
      </button>
    </div>
  )
}

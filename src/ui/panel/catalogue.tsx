'use client'
import { useMemo, useState } from 'react'
import type { Family, PartKind } from '@/core/catalogue/part-kind'
import { partKinds } from '@/core/catalogue/parts'
import { PartDrawing } from '../drawing/part-drawing'
import { wordsOf } from '../editors/search-variables'
import { Matched } from '../primitives/matched'
import { usePanelView } from './view-store'

const familyWords: Record<Family, string> = {
  button: 'Buttons',
  toggle: 'Toggles',
  rotary: 'Rotary switches',
  encoder: 'Encoders',
  lever: 'Levers and pots',
  lamp: 'Lamps',
  digits: 'Digit windows',
  text: 'Text displays',
  gauge: 'Gauges',
  colour: 'RGB lamps and strips',
  screen: 'Screens',
  connector: 'Connectors',
  screw: 'Screws',
}

/** Every kind of part, chosen by its drawing or by search; then put down with a click on the plate. */
export const Catalogue = () => {
  const [search, setSearch] = useState('')
  const tool = usePanelView((s) => s.tool)
  const words = useMemo(() => wordsOf(search), [search])
  const found = partKinds.filter((k) => {
    const text = `${k.name} ${familyWords[k.family]}`.toLowerCase()
    return words.every((w) => text.includes(w))
  })
  const families = (Object.keys(familyWords) as Family[]).filter((f) => found.some((k) => k.family === f))
  return (
    <div className="flex h-full flex-col">
      <input
        type="search"
        aria-label="Search parts"
        placeholder={`Search ${partKinds.length} parts …`}
        className="m-2 text-[12px]"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
      />
      <p className="px-2.5 pb-1.5 text-[11px] leading-4 text-ink2">
        {tool.is === 'part'
          ? 'Click on the plate; Shift puts down several.'
          : 'Choose one, then click on the plate.'}
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0}>
        {found.length === 0 && <p className="px-2.5 text-ink2">No part is called “{search}”.</p>}
        {families.map((family) => (
          <section key={family} aria-label={familyWords[family]}>
            <h3 className="cap border-t border-hair px-2.5 pt-1.5">{familyWords[family]}</h3>
            <div className="grid grid-cols-2 gap-1 p-1.5">
              {found
                .filter((k) => k.family === family)
                .map((k) => (
                  <KindButton
                    key={k.id}
                    kind={k}
                    words={words}
                    on={tool.is === 'part' && tool.kind === k.id}
                  />
                ))}
            </div>
          </section>
        ))}
      </div>
    </div>
  )
}

const BOX_PX = 46

const KindButton = ({ kind, words, on }: { kind: PartKind; words: readonly string[]; on: boolean }) => {
  const { width, height } = kind.frontMm
  const scale = Math.min(2, (BOX_PX * 1.8) / width, BOX_PX / height)
  return (
    <button
      type="button"
      aria-pressed={on}
      data-kind={kind.id}
      title={`${kind.name}: ${width} × ${height} mm in front, ${kind.mount.body.depthMm + kind.mount.standoffMm} mm deep`}
      className={`flex flex-col items-center border p-1 ${on ? 'border-accent bg-accent-bg' : 'border-transparent hover:border-line'}`}
      onClick={() => usePanelView.setState({ tool: on ? { is: 'pick' } : { is: 'part', kind: kind.id } })}
    >
      <span inert>
        <svg
          width={Math.min(90, width * scale + 6)}
          height={BOX_PX}
          viewBox={`${-width / 2 - 1} ${-height / 2 - 1} ${width + 2} ${height + 2}`}
          aria-hidden="true"
          className="pointer-events-none bg-[var(--plate)]"
        >
          <PartDrawing part={sample(kind)} selected={false} operable={false} />
        </svg>
      </span>
      <span className="w-full pt-0.5 text-center text-[10.5px] leading-[13px] text-ink2">
        <Matched text={kind.name} words={words} />
      </span>
    </button>
  )
}

const sample = (kind: PartKind) => ({
  id: `sample ${kind.id}`,
  panelId: '',
  name: kind.name,
  kind: kind.id,
  xMm: 0,
  yMm: 0,
  rotationDeg: 0,
  settings: {},
})

'use client'
import { useMemo, useState } from 'react'
import { kindOf, type OwnKind, ownKindLike } from '@/core/catalogue/own-kind'
import type { Family } from '@/core/catalogue/part-kind'
import { partKind, partKinds } from '@/core/catalogue/parts'
import { sameValue } from '@/core/rig/edit'
import { ownMakes } from '@/core/rig/exchange'
import { readPartFile } from '@/core/rig/own-file'
import type { PartRow } from '@/core/rig/rows'
import { PartDrawing } from '../drawing/part-drawing'
import { wordsOf } from '../editors/search-variables'
import { notify, useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { Matched } from '../primitives/matched'
import { useSurface } from '../surface/view-store'

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
  sounder: 'Sounders and relays',
  screw: 'Screws',
}

/** Every kind of part, chosen by its drawing or by search; then put down with a click on the plate. */
export const Catalogue = () => {
  const [search, setSearch] = useState('')
  const tool = useSurface((s) => s.tool)
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
          ? 'Click on the plate, or press Enter there; Shift puts down several.'
          : 'Choose one, then click on the plate.'}
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0}>
        <OwnParts words={words} />
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
                    kind={k.id}
                    words={words}
                    on={tool.is === 'part' && tool.own === undefined && tool.kind === k.id}
                  />
                ))}
            </div>
          </section>
        ))}
      </div>
    </div>
  )
}

/** Parts of one's own that the rig uses, and the way to make another or take one from a file. */
const OwnParts = ({ words }: { words: readonly string[] }) => {
  const rig = useStore((s) => s.rig)
  const tool = useSurface((s) => s.tool)
  const makes = ownMakes(rig).filter((o) => words.every((w) => o.name.toLowerCase().includes(w)))
  const take = async (file: File) => {
    const read = readPartFile(await file.text())
    if ('problem' in read) notify(`${file.name}: ${read.problem} Nothing was changed.`)
    else useSurface.setState({ making: { own: read.own, changes: false } })
  }
  const first = partKind('button-10-grey')
  return (
    <section aria-label="Parts of your own" className="border-t border-hair pb-1.5">
      <h3 className="cap px-2.5 pt-1.5">Your own</h3>
      <div className="grid grid-cols-2 gap-1 px-1.5">
        {makes.map((own) => (
          <KindButton
            key={own.name}
            kind={own.like}
            own={own}
            words={words}
            on={tool.is === 'part' && tool.own !== undefined && sameValue(tool.own, own)}
          />
        ))}
      </div>
      <div className="flex gap-1.5 px-2.5 pt-1">
        <button
          type="button"
          className="btn"
          onClick={() =>
            first && useSurface.setState({ making: { own: ownKindLike(first), changes: false } })
          }
        >
          Make one
        </button>
        <FileButton
          words="From a file …"
          label="Part from a file"
          accept=".json"
          take={(f) => void take(f)}
        />
      </div>
    </section>
  )
}

const BOX_PX = 46

const KindButton = ({
  kind: id,
  own,
  words,
  on,
}: {
  kind: string
  own?: OwnKind
  words: readonly string[]
  on: boolean
}) => {
  const part = sample(id, own)
  const kind = kindOf(part)
  if (!kind) return null
  const { width, height } = kind.frontMm
  const scale = Math.min(2, (BOX_PX * 1.8) / width, BOX_PX / height)
  return (
    <button
      type="button"
      aria-pressed={on}
      data-kind={own ? `own ${own.name}` : id}
      title={`${kind.name}: ${width} × ${height} mm in front, ${kind.mount.body.depthMm + kind.mount.standoffMm} mm deep${kind.module && !own ? `. For a ${kind.module}` : ''}`}
      className={`flex flex-col items-center border p-1 ${on ? 'border-accent bg-accent-bg' : 'border-transparent hover:border-line'}`}
      onClick={() =>
        useSurface.setState({
          tool: on ? { is: 'pick' } : { is: 'part', kind: id, ...(own ? { own } : {}) },
        })
      }
    >
      <span inert>
        <svg
          width={Math.min(90, width * scale + 6)}
          height={BOX_PX}
          viewBox={`${-width / 2 - 1} ${-height / 2 - 1} ${width + 2} ${height + 2}`}
          aria-hidden="true"
          className="pointer-events-none bg-[var(--plate)]"
        >
          <PartDrawing part={part} selected={false} operable={false} />
        </svg>
      </span>
      <span className="w-full pt-0.5 text-center text-[11px] leading-[13px] text-ink2">
        <Matched text={kind.name} words={words} />
      </span>
    </button>
  )
}

const sample = (kind: string, own: OwnKind | undefined): PartRow => ({
  id: `sample ${own?.name ?? kind}`,
  panelId: '',
  name: own?.name ?? kind,
  kind,
  xMm: 0,
  yMm: 0,
  rotationDeg: 0,
  settings: own ? { own } : {},
})

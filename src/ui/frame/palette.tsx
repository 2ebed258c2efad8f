'use client'
import { Command } from 'cmdk'
import { usePathname } from 'next/navigation'
import { useEffect, useState } from 'react'
import { panelsOf, partsOf } from '@/core/rig/rig'
import { wordsOf } from '../editors/search-variables'
import { LiveValue } from '../editors/simulator-picker'
import { useHarness } from '../harness/harness-store'
import { select, watchAll } from '../live/connection'
import { notify, useStore } from '../live/store'
import { Matched } from '../primitives/matched'
import { Sheet } from '../primitives/sheet'
import { type ActionEntry, isHere, keyWords } from './actions'

const MOST_VARIABLES = 60

/** Every action and every part, variable and board by name. */
export const Palette = ({
  open,
  setOpen,
  actions,
  go,
}: {
  open: boolean
  setOpen: (open: boolean) => void
  actions: readonly ActionEntry[]
  go: (path: string) => void
}) => (
  <Sheet title="Command palette" titleShown={false} className="w-[620px]" open={open} setOpen={setOpen}>
    <PaletteList actions={actions} go={go} close={() => setOpen(false)} />
  </Sheet>
)

const fits = (text: string, words: readonly string[]): boolean => {
  const lower = text.toLowerCase()
  return words.every((w) => lower.includes(w))
}

const PaletteList = ({
  actions,
  go,
  close,
}: {
  actions: readonly ActionEntry[]
  go: (path: string) => void
  close: () => void
}) => {
  const path = usePathname()
  const rig = useStore((s) => s.rig)
  const boards = useStore((s) => s.status?.boards) ?? []
  const { variables } = useStore((s) => s.catalogue.catalogue)
  const [search, setSearch] = useState('')
  useEffect(() => watchAll(), [])
  const words = wordsOf(search)
  const then = (run: () => void) => () => {
    close()
    run()
  }
  const item = 'flex h-8 cursor-pointer items-center gap-3 px-3 data-[selected=true]:bg-accent-bg'
  const heading = '[&_[cmdk-group-heading]]:cap [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2'
  const foundParts = panelsOf(rig).flatMap((panel) => partsOf(rig, panel.id).map((part) => ({ panel, part })))
  const foundVariables =
    words.length === 0 ? [] : variables.filter((v) => fits(`${v.name} ${v.description}`, words))
  return (
    <Command shouldFilter={false} label="Command palette">
      <Command.Input
        autoFocus
        value={search}
        onValueChange={setSearch}
        placeholder="An action, a part, a board, a variable …"
        className="h-10 w-full border-0 border-b border-line bg-transparent px-3 text-[14px] outline-none"
      />
      <Command.List className="max-h-[420px] overflow-y-auto pb-2">
        <Command.Empty className="p-3 text-ink2">Nothing is called “{search}”.</Command.Empty>
        <Command.Group heading="Actions" className={heading}>
          {actions
            .filter((a) => isHere(a, path) && fits(a.words, words))
            .map((a) => (
              <Command.Item key={a.words} value={a.words} onSelect={then(a.run)} className={item}>
                <span>
                  <Matched text={a.words} words={words} />
                </span>
                {a.key && <span className="key ml-auto">{keyWords(a.key)}</span>}
              </Command.Item>
            ))}
        </Command.Group>
        <Command.Group heading="Parts" className={heading}>
          {foundParts
            .filter(({ panel, part }) => fits(`${part.name} ${panel.name}`, words))
            .map(({ panel, part }) => (
              <Command.Item
                key={part.id}
                value={`part ${part.id}`}
                onSelect={then(() => select(part.id))}
                className={item}
              >
                <span>
                  <Matched text={part.name} words={words} />
                </span>
                <span className="ml-auto text-[12px] text-ink2">{panel.name}</span>
              </Command.Item>
            ))}
        </Command.Group>
        <Command.Group heading="Panels" className={heading}>
          {panelsOf(rig)
            .filter((p) => fits(p.name, words))
            .map((p) => (
              <Command.Item
                key={p.id}
                value={`panel ${p.id}`}
                onSelect={then(() => {
                  useStore.setState({ panelId: p.id })
                  if (!path.startsWith('/panel') && !path.startsWith('/mirror')) go('/panel')
                })}
                className={item}
              >
                <span>
                  <Matched text={p.name} words={words} />
                </span>
                <span className="ml-auto text-[12px] text-ink2">
                  {p.widthMm} × {p.heightMm} mm
                </span>
              </Command.Item>
            ))}
        </Command.Group>
        <Command.Group heading="Boards" className={heading}>
          {boards
            .filter((b) => fits(`${b.name} ${b.model}`, words))
            .map((b) => (
              <Command.Item
                key={b.identity}
                value={`board ${b.identity}`}
                onSelect={then(() => {
                  if (b.id === null) return go('/bench')
                  useHarness.setState({ boardId: b.id })
                  go('/harness')
                })}
                className={item}
              >
                <span>
                  <Matched text={b.name} words={words} />
                </span>
                <span className="ml-auto text-[12px] text-ink2">
                  {b.state === 'up' ? (b.loaded ? 'up' : 'to load') : 'away'}
                </span>
              </Command.Item>
            ))}
        </Command.Group>
        {foundVariables.length > 0 && (
          <Command.Group heading={`Variables · ${foundVariables.length}`} className={heading}>
            {foundVariables.slice(0, MOST_VARIABLES).map((v) => (
              <Command.Item
                key={v.name}
                value={`variable ${v.name}`}
                onSelect={then(() => followVariable(v.name))}
                className={item}
              >
                <span className="mono truncate text-[12.5px]">
                  <Matched text={v.name} words={words} />
                </span>
                <span className="min-w-0 flex-1 truncate text-[12px] text-ink2">{v.description}</span>
                <span className="mono text-[12.5px]">
                  <LiveValue name={v.name} />
                </span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command>
  )
}

/** A variable chosen here leads to the part bound to it; one that nobody uses is copied by name, and that is said. */
const followVariable = (name: string): void => {
  const { rig } = useStore.getState()
  const user = Object.values(rig.binding).find((b) =>
    JSON.stringify(b.settings).includes(JSON.stringify(name)),
  )
  if (user) select(user.partId)
  else {
    void navigator.clipboard?.writeText(name).catch(() => {})
    notify(`No part is bound to ${name}; its name is on the clipboard.`, 'plain')
  }
}

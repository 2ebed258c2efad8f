'use client'
import { usePathname } from 'next/navigation'
import { Sheet } from '../primitives/sheet'
import { type ActionEntry, isHere, keyWords } from './actions'

const onThePanel: readonly [string, string][] = [
  ['Tab', 'From part to part on a panel'],
  ['↑ ↓ ← →', 'From pin to pin on a board; Tab leaves it'],
  ['↑ ↓', 'Move a lever or a toggle'],
  ['Space', 'Throw a toggle; hold a button for as long as it is held'],
]

const groups = ['Go', 'Try', 'Edit', 'Drawing'] as const

const anywhere: readonly [string, string][] = [
  ['Ctrl K', 'Command palette: every action, part, panel, board and variable'],
  ['F6', 'To the next region: surface, drawer, inspector, path strip'],
  ['?', 'This list'],
]

/** Every key there is. */
export const Shortcuts = ({
  open,
  setOpen,
  actions,
}: {
  open: boolean
  setOpen: (open: boolean) => void
  actions: readonly ActionEntry[]
}) => {
  const path = usePathname()
  const here = actions.filter((a) => isHere(a, path))
  return (
    <Sheet
      title="Keys"
      titleShown
      className="max-h-[88vh] w-[860px] max-w-[94vw] columns-2 gap-6 overflow-y-auto p-4"
      open={open}
      setOpen={setOpen}
    >
      {groups.map((group) => {
        const lines = here.filter((a) => a.key && (a.group ?? 'Go') === group)
        if (lines.length === 0 && group !== 'Go') return null
        return (
          <section key={group} aria-label={group} className="mt-2 break-inside-avoid">
            <h3 className="cap">{group}</h3>
            <table className="w-full">
              <tbody>
                {group === 'Go' &&
                  anywhere.map(([keys, words]) => <Line key={keys} keys={keys} words={words} />)}
                {lines.map((a) => (
                  <Line key={a.words} keys={keyWords(a.key ?? '')} words={a.words} />
                ))}
                {group === 'Try' &&
                  onThePanel.map(([keys, words]) => <Line key={keys} keys={keys} words={words} />)}
              </tbody>
            </table>
          </section>
        )
      })}
    </Sheet>
  )
}

const Line = ({ keys, words }: { keys: string; words: string }) => (
  <tr className="border-t border-hair">
    <td className="w-28 py-1">
      <span className="key">{keys}</span>
    </td>
    <td className="py-1">{words}</td>
  </tr>
)

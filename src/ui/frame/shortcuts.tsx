'use client'
import { usePathname } from 'next/navigation'
import { Sheet } from '../primitives/sheet'
import { type ActionEntry, isHere, keyWords } from './actions'

const onThePanel: readonly [string, string][] = [
  ['Tab', 'From part to part on a panel'],
  ['↑ ↓', 'Move a lever or a toggle'],
  ['Space', 'Throw a toggle; hold a button for as long as it is held'],
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
      className="max-h-[82vh] w-[460px] overflow-y-auto p-4"
      open={open}
      setOpen={setOpen}
    >
      <table className="w-full">
        <tbody>
          <Line keys="Ctrl K" words="Command palette: every action, part, board and variable" />
          <Line keys="?" words="This list" />
          {here.map((a) => (a.key ? <Line key={a.words} keys={keyWords(a.key)} words={a.words} /> : null))}
          {onThePanel.map(([keys, words]) => (
            <Line key={keys} keys={keys} words={words} />
          ))}
        </tbody>
      </table>
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

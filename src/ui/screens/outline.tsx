'use client'
import { Link2 } from 'lucide-react'
import { type ElementKindName, elementKinds } from '@/core/elements/elements'
import { isLocked, keyOf, surfaceOfPage, thingsOn } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import type { ElementRow, ScreenRow } from '@/core/rig/rows'
import { DottedName } from '../primitives/dotted-name'
import { pick, useSurface } from '../surface/view-store'
import { ElementIcon } from './element-icons'
import { followedOf, useScreens } from './screens-store'
import { useProblems } from './told-screens'

/** What can be put on a page. */
export const ElementPalette = () => {
  const tool = useSurface((s) => s.tool)
  return (
    <section
      aria-label="Elements to put down"
      className="grid grid-cols-[1.2fr_1fr] gap-px border-b border-line p-1.5"
    >
      {(Object.keys(elementKinds) as ElementKindName[]).map((kind) => {
        const { word, says } = elementKinds[kind]
        const on = tool.is === 'element' && tool.kind === kind
        return (
          <button
            key={kind}
            type="button"
            title={`${says}; click, then click where it goes`}
            aria-pressed={on}
            className={`flex h-6 items-center gap-1.5 px-1.5 text-left text-[12px] ${on ? 'bg-accent-bg text-accent' : 'text-ink2 hover:text-ink'}`}
            onClick={() => useSurface.setState({ tool: on ? { is: 'pick' } : { is: 'element', kind } })}
          >
            <ElementIcon kind={kind} />
            <span className="truncate">{word}</span>
          </button>
        )
      })}
    </section>
  )
}

/** What is bound to what, at a glance: the variable of its main property, or that it is an expression. */
const boundTo = (row: ElementRow): string => {
  const [first] = followedOf(row)
  if (!first) return ''
  const followed = row.settings.follows[first]
  return followed?.variable ?? 'expression'
}

/** All elements of a page and of every page, the uppermost first, with what each follows. */
export const Outline = ({ rig, screen, pageId }: { rig: Rig; screen: ScreenRow; pageId: string | null }) => {
  const picked = useSurface((s) => s.picked)
  const problems = useProblems(screen.id)
  const things = thingsOn(rig, surfaceOfPage(screen, pageId)).reverse()
  const choose = (key: string, more: boolean) => {
    const next = new Set(more ? picked : [])
    if (!next.delete(key)) next.add(key)
    pick(next)
    useScreens.setState({ drawer: 'element' })
  }
  return (
    <section aria-label="Outline" className="min-h-0 flex-1 overflow-y-auto">
      {things.length === 0 && (
        <p className="p-2.5 text-[12px] text-ink2">
          Nothing lies on this page yet. Choose an element above and click where it goes.
        </p>
      )}
      {things.map((t) => {
        if (t.table !== 'element') return null
        const { row } = t
        const key = keyOf('element', row.id)
        const on = picked.has(key)
        const wrong = followedOf(row).some((p) => problems[`${row.id} ${p}`] !== undefined)
        const bound = boundTo(row)
        return (
          <button
            key={key}
            type="button"
            aria-pressed={on}
            data-outline={row.name}
            className={`flex w-full items-start gap-1.5 border-l-[3px] py-[3px] pr-1.5 pl-1.5 text-left ${on ? 'border-accent bg-accent-bg' : 'border-transparent hover:bg-raised'}`}
            onClick={(e) => choose(key, e.shiftKey || e.ctrlKey)}
          >
            <span className="mt-[2px] text-ink2">
              <ElementIcon kind={row.settings.kind} size={14} />
            </span>
            <span className="min-w-0 flex-1">
              <span className="flex items-center gap-1 text-[12px] leading-4">
                <span className="truncate">{row.name}</span>
                {row.pageId === null && (
                  <span className="cap" title="On every page">
                    all
                  </span>
                )}
                {isLocked(t) && <span className="cap">locked</span>}
              </span>
              {bound !== '' && (
                <span
                  className={`mono flex items-start gap-1 text-[11px] leading-[14px] ${wrong ? 'text-fault' : 'text-ink2'}`}
                  title={bound}
                >
                  <Link2 size={10} className="mt-0.5 shrink-0" aria-hidden="true" />
                  <span className="min-w-0 break-words">
                    <DottedName name={wrong ? `! ${bound}` : bound} />
                  </span>
                </span>
              )}
            </span>
          </button>
        )
      })}
    </section>
  )
}

'use client'
import Link from 'next/link'
import { usePathname } from 'next/navigation'
import { ViewIcon, views } from './views'

export const Rail = () => {
  const path = usePathname()
  return (
    <nav aria-label="Views" className="row-span-3 flex flex-col border-r border-line pt-2">
      <b className="mb-1.5 grid h-10 place-items-center text-[17px]" role="img" aria-label="Clavik">
        Cv
      </b>
      {views.map((v) => {
        const on = path.startsWith(v.path)
        return (
          <Link
            key={v.path}
            href={v.path}
            aria-current={on ? 'page' : undefined}
            className={`flex h-[54px] flex-col items-center justify-center gap-1 border-l-[3px] text-[11px] ${on ? 'border-accent bg-accent-bg text-accent' : 'border-transparent text-ink2 hover:text-ink'}`}
          >
            <ViewIcon d={v.icon} />
            {v.word}
          </Link>
        )
      })}
    </nav>
  )
}

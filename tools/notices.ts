import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

interface Locked {
  readonly version?: string
  readonly license?: string
  readonly dev?: boolean
  readonly devOptional?: boolean
  readonly optional?: boolean
  readonly link?: boolean
}

interface Shipped {
  readonly name: string
  readonly version: string
  readonly license: string
  readonly text: string
}

/** Files in which a package says on which terms it may be used. */
const TERMS = /^(?:[a-z]+-)?(licen[cs]e|copying|notice|ofl)(\..*|-.*)?$/i

const termsOf = (folder: string): string =>
  readdirSync(folder)
    .filter((f) => TERMS.test(f))
    .sort()
    .map((f) =>
      readFileSync(join(folder, f), 'utf8').replaceAll('\r\n', '\n').replaceAll('\u2028', '\n').trim(),
    )
    .join('\n\n')

/** Every package that runs with Clavik, with its own terms; what is for one kind of machine only is left out. */
const shipped = (root: string): Shipped[] => {
  const lock = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')) as {
    packages: Record<string, Locked>
  }
  return Object.entries(lock.packages).flatMap(([path, locked]) => {
    const name = path.split('node_modules/').at(-1) ?? ''
    if (path === '' || locked.dev || locked.devOptional || locked.optional || locked.link) return []
    const folder = join(root, path)
    if (!existsSync(folder)) return []
    const own = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as { license?: unknown }
    const license = locked.license ?? (typeof own.license === 'string' ? own.license : 'see below')
    return [{ name, version: locked.version ?? '', license, text: termsOf(folder) }]
  })
}

/** The notices as they are kept: a line a package, then each text once with the packages that it is of. */
export const notices = (root: string): string => {
  const packages = shipped(root)
  const texts = new Map<string, Set<string>>()
  for (const p of packages) {
    if (p.text === '') continue
    const of = texts.get(p.text) ?? new Set()
    of.add(p.name)
    texts.set(p.text, of)
  }
  const lines = [...new Set(packages.map((p) => `${p.name} ${p.version}: ${p.license}`))].sort()
  const blocks = [...texts]
    .map(([text, of]) => `${'-'.repeat(80)}\n${[...of].sort().join(', ')}\n\n${text}\n`)
    .sort()
  return `Packages that run with Clavik, on their own terms. Made by "npm run notices" from what they come with.\n\n${lines.join('\n')}\n\n${blocks.join('\n')}`
}

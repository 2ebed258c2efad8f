import { readFileSync, writeFileSync } from 'node:fs'
import { harnessFindings } from '../core/harness/findings/findings'
import { fitFindings } from '../core/layout/fit/fit'
import { apply } from '../core/rig/edit'
import { emptyRig, panelsOf, rigRow, rowsOf } from '../core/rig/rig'
import { MOST_RIG_BYTES, readRigFile } from '../core/rig/rig-file'
import type { ListedRig } from '../core/rig/rig-list'

const USAGE = `Usage: bin/rig check FILE                what a rig file holds, and what will not work in it
       bin/rig list                      the rigs that are kept
       bin/rig export FILE [--rig NAME]  the open rig, or the one of this name, as a file
       bin/rig import FILE [--open]      keeps what the file holds as one more rig, and opens it
All but check ask the Clavik that runs on this computer: [--port 4310].`

/** What goes wrong in a way that a sentence explains. */
class Problem extends Error {}

interface Asked {
  readonly verb: string
  readonly file: string | null
  readonly rig: string | null
  readonly open: boolean
  readonly port: number
}

const read = (args: readonly string[]): Asked => {
  const plain: string[] = []
  let [rig, open, port]: [string | null, boolean, number] = [null, false, 4310]
  for (let i = 0; i < args.length; i++) {
    const arg = args[i] as string
    if (arg === '--rig') rig = args[++i] ?? null
    else if (arg === '--open') open = true
    else if (arg === '--port') port = Number(args[++i])
    else if (arg.startsWith('--')) throw new Problem(`There is no option ${arg}.\n${USAGE}`)
    else plain.push(arg)
  }
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Problem(`--port takes a number from 1 to 65535.\n${USAGE}`)
  const [verb = '', file = null] = plain
  if (plain.length > 2 || !(verb in verbs) || (verb === 'list') !== (file === null)) throw new Problem(USAGE)
  return { verb, file, rig, open, port }
}

const count = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`
const say = (line: string): void => void process.stdout.write(`${line}\n`)

const textOf = (file: string): string => {
  try {
    return readFileSync(file, 'utf8')
  } catch (error) {
    throw new Problem(`${file} cannot be read: ${error instanceof Error ? error.message : error}.`)
  }
}

const check = ({ file }: Asked): void => {
  const text = textOf(file as string)
  const taken = readRigFile(text)
  if ('problem' in taken) throw new Problem(`${file}: ${taken.problem}`)
  const rig = apply(emptyRig(), taken.diff)
  const holds = (['panel', 'part', 'board', 'lead', 'binding'] as const).map((t) =>
    count(rowsOf(rig, t).length, t === 'lead' ? 'wire' : t),
  )
  say(`${rigRow(rig)?.name ?? 'A rig without a name'}: ${holds.join(', ')}.`)
  const findings = [
    ...panelsOf(rig).flatMap((p) => fitFindings(rig, p).map((f) => `${p.name}: ${f.words}`)),
    ...harnessFindings(rig).map((f) => `Wiring: ${f.words}`),
  ]
  for (const words of findings) say(words)
}

const asJson = async (port: number, path: string, body?: unknown): Promise<Record<string, unknown>> => {
  const asked =
    body === undefined
      ? {}
      : {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        }
  const response = await ask(port, path, asked)
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown>
  if (response.ok) return answer
  const reasons = Array.isArray(answer.reasons) ? answer.reasons.join(' ') : `It answers ${response.status}.`
  throw new Problem(reasons)
}

const ask = async (port: number, path: string, asked: RequestInit = {}): Promise<Response> => {
  try {
    return await fetch(`http://127.0.0.1:${port}${path}`, asked)
  } catch {
    throw new Problem(`Clavik does not answer at 127.0.0.1:${port}; bin/start starts it.`)
  }
}

const rigs = async (port: number): Promise<readonly ListedRig[]> =>
  (await asJson(port, '/api/rigs')).rigs as readonly ListedRig[]

const list = async ({ port }: Asked): Promise<void> => {
  for (const r of await rigs(port)) {
    const state = r.open ? 'open' : r.removed ? 'put aside' : ''
    say(
      `${r.name}\t${count(r.panels, 'panel')}, ${count(r.parts, 'part')}\t${r.changedAt}\t${state}`.trimEnd(),
    )
  }
}

const exported = async ({ port, rig, file }: Asked): Promise<void> => {
  const kept = await rigs(port)
  const found = kept.find((r) => (rig === null ? r.open : r.name === rig))
  if (!found)
    throw new Problem(`There is no rig called “${rig}”. There is: ${kept.map((r) => r.name).join(', ')}.`)
  const response = await ask(port, `/api/rigs/${encodeURIComponent(found.id)}/file`)
  if (!response.ok) throw new Problem(await response.text())
  writeFileSync(file as string, await response.text())
  say(`“${found.name}” is in ${file}.`)
}

const imported = async ({ port, file, open }: Asked): Promise<void> => {
  const text = textOf(file as string)
  if (text.length > MOST_RIG_BYTES)
    throw new Problem(`${file} is larger than ${MOST_RIG_BYTES / 1e6} MB; that is no rig. Nothing was kept.`)
  const { id } = await asJson(port, '/api/rigs', { do: 'take', text })
  if (open) await asJson(port, '/api/rigs', { do: 'open', id })
  const name = (await rigs(port)).find((r) => r.id === id)?.name ?? file
  say(open ? `“${name}” is kept and open.` : `“${name}” is kept.`)
}

const verbs: Readonly<Record<string, (asked: Asked) => void | Promise<void>>> = {
  check,
  list,
  export: exported,
  import: imported,
}

try {
  const asked = read(process.argv.slice(2))
  await verbs[asked.verb]?.(asked)
} catch (error) {
  if (!(error instanceof Problem)) throw error
  process.stderr.write(`${error.message}\n`)
  process.exitCode = 1
}

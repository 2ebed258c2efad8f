import { useRef, useState } from 'react'
import { decoded } from '@/core/drawings/encoding'
import type { Role } from '@/core/drawings/plate-from'
import type { PlateAnswer, PlateChoices, PlateReading } from '@/core/drawings/read-file'

/** A file that is being looked at before anything of it is taken. */
export interface BringingIn {
  readonly name: string
  readonly reading: PlateReading
  readonly choices: PlateChoices
  /** Asked for anew with other choices, and not yet answered. */
  readonly busy: boolean
  readonly choose: (to: Partial<PlateChoices>) => void
  readonly setRole: (layer: string, role: Role) => void
}

interface Refused {
  readonly name: string
  readonly reasons: readonly string[]
}

const ask = async (file: { name: string; text: string }, choices: PlateChoices): Promise<PlateAnswer> => {
  try {
    const response = await fetch('/api/plates', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...file, choices }),
    })
    const answer = (await response.json()) as PlateReading | { reasons: readonly string[] }
    return 'reasons' in answer ? { problem: answer.reasons.join(' ') } : answer
  } catch {
    return { problem: 'The file could not be sent; the web process is away.' }
  }
}

/** Reads a file, and reads it again with each choice; the newest answer counts. */
export const useBringIn = () => {
  const [file, setFile] = useState<{ name: string; text: string } | null>(null)
  const [choices, setChoices] = useState<PlateChoices>({})
  const [reading, setReading] = useState<PlateReading | null>(null)
  const [refused, setRefused] = useState<Refused | null>(null)
  const [busy, setBusy] = useState(false)
  const newest = useRef(0)
  const read = async (f: { name: string; text: string }, by: PlateChoices) => {
    const own = ++newest.current
    setBusy(true)
    const answer = await ask(f, by)
    if (own !== newest.current) return
    setBusy(false)
    if ('layers' in answer) {
      setReading(answer)
      setRefused(null)
    } else {
      setReading(null)
      setRefused({ name: f.name, reasons: [answer.problem] })
    }
  }
  const open = async (chosen: File) => {
    const f = { name: chosen.name, text: decoded(new Uint8Array(await chosen.arrayBuffer())) }
    setFile(f)
    setChoices({})
    setReading(null)
    setRefused(null)
    await read(f, {})
  }
  const choose = (to: Partial<PlateChoices>) => {
    if (!file) return
    const next = { ...choices, ...to }
    setChoices(next)
    void read(file, next)
  }
  const setRole = (layer: string, role: Role) =>
    choose({ roles: [...(choices.roles ?? []).filter(([name]) => name !== layer), [layer, role]] })
  const close = () => {
    newest.current++
    setFile(null)
    setReading(null)
    setBusy(false)
  }
  const bringing: BringingIn | null =
    file && reading ? { name: file.name, reading, choices, busy, choose, setRole } : null
  return { open, close, bringing, refused }
}

import { readdir, readFile, readlink } from 'node:fs/promises'
import { join } from 'node:path'
import { type Plugged, whichIsWhich } from '../../core/controllers/which'
import type { FoundController } from '../../core/live/feed'
import type { ConnectionRow } from '../../core/rig/rows'
import { type Trouble, trouble } from '../lines/line'
import { Looking } from '../looking'

/** A controller as the system lists it. */
export interface ListedController extends Plugged {
  /** Another one after each time that it is plugged in. */
  readonly key: string
  readonly name: string
  readonly keys: readonly number[]
  readonly axes: readonly number[]
}

/** Lists the controllers that are plugged in; what was there before is given, and need not be read again. */
export type LookForControllers = (
  before: ReadonlyMap<string, ListedController | null>,
) => Promise<ReadonlyMap<string, ListedController | null>>

const textOf = (path: string): Promise<string> =>
  readFile(path, 'utf8').then(
    (t) => t.trim(),
    () => '',
  )

/** Bits as sysfs has them: words of 64 in hexadecimal digits, the highest first. */
export const bitsIn = (text: string): number[] => {
  const words = text.split(/\s+/).filter((w) => /^[0-9a-f]+$/i.test(w))
  return words.reverse().flatMap((word, i) => {
    const value = BigInt(`0x${word}`)
    return Array.from({ length: 64 }, (_, b) => b).flatMap((b) =>
      (value >> BigInt(b)) & 1n ? [i * 64 + b] : [],
    )
  })
}

const isStickKey = (key: number): boolean =>
  (key >= 0x100 && key <= 0x109) || (key >= 0x120 && key <= 0x13f) || (key >= 0x2c0 && key <= 0x2e7)
/** Mice, pens, touch pads; and what feels which way a device is held. */
const POINTING = [0x110, 0x140, 0x145, 0x14a]
const ACCELEROMETER = 6
/** What Clavik itself presses is nobody's hand. */
const OURS = /^Clavik (keys|controller)$/

/** Whether what the system lists is a controller: buttons of sticks, or axes that are neither a pointer's nor a sensor's. */
const isController = (keys: readonly number[], axes: readonly number[], properties: readonly number[]) =>
  !properties.includes(ACCELEROMETER) &&
  !keys.some((k) => POINTING.includes(k)) &&
  (keys.some(isStickKey) || (axes.length > 0 && keys.length === 0))

const read = async (
  sys: string,
  dev: string,
  name: string,
  key: string,
): Promise<ListedController | null> => {
  const at = (file: string) => textOf(join(sys, name, 'device', file))
  const [called, serial, port, vendor, product, keyBits, absBits, properties] = await Promise.all(
    [
      'name',
      'uniq',
      'phys',
      'id/vendor',
      'id/product',
      'capabilities/key',
      'capabilities/abs',
      'properties',
    ].map(at),
  )
  const keys = bitsIn(keyBits ?? '')
  const axes = bitsIn(absBits ?? '')
  if (OURS.test(called ?? '') || !isController(keys, axes, bitsIn(properties ?? ''))) return null
  return {
    ...{ key, path: join(dev, name), name: called ?? '', serial: serial ?? '', port: port ?? '', keys, axes },
    vendor: Number.parseInt(vendor || '0', 16),
    product: Number.parseInt(product || '0', 16),
  }
}

/** Looks in the system's own lists of event devices; there are none where there are no such lists. */
export const controllersHere =
  (sys = '/sys/class/input', dev = '/dev/input'): LookForControllers =>
  async (before) => {
    const names = (await readdir(sys).catch(() => [])).filter((n) => /^event\d+$/.test(n))
    const found = await Promise.all(
      names.map(async (name): Promise<[string, ListedController | null]> => {
        const key = await readlink(join(sys, name)).catch(() => name)
        const known = before.get(key)
        return [key, known === undefined ? await read(sys, dev, name, key) : known]
      }),
    )
    return new Map(found)
  }

export interface ControllerSurroundings {
  /** The connections of the rig. */
  readonly rows: () => readonly ConnectionRow[]
  /** Controllers have come or gone. */
  readonly changed: () => void
}

/** The controllers that are plugged in, and which of them are those that the rig knows. */
export class PluggedControllers {
  private listed: ReadonlyMap<string, ListedController | null> = new Map()
  private readonly looking = new Looking(() => this.lookNow())
  private looked = false
  private readonly first = new Set<string>()

  constructor(
    private readonly look: LookForControllers,
    private readonly around: ControllerSurroundings,
  ) {}

  open(): void {
    this.looking.open()
  }

  close(): void {
    this.looking.close()
  }

  async lookNow(): Promise<void> {
    const before = this.listed
    this.listed = await this.look(before)
    if (!this.looked) for (const key of this.listed.keys()) this.first.add(key)
    this.looked = true
    const same = before.size === this.listed.size && [...before.keys()].every((k) => this.listed.has(k))
    if (!same) this.around.changed()
  }

  private get there(): ListedController[] {
    return [...this.listed.values()].filter((c) => c !== null)
  }

  private found() {
    const known = this.around.rows().flatMap(({ id, on, settings }) => {
      if (!on || settings.kind !== 'controller') return []
      const { vendor, product, serial, port } = settings
      return [{ id, vendor, product, serial, port }]
    })
    return whichIsWhich(known, this.there)
  }

  /** Where the controller of a connection is now, or why that cannot be told. */
  placeOf(connection: string): string | Trouble {
    const it = this.found().get(connection)
    if (!it) return trouble('it is not plugged in', 'Plug it in; on which port does not matter.')
    if ('path' in it) return it.path
    return trouble(
      it.unclear.length > 1
        ? 'several that are alike were moved to other ports, and nothing tells them apart'
        : 'one that is alike is plugged in, and may be another one',
      'Under “Plugged in here”, say which one it is.',
    )
  }

  /** What is plugged in, by name, with the connection that has it. */
  all(): FoundController[] {
    const owner = new Map(
      [...this.found()].flatMap(([id, f]) => ('path' in f ? [[f.path, id] as const] : [])),
    )
    return this.there
      .map(({ key, ...c }) => ({ ...c, usedBy: owner.get(c.path) ?? null, fresh: !this.first.has(key) }))
      .sort((a, b) => (a.path < b.path ? -1 : 1))
  }
}

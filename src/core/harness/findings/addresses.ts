import { expanderKind } from '../../catalogue/expanders'
import { kindOf } from '../../catalogue/own-kind'
import { type Change, changeRow } from '../../rig/edit'
import { expandersOf, leadsOnBoard, type Rig, rowsOf } from '../../rig/rig'
import { changed, type HarnessFinding } from './finding'

/** Something on the two-wire bus of a board. */
interface Device {
  readonly name: string
  readonly partId: string | null
  readonly expanderId: string | null
  readonly first: number
  readonly count: number
  readonly never: readonly number[]
  readonly jumpers: number
  readonly set: (jumpers: number) => Change | null
}

const devicesOn = (rig: Rig, boardId: string): Device[] => {
  const devices: Device[] = []
  for (const expander of expandersOf(rig, boardId)) {
    const addresses = expanderKind(expander.kind)?.addresses
    if (!addresses) continue
    devices.push({
      ...{
        name: expander.name,
        partId: null,
        expanderId: expander.id,
        never: [],
        ...addresses,
        jumpers: expander.jumpers,
      },
      set: (jumpers) => changeRow('expander', expander, { ...expander, jumpers }),
    })
  }
  const parts = new Set(leadsOnBoard(rig, boardId).flatMap((l) => l.partId ?? []))
  for (const id of parts) {
    const part = rig.part[id]
    const addresses = part && kindOf(part)?.addresses
    const onBus = leadsOnBoard(rig, boardId).some((l) => l.partId === id && l.terminal === 'data')
    if (!part || !addresses || !onBus) continue
    devices.push({
      ...{
        name: part.name,
        partId: id,
        expanderId: null,
        first: addresses.first,
        count: addresses.count,
        never: [],
      },
      jumpers: part.settings.jumpers ?? addresses.asMade,
      set: (jumpers) => changeRow('part', part, { ...part, settings: { ...part.settings, jumpers } }),
    })
  }
  return devices
}

/** Two things on one two-wire bus that answer to the same address. */
export const addressClashes = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'board').flatMap((board) => {
    const devices = devicesOn(rig, board.id)
    const taken = new Map<number, Device>()
    const found: HarnessFinding[] = []
    for (const device of devices) {
      const address = device.first + device.jumpers
      const other = taken.get(address)
      const reserved = device.never.includes(device.jumpers)
      if (!other && !reserved) {
        taken.set(address, device)
        continue
      }
      const used = new Set(devices.map((d) => d.first + d.jumpers))
      const free = Array.from({ length: device.count }, (_, j) => j).find(
        (j) => !used.has(device.first + j) && !device.never.includes(j),
      )
      found.push({
        id: `address ${device.partId ?? device.expanderId}`,
        kind: 'address',
        words: reserved
          ? `${device.name} is set to an address at which all chips of its kind answer: it would take what is meant for each of them.`
          : `${other?.name} and ${device.name} answer to the same address on the two-wire bus of ${board.name}: both would show or do the same, or neither anything.`,
        place: {
          partIds: [other, device].flatMap((d) => d?.partId ?? []),
          leadIds: [],
          boardId: board.id,
          expanderId: device.expanderId ?? other?.expanderId ?? undefined,
        },
        cure:
          free === undefined
            ? null
            : {
                words: `Set the jumpers of ${device.name} to ${free}`,
                changes: () => changed(device.set(free)),
              },
      })
    }
    return found
  })

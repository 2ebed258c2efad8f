import type { BoardModel, Pin } from '../../catalogue/board-model'
import { pinOf } from '../../catalogue/boards'
import type { ExpanderKind } from '../../catalogue/expander-kind'
import { channelsOf } from '../../catalogue/expanders'
import { ability, type Site } from './instance'

/** A pin costs a little, so that channels of expanders that are there are used before pins. */
const PIN_COST = 1

/** What a pin can do, bit by bit. */
export const pinAbilities = (pin: Pin): number => {
  let bits = 0
  for (const a of pin.abilities) {
    if (a === 'digital') bits |= ability.lamp | ability.drive | ability.servo | ability.coil
    else if (a === 'pull-up') bits |= pin.loaded ? 0 : ability.contact | ability.signal
    else if (a === 'analog') bits |= ability.wiper
    else bits |= ability[a]
  }
  return bits
}

export interface NamedSite extends Site {
  readonly name: string
}

/** The pins of a board that are there for wires, row by row as they lie on it; `header` is the number of its first row. */
export const boardSites = (model: BoardModel, host: number, header: number): NamedSite[] =>
  model.headers.flatMap((row, h) =>
    row.contacts.flatMap((name, at) => {
      const pin = pinOf(model, name)
      if (!pin || pin.taken) return []
      return [{ host, header: header + h, at, abilities: pinAbilities(pin), cost: PIN_COST, name }]
    }),
  )

/** The channels of an expander as sites; those of gauge motors in rows of four. */
export const channelSites = (
  kind: ExpanderKind,
  chips: number,
  host: number,
  header: number,
): { sites: Site[]; rows: number; whole: boolean } => {
  let abilities = 0
  for (const a of kind.abilities) abilities |= a === 'bus' ? 0 : ability[a]
  if (kind.inductive) abilities = ability.inductive
  const whole = kind.abilities.includes('coil')
  const sites = Array.from({ length: channelsOf(kind, chips) }, (_, c) => ({
    host,
    header: whole ? header + Math.floor(c / 4) : header,
    at: whole ? c % 4 : c,
    abilities: kind.abilities.includes('bus') ? ability[c === 0 ? 'bus-data' : 'bus-clock'] : abilities,
    cost: 0,
  }))
  return { sites, rows: whole ? channelsOf(kind, chips) / 4 : 1, whole }
}

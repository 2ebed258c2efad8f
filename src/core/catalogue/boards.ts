import type { BoardModel, Pin } from './board-model'
import { atmega32u4 } from './boards/atmega32u4'
import { atmega328p, atmega328pSmall } from './boards/atmega328p'
import { atmega2560, atmega2560Small } from './boards/atmega2560'
import { rp2040 } from './boards/rp2040'

/** Every model of board there is. */
export const boardModels: readonly BoardModel[] = [
  atmega328p,
  atmega328pSmall,
  atmega32u4,
  atmega2560,
  atmega2560Small,
  rp2040,
]
const byId = new Map(boardModels.map((m) => [m.id, m]))

/** The catalogue's record of a board model, or undefined for one this Clavik does not know. */
export const boardModel = (id: string): BoardModel | undefined => byId.get(id)

const pinsByName = new WeakMap<BoardModel, Map<string, Pin>>()

export const pinOf = (model: BoardModel, name: string): Pin | undefined => {
  let pins = pinsByName.get(model)
  if (!pins) {
    pins = new Map(model.pins.map((p) => [p.name, p]))
    pinsByName.set(model, pins)
  }
  return pins.get(name)
}

/** Whether a name is a contact of the board that gives a supply. */
export const railOf = (model: BoardModel, contact: string) => model.rails.find((r) => r.contact === contact)

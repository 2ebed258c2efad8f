import type { BoardModel, Pin } from './board-model'
import { atmega328p } from './boards/atmega328p'
import { atmega2560 } from './boards/atmega2560'

const all: BoardModel[] = [atmega2560, atmega328p]
const byId = new Map(all.map((m) => [m.id, m]))

/** The catalogue's record of a board model, or undefined for one this Clavik does not know. */
export const boardModel = (id: string): BoardModel | undefined => byId.get(id)

export const pinOf = (model: BoardModel, name: string): Pin | undefined =>
  model.pins.find((p) => p.name === name)

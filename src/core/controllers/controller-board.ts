import { type BoardModel, type Header, PITCH_MM, type Pin } from '../catalogue/board-model'
import { type Capabilities, type ControllerInput, inputsOf } from './capabilities'

const hex = (word: number): string => word.toString(16).padStart(4, '0')

/** Contacts of one row; what hangs on a row that is much longer could not be read. */
const MOST_IN_A_ROW = 40

const pinOf = ({ name, pin, is }: ControllerInput): Pin =>
  is === 'axis'
    ? { name, number: pin, abilities: ['analog'], only: 'analog' }
    : { name, number: pin, abilities: ['pull-up'], only: 'input' }

/** Inputs in two rows that face away from each other, or more where there are very many. */
const rowsOf = (inputs: readonly ControllerInput[]): readonly (readonly ControllerInput[])[] => {
  const rows = Math.max(2, Math.ceil(inputs.length / MOST_IN_A_ROW))
  const each = Math.ceil(inputs.length / rows)
  return Array.from({ length: rows }, (_, i) => inputs.slice(i * each, (i + 1) * each)).filter(
    (r) => r.length > 0,
  )
}

/** A controller as a board whose contacts are given: what hangs on each is inside, and nothing can be driven. */
export const controllerBoard = (hello: Capabilities): BoardModel => {
  const rows = rowsOf(inputsOf(hello))
  const longest = Math.max(...rows.map((r) => r.length), 4)
  const apartMm = 34
  const headers = rows.map(
    (row, i): Header => ({
      xMm: 4 + i * apartMm,
      yMm: 6,
      runs: 'down',
      faces: i % 2 === 0 ? 'left' : 'right',
      contacts: row.map((input) => input.name),
    }),
  )
  return {
    id: `usb-${hex(hello.vendor)}-${hex(hello.product)}`,
    name: hello.name.trim().slice(0, 60) || 'Controller',
    given: true,
    // What its record asks for and nobody measures: it lives on its own USB cable, at the least that USB grants a device.
    logicVolts: 5,
    milliampsPerPin: 1,
    milliampsAllPins: 100,
    groups: [],
    ownMilliamps: 100,
    rails: [],
    widthMm: Math.max(1, rows.length - 1) * apartMm + 8,
    heightMm: longest * PITCH_MM + 10,
    plug: 'top',
    headers,
    pins: rows.flat().map(pinOf),
  }
}

import { readDxf } from './read-dxf'
import { plateFrom, type ReadPlate } from './read-plate'
import { readSvg } from './read-svg'

/** A file that is to become a plate: its text, what it is called, and what its numbers measure where it does not say. */
export interface PlateFile {
  readonly text: string
  readonly name: string
  readonly unitMm: number | null
}

export type PlateAnswer =
  | { readonly plate: ReadPlate }
  | { readonly unitNeeded: true }
  | { readonly problem: string }

/** Reads a plate out of an SVG or DXF file. Whatever is in it, this gives an answer or throws, and changes nothing. */
export const readPlateFile = ({ text, name, unitMm }: PlateFile): PlateAnswer => {
  const isDxf = /\.dxf$/i.test(name) || !text.trimStart().startsWith('<')
  const read = isDxf ? readDxf(text) : readSvg(text)
  if ('problem' in read) return read
  const unit = read.unitMm ?? unitMm
  if (unit === null)
    return read.found.length === 0 ? { problem: 'There are no lines in it.' } : { unitNeeded: true }
  const plate = plateFrom(read, unit)
  return 'problem' in plate ? plate : { plate }
}

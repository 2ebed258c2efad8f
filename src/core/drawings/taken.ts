import { boundsOf, boxAround } from '../geometry/boxes'
import { placedAt, transformed } from '../geometry/matrix'
import { pathData } from '../geometry/path-data'
import { contoursOf } from '../geometry/read-path-data'
import { capHeight } from '../lettering/lettering'
import { addRow, type Change, changeRow } from '../rig/edit'
import type { LegendRow, PanelRow } from '../rig/rows'
import type { ReadPlate } from './plate-from'

/** What of a plate that was read goes into a panel's settings. */
export const settingsOf = (plate: ReadPlate): PanelRow['settings'] => ({
  holes: [...plate.holes],
  ...(plate.outline === undefined ? {} : { outline: plate.outline }),
  ...(plate.windows.length > 0 ? { windows: [...plate.windows] } : {}),
})

/** What of a plate that was read is taken along. */
export interface Taking {
  readonly texts: boolean
  readonly engraved: boolean
}

/** The edit that makes a panel of a plate that was read; what it has of its own besides (parts, guides) stays. */
export const taken = (panel: PanelRow, plate: ReadPlate, taking: Taking, newId: () => string): Change[] => {
  const { outline: _edge, windows: _windows, ...kept } = panel.settings
  const after: PanelRow = {
    ...panel,
    widthMm: plate.widthMm,
    heightMm: plate.heightMm,
    cornerMm: plate.cornerMm,
    settings: { ...kept, ...settingsOf(plate) },
  }
  const legend = (row: Pick<LegendRow, 'xMm' | 'yMm' | 'settings'>): Change =>
    addRow('legend', { id: newId(), panelId: panel.id, partId: null, ...row })
  const engraved = taking.engraved ? plate.engraved.map((e) => legend(lines(e.layer, e.d))) : []
  const texts = taking.texts
    ? plate.letters.map((l) =>
        legend({
          xMm: l.at.x,
          yMm: l.at.y,
          settings: {
            kind: 'text',
            text: l.text,
            // Sizes of legends are of the whole letter, those in drawings of its capitals.
            sizeMm: Math.round((l.capHeightMm / capHeight()) * 100) / 100,
            anchor: l.anchor,
            ...(l.deg === 0 ? {} : { rotationDeg: l.deg }),
          },
        }),
      )
    : []
  return [changeRow('panel', panel, after), ...engraved, ...texts].filter((c): c is Change => c !== null)
}

/** Lines as a legend whose place is the upper left corner of what they take. */
const lines = (layer: string, d: string): Pick<LegendRow, 'xMm' | 'yMm' | 'settings'> => {
  const contours = contoursOf(d)
  const box = contours.map(boundsOf).reduce(boxAround)
  const [xMm, yMm] = [box.minX, box.minY].map((n) => Math.round(n * 1000) / 1000) as [number, number]
  const home = placedAt(-xMm, -yMm)
  return {
    xMm,
    yMm,
    settings: {
      kind: 'drawing',
      name: layer.slice(0, 120),
      d: contours.map((c) => pathData(transformed(c, home))).join(''),
    },
  }
}

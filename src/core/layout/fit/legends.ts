import type RBush from 'rbush'
import { kindOf } from '../../catalogue/own-kind'
import { partKind } from '../../catalogue/parts'
import { boxOf } from '../../geometry/boxes'
import { distance, type Point, point } from '../../geometry/contour'
import { isInside, overlap } from '../../geometry/rings'
import { missingLetters } from '../../lettering/lettering'
import type { Rig } from '../../rig/rig'
import type { PanelRow, PartRow } from '../../rig/rows'
import { formatNumber } from '../../signal/format'
import type { Degrees } from '../../units-of-measure'
import { atAngle, legendMarks, markOutline, positionAngles, positionLabel } from '../legend-marks'
import { keyOf, legendsOf } from '../things'
import { backInside, cureBy, wayOff } from './cures'
import type { Add } from './finding'
import { meet, type Region, region } from './regions'

/** A word that is tied to a switch counts as meant for a position when it is at most so far off its knob's edge. */
const RING_REACH_MM = 16
const MOST_OFF_DEG = 8

const angleOf = (middle: Point, p: Point): Degrees =>
  (Math.atan2(p.x - middle.x, middle.y - p.y) * 180) / Math.PI

const degrees = (deg: Degrees): string => `${formatNumber(Math.round(deg))}°`

const apart = (a: Degrees, b: Degrees): Degrees => Math.abs(((a - b + 540) % 360) - 180)

/** Legends that reach beyond the panel, lie under a part, or stand where their switch does not stop. */
export const legendFindings = (
  rig: Rig,
  panel: PanelRow,
  front: RBush<Region>,
  edge: readonly Point[],
  add: Add,
) => {
  for (const legend of legendsOf(rig, panel.id)) {
    const key = keyOf('legend', legend.id)
    const part = rig.part[legend.partId ?? '']
    for (const mark of legendMarks(legend, part)) {
      const own = region(key, mark.is === 'text' ? `“${mark.text}”` : 'a line', markOutline(mark))
      if (!own.outline.every((p) => isInside(p, edge))) {
        add({
          kind: 'beyond',
          keys: [key],
          words: `${mark.is === 'text' ? `The legend ${own.name}` : 'A line'} reaches beyond the panel.`,
          box: own,
          cure: backInside(own, boxOf(edge)),
        })
      }
      if (mark.is !== 'text') continue
      const missing = missingLetters(mark.text, mark.font)
      if (missing.length > 0)
        add({
          kind: 'letter',
          keys: [key],
          words: `No face of the font has ${listed(missing)} of the legend ${own.name}; ${missing.length === 1 ? 'it' : 'each'} would be engraved as an empty box.`,
          box: own,
          cure: null,
        })
      for (const over of front.search(own)) {
        if (!meet(own, over) || !overlap(own.outline, over.outline) || isFace(rig, over.key)) continue
        add({
          kind: 'legend under',
          keys: [key, over.key],
          words: `The legend ${own.name} lies under ${over.name}.`,
          box: own,
          cure: cureBy(key, own.name, wayOff(own, over, 0.5)),
        })
      }
    }
    if (part && legend.settings.kind === 'text') offAngle(rig, legend.id, part, add)
  }
}

const MOST_LISTED = 5
const listed = (letters: readonly string[]): string =>
  letters
    .slice(0, MOST_LISTED)
    .map((c) => `“${c}”`)
    .join(', ') + (letters.length > MOST_LISTED ? ` and ${letters.length - MOST_LISTED} more` : '')

/** Fields that carry words themselves: what is engraved there is meant to be there. */
const isFace = (rig: Rig, key: string): boolean => {
  const look = partKind(rig.part[key.slice('part/'.length)]?.kind ?? '')?.front.look
  return look === 'legend-lamp' || look === 'gauge'
}

/** A word beside a switch that stands where the switch does not stop. */
const offAngle = (rig: Rig, legendId: string, part: PartRow, add: Add): void => {
  const angles = positionAngles(part)
  const kind = kindOf(part)
  const legend = rig.legend[legendId]
  if (angles.length === 0 || !kind || !legend || legend.settings.kind !== 'text') return
  const [mark] = legendMarks(legend, part)
  if (!mark) return
  const box = boxOf(markOutline(mark))
  const at = point((box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2)
  const middle = point(part.xMm, part.yMm)
  if (distance(at, middle) > kind.frontMm.width / 2 + RING_REACH_MM) return
  const labels = angles.map((a) => positionLabel(part, a.position))
  const { text } = legend.settings
  const meant = labels.indexOf(text)
  const own = angleOf(middle, at)
  const wanted = meant >= 0 ? angles[meant] : undefined
  if (!wanted || apart(own, wanted.deg) <= MOST_OFF_DEG) return
  const to = atAngle(middle, wanted.deg, distance(at, middle))
  const key = keyOf('legend', legendId)
  add({
    kind: 'angle',
    keys: [key, keyOf('part', part.id)],
    words: `“${text}” stands at ${degrees(own)}, but “${part.name}” stops at ${degrees(wanted.deg)}.`,
    box,
    cure: {
      words: `Put it at ${degrees(wanted.deg)}`,
      moves: new Map([[key, { dx: to.x - at.x, dy: to.y - at.y }]]),
    },
  })
}

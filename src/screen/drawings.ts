import type { ElementKindName, ElementSettings } from '../core/elements/elements'
import { drawAnnunciator } from './draw/annunciator'
import { drawBar } from './draw/bar'
import { drawCompass } from './draw/compass'
import { drawHorizon } from './draw/horizon'
import { drawLamps } from './draw/lamps'
import { drawNeedle } from './draw/needle'
import { drawPart } from './draw/part'
import { drawArc, drawFrame, drawLine, drawPicture, drawWords } from './draw/shapes'
import { drawTape } from './draw/tape'
import { drawTouch } from './draw/touch'
import { drawTrend } from './draw/trend'
import { drawValue } from './draw/value'
import type { DrawElement } from './drawing'

/** How each kind of element is drawn. */
const drawings: { readonly [K in ElementKindName]: DrawElement<Extract<ElementSettings, { kind: K }>> } = {
  value: drawValue,
  needle: drawNeedle,
  bar: drawBar,
  lamps: drawLamps,
  annunciator: drawAnnunciator,
  tape: drawTape,
  compass: drawCompass,
  horizon: drawHorizon,
  trend: drawTrend,
  words: drawWords,
  frame: drawFrame,
  line: drawLine,
  arc: drawArc,
  picture: drawPicture,
  touch: drawTouch,
  part: drawPart,
}

export const drawingOf = (settings: ElementSettings): DrawElement<ElementSettings> =>
  drawings[settings.kind] as DrawElement<ElementSettings>

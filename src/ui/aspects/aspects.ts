import type {
  Aspect,
  ColourAspect,
  ControlAspect,
  DigitsAspect,
  EncoderAspect,
  IndicatorAspect,
  LampAspect,
  NeedleAspect,
  PositionsAspect,
  TextAspect,
  TravelAspect,
} from '@/core/catalogue/part-kind'
import { isControl } from '@/core/catalogue/part-kind'
import type { ColourSettings, DigitsSettings, IndicatorSettings, TextSettings } from '@/core/rig/binding'
import { CoarseForm } from '../editors/coarse-form'
import { ColourForm } from '../editors/colour-form'
import { DigitsForm } from '../editors/digits-form'
import { EncoderForm } from '../editors/encoder-form'
import { NeedleForm } from '../editors/needle-form'
import { PageForm } from '../editors/page-form'
import { PositionsForm } from '../editors/positions-form'
import { TravelForm } from '../editors/travel-form'
import type { ControlUi, IndicatorUi, When } from './aspect-ui'

const gestures: readonly When[] = ['press', 'release', 'short', 'long', 'double', 'repeat', 'hold']

const positions: ControlUi<PositionsAspect> = {
  hint: 'input is where the control stands. match(input, "up", 0, "down", 2) gives a value for each position.',
  Own: PositionsForm,
  whens: (aspect) =>
    aspect.momentary && aspect.positions.length === 2 ? gestures : ['position', ...gestures],
}

const encoder: ControlUi<EncoderAspect> = {
  hint: 'input is how many clicks it was turned, clockwise above zero.',
  Own: EncoderForm,
  whens: () => ['turn', 'clockwise', 'counter'],
  Tuning: CoarseForm,
}

const travel: ControlUi<TravelAspect> = {
  hint: 'input is where the control stands, from 0 to 1 or as its bands give it.',
  Own: TravelForm,
  whens: () => ['move'],
}

const lamp: IndicatorUi<LampAspect, IndicatorSettings> = {
  hint: 'input is the variable. A lamp takes on, off, a brightness from 0 to 1, or blink(times a second).',
  rests: { out: 'out', lit: 'lit', keep: 'as it was' },
}

const digits: IndicatorUi<DigitsAspect, DigitsSettings> = {
  hint: 'input is the variable; what comes out is written in the window.',
  rests: { out: 'blank', dashes: 'dashes', keep: 'as it was' },
  Shows: DigitsForm,
}

const text: IndicatorUi<TextAspect, TextSettings> = {
  hint: 'Each line is a text: join("HDG ", zeros(ap.heading.target, 3)). Absent values become dashes.',
  rests: { out: 'blank', keep: 'as it was' },
  showsLines: true,
  Shows: PageForm,
}

const needle: IndicatorUi<NeedleAspect, IndicatorSettings> = {
  hint: 'input is the variable; the needle points of the part say where the result stands.',
  rests: { out: 'home', keep: 'as it was' },
  Own: NeedleForm,
}

const colour: IndicatorUi<ColourAspect, ColourSettings> = {
  hint: 'input is the variable; the stops below say which colour the result has.',
  rests: { out: 'blank', keep: 'as it was' },
  Shows: ColourForm,
}

/** Every kind of control and indicator, as the interface has it; `core/aspects` holds the other half. */
const controls = { positions, encoder, travel }
const indicators = { lamp, digits, text, needle, colour }

type AnyControl = ControlUi<ControlAspect>
type AnyIndicator = IndicatorUi<IndicatorAspect, IndicatorSettings>

export const controlUi = (kind: ControlAspect['kind']): AnyControl => controls[kind] as unknown as AnyControl
export const indicatorUi = (kind: IndicatorAspect['kind']): AnyIndicator =>
  indicators[kind] as unknown as AnyIndicator
export const aspectUi = (aspect: Aspect): AnyControl | AnyIndicator =>
  isControl(aspect) ? controlUi(aspect.kind) : indicatorUi(aspect.kind)

import type { IndicatorAspect } from '../catalogue/part-kind'
import { homeOf, motorTenths } from '../harness/wiring'
import { type IndicatorSettings, takesInput } from '../rig/binding'
import { type NeedleSettings, settingsOf } from '../rig/part-settings'
import { layersOf, type Rig } from '../rig/rig'
import type { BindingRow, PartRow } from '../rig/rows'
import type { CatalogueIndex } from '../rig/simulator-catalogue'
import { type ColourRule, colourState, darkState, whiteState } from '../signal/colours'
import { allSegments, blankDigits, digitsState, digitsText } from '../signal/digits'
import type { Scope } from '../signal/expression/checked'
import type { Compiled, Evaluate, Values, Wanted } from '../signal/expression/compile'
import { LIT, OUT, packLamp } from '../signal/lamp-state'
import { needleAngle } from '../signal/needle'
import { textRow, withCursor } from '../signal/text-page'
import type { State } from './input'
import type { BindingMistake, Mistakes } from './mistakes'
import { type CompiledLayer, layerKey, type OwnSlots, unknownVariable } from './scope'

/** A binding of an indicator as the engine runs it. */
export interface IndicatorProgram {
  readonly kind: 'indicator'
  readonly row: BindingRow
  readonly settings: IndicatorSettings
  /** The slot `input` is read from, or -1. */
  readonly source: number
  readonly sourceIsText: boolean
  /** A lamp's state for an input, without any detour: lamps are most of what a frame concerns. */
  readonly packs: Evaluate | null
  /** What it shows for an input, null where it has no say; null itself when the binding is off or has a mistake. */
  readonly state: ((input: number | string | null) => State | null) | null
  /** Whether an absent input is shown as such rather than leaving the say to the next binding. */
  readonly showsAbsent: boolean
  readonly condition: Evaluate | null
  readonly layer: CompiledLayer | null
  /** The main expression, for the trace; text pages have several and none of them is the main one. */
  readonly show: Compiled | null
  readonly onlyWhile: Compiled | null
  /** Every slot whose change can change what is shown. */
  readonly reads: readonly number[]
  readonly mistakes: readonly BindingMistake[]
  /** What it threw, once it has; it is not asked again before it is compiled anew. */
  fault: string | null
}

/** What an aspect shows at rest, lit as far as it goes, and for a bare value that no binding shapes. */
export interface Presence {
  rest(how: string): State | null
  readonly all: State
  /** A value shown by hand. */
  bare(value: number | string): State | null
  /** Its whole range, as values for `bare` or for the shown state, at a share of the way. */
  sweep(share: number): State
}

const numberOf = (value: number | string): number => (typeof value === 'number' ? value : Number(value))

export const presenceOf = (part: PartRow, aspect: IndicatorAspect): Presence => {
  switch (aspect.kind) {
    case 'lamp':
      return {
        rest: (how) => (how === 'lit' ? LIT : OUT),
        all: LIT,
        bare: (v) => {
          const n = numberOf(v)
          return Number.isFinite(n) ? packLamp(n, 0) : null
        },
        sweep: (share) => packLamp(share, 0),
      }
    case 'digits': {
      const { digits } = aspect
      return {
        rest: (how) => (how === 'dashes' ? digitsState('-'.repeat(digits), 1) : blankDigits(digits)),
        all: allSegments(digits),
        bare: (v) => {
          const n = numberOf(v)
          if (!Number.isFinite(n)) return digitsState(digitsText(String(v), plainDigits, digits), 1)
          const decimals = Math.min(7, String(v).split('.')[1]?.length ?? 0)
          return digitsState(digitsText(n, { ...plainDigits, decimals }, digits), 1)
        },
        sweep: (share) => digitsState(String(Math.min(9, Math.floor(share * 10))).repeat(digits), 1),
      }
    }
    case 'text': {
      const { columns, rows } = aspect
      const page = (fill: (row: number) => string) =>
        Array.from({ length: rows }, (_, row) => textRow(fill(row), columns)).join('\n')
      return {
        rest: () => page(() => ''),
        all: page(() => '#'.repeat(columns)),
        bare: (v) => {
          const lines = String(v).split('\n')
          return page((row) => lines[row] ?? '')
        },
        sweep: (share) => page(() => '#'.repeat(Math.round(share * columns))),
      }
    }
    case 'needle': {
      const dial = settingsOf(part.settings, aspect.id, 'needle')
      const least = dial?.leastDeg ?? dial?.points[0]?.deg ?? -aspect.travelDeg / 2
      const most = dial?.mostDeg ?? dial?.points.at(-1)?.deg ?? aspect.travelDeg / 2
      const stand = needleStand(aspect.travelDeg, dial)
      return {
        rest: () => motorTenths(aspect.travelDeg, dial, homeOf(dial)),
        all: motorTenths(aspect.travelDeg, dial, most),
        bare: (v) => stand(numberOf(v)),
        sweep: (share) => motorTenths(aspect.travelDeg, dial, least + share * (most - least)),
      }
    }
    case 'colour': {
      const { lamps } = aspect
      return {
        rest: () => darkState(lamps),
        all: whiteState(lamps),
        bare: (v) => {
          const level = Math.round(Math.min(1, Math.max(0, numberOf(v))) * 255)
          return Number.isFinite(level) ? `\0${String.fromCharCode(level).repeat(lamps * 3)}` : null
        },
        sweep: (share) => colourState({ ...whiteFill, stops: [{ at: 0, colour: '#ffffff' }] }, share, lamps),
      }
    }
  }
}

const plainDigits = { decimals: 0, leading: 'blanks', sign: 'minus' } as const
const whiteFill = { blend: false, fill: 'start', least: 0, most: 1, blinkAbove: null } as const

/** Value to tenths of a degree of the motor, within the limits the builder set; null for no value or no points. */
const needleStand = (
  travelDeg: number,
  dial: NeedleSettings | undefined,
): ((value: number) => number | null) => {
  if (!dial) return () => null
  const angle = needleAngle(dial.points, dial.smooth)
  const least = dial.leastDeg ?? Number.NEGATIVE_INFINITY
  const most = dial.mostDeg ?? Number.POSITIVE_INFINITY
  return (value) => {
    if (!Number.isFinite(value)) return null
    return motorTenths(travelDeg, dial, Math.min(most, Math.max(least, angle(value))))
  }
}

interface Context {
  readonly rig: Rig
  readonly part: PartRow
  readonly row: BindingRow
  readonly aspect: IndicatorAspect
  readonly index: CatalogueIndex
  readonly values: Values
  readonly slots: OwnSlots
  readonly scope: Scope
}

/** Compiles an indicator's binding; what is wrong with it becomes a mistake at its station. */
export const compileIndicator = (
  context: Context,
  settings: IndicatorSettings,
  onlyWhile: Compiled | null,
  layer: CompiledLayer | null,
  mistakes: Mistakes,
): IndicatorProgram => {
  const { row, index } = context
  const source = settings.variable ? (index.variable.get(settings.variable) ?? -1) : -1
  if (settings.variable && source < 0) mistakes.say('simulator', unknownVariable(settings.variable, index))
  else if (!settings.variable && takesInput(settings)) mistakes.say('simulator', 'No variable is chosen yet.')
  const shown = new Shown(context, mistakes)
  const state = mistakes.list.length > 0 ? null : shown.compile(settings)
  const sound = row.on && mistakes.list.length === 0
  const reads = new Set<number>(source >= 0 ? [source] : [])
  for (const c of [...shown.compiled, onlyWhile]) for (const s of c?.reads ?? []) reads.add(s)
  if (layer) reads.add(layer.slot)
  const isLamp = settings.kind === 'lamp'
  return {
    // What every frame looks at comes first.
    packs: sound && isLamp ? (shown.compiled[0]?.evaluate ?? null) : null,
    source,
    sourceIsText: index.catalogue.variables[source]?.type === 'text',
    condition: onlyWhile?.evaluate ?? null,
    layer,
    state: sound ? state : null,
    showsAbsent: settings.kind === 'digits' || settings.kind === 'text',
    kind: 'indicator',
    row,
    settings,
    show: settings.kind === 'text' ? null : (shown.compiled[0] ?? null),
    onlyWhile,
    reads: [...reads],
    mistakes: mistakes.list,
    fault: null,
  }
}

/** From settings to a function that says what is shown, one kind of indicator after the other. */
class Shown {
  readonly compiled: Compiled[] = []

  constructor(
    private readonly context: Context,
    private readonly mistakes: Mistakes,
  ) {}

  private expression(
    source: string | undefined,
    wanted: Wanted,
    scope = this.context.scope,
  ): Evaluate | null {
    if (source === undefined) return null
    const compiled = this.mistakes.expression('shaping', source, scope, this.context.values, wanted)
    if (compiled) this.compiled.push(compiled)
    return compiled?.evaluate ?? null
  }

  compile(settings: IndicatorSettings): IndicatorProgram['state'] {
    const { aspect } = this.context
    switch (settings.kind) {
      case 'lamp':
        return this.lamp(this.expression(settings.show, { as: 'lamp' }))
      case 'digits':
        return aspect.kind === 'digits' ? this.digits(settings, aspect.digits) : null
      case 'text':
        return aspect.kind === 'text' ? this.page(settings, aspect.columns, aspect.rows) : null
      case 'needle':
        return aspect.kind === 'needle' ? this.needle(settings, aspect) : null
      case 'colour':
        return aspect.kind === 'colour' ? this.colours(settings, aspect.lamps) : null
    }
  }

  private lamp(show: Evaluate | null): IndicatorProgram['state'] {
    if (!show) return null
    return (input) => {
      const packed = show(input) as number
      return packed >= 0 ? packed : null
    }
  }

  private powered(source: string | undefined): () => boolean {
    const holds = this.expression(source, { as: 'condition' }, { ...this.context.scope, input: undefined })
    return holds ? () => holds(null) === 1 : () => true
  }

  private digits(
    s: Extract<IndicatorSettings, { kind: 'digits' }>,
    width: number,
  ): IndicatorProgram['state'] {
    const show = this.expression(s.show, { as: 'digits' })
    const lightScope: Scope = { ...this.context.scope, input: undefined }
    const light = this.expression(s.brightness, { as: 'number' }, lightScope)
    const powered = this.powered(s.powered)
    if (s.decimals >= width)
      this.mistakes.say('shaping', `${s.decimals} decimals leave no room in ${width} digits.`)
    if (!show) return null
    return (input) => {
      if (!powered()) return blankDigits(width)
      const bright = light ? (light(null) as number) : 1
      return digitsState(digitsText(show(input), s, width), Number.isFinite(bright) ? bright : 1)
    }
  }

  private page(
    s: Extract<IndicatorSettings, { kind: 'text' }>,
    columns: number,
    rows: number,
  ): IndicatorProgram['state'] {
    const powered = this.powered(s.powered)
    if (s.lines.length > rows)
      this.mistakes.say('shaping', `The display has ${rows} lines; there are ${s.lines.length} on this page.`)
    const cursors = s.lines.some((l) => l.cursor !== undefined)
    const lines = s.lines.map((line, i) => ({
      show: this.expression(line.show, { as: 'words' }),
      here: this.cursor(line.cursor, i),
    }))
    for (const [i, line] of s.lines.entries()) this.checkWidth(line.show, columns - Number(cursors), i)
    return (input) => {
      if (!powered()) return Array.from({ length: rows }, () => ' '.repeat(columns)).join('\n')
      return Array.from({ length: rows }, (_, row) => {
        const line = lines[row]
        if (!line?.show) return textRow('', columns)
        const text = line.show(input) as string | null
        return textRow(cursors ? withCursor(text, line.here()) : text, columns)
      }).join('\n')
    }
  }

  /** A fixed text that cannot fit is a mistake at once, not a surprise on the panel. */
  private checkWidth(source: string, room: number, line: number): void {
    const fixed = /^\s*(["'])(.*)\1\s*$/.exec(source)?.[2]
    if (fixed !== undefined && fixed.length > room)
      this.mistakes.say(
        'shaping',
        `Line ${line + 1}: “${fixed}” has ${fixed.length} characters; ${room} fit.`,
      )
  }

  private cursor(layerId: string | undefined, line: number): () => boolean {
    if (layerId === undefined) return () => false
    const { rig, slots, values } = this.context
    const layer = rig.layer[layerId]
    if (!layer) {
      this.mistakes.say('shaping', `Line ${line + 1}: the layer its cursor stands for is not there any more.`)
      return () => false
    }
    const slot = slots.slot(layerKey(layer.layerSet), true)
    const known = layersOf(rig, layer.layerSet).some((l) => l.id === layerId)
    this.compiled.push(layerRead(slot))
    return () => known && values.texts[slot] === layer.name
  }

  private needle(
    s: Extract<IndicatorSettings, { kind: 'needle' }>,
    aspect: Extract<IndicatorAspect, { kind: 'needle' }>,
  ): IndicatorProgram['state'] {
    const dial = settingsOf(this.context.part.settings, aspect.id, 'needle')
    const show = this.expression(s.show, { as: 'number' })
    if (!dial) this.mistakes.say('part', 'This needle has no needle points yet.')
    if (!show || !dial) return null
    const stand = needleStand(aspect.travelDeg, dial)
    return (input) => stand(show(input) as number)
  }

  private colours(
    s: Extract<IndicatorSettings, { kind: 'colour' }>,
    lamps: number,
  ): IndicatorProgram['state'] {
    const show = this.expression(s.show, { as: 'number' })
    const rule: ColourRule = {
      ...s,
      least: s.least ?? s.stops[0]?.at ?? 0,
      most: s.most ?? s.stops.at(-1)?.at ?? 1,
      blinkAbove: s.blinkAbove ?? null,
    }
    if (rule.fill !== 'all' && rule.least >= rule.most)
      this.mistakes.say('shaping', 'The strip is filled from a least to a larger most value.')
    if (!show) return null
    return (input) => {
      const value = show(input) as number
      return Number.isFinite(value) ? colourState(rule, value, lamps) : null
    }
  }
}

/** Stands for the reading of a layer where no expression does it. */
const layerRead = (slot: number): Compiled => ({
  type: { is: 'text' },
  evaluate: () => null,
  needs: [],
  reads: [slot],
  readsInput: false,
})

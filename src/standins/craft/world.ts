import type { EventInfo, VariableInfo } from '../../core/rig/simulator-catalogue'

export type Value = number | string | null

/** One variable of the craft: its value now, and what the simulator link tells of it. */
export class Variable {
  constructor(
    readonly info: VariableInfo,
    public value: Value,
    /** The system a hand takes over by setting this variable. */
    readonly system: string | null,
  ) {}

  get n(): number {
    return typeof this.value === 'number' ? this.value : 0
  }
  set n(value: number) {
    this.value = value
  }
  get is(): boolean {
    return this.n !== 0
  }
  set is(value: boolean) {
    this.value = value ? 1 : 0
  }
}

export interface WorldOptions {
  readonly range?: [number, number]
  readonly choices?: string[]
  /** Set by hand, taking over the named system from the craft's own pilot. */
  readonly system?: string
}

interface Event {
  readonly info: EventInfo
  readonly act: (value: number) => void
}

/** Repeatable randomness: mulberry32, public domain. */
export const randomFrom = (seed: number): (() => number) => {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = Math.imul(a ^ (a >>> 15), a | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** All variables and events of a craft, and who has which system in hand. */
export class World {
  readonly variables: Variable[] = []
  readonly events: Event[] = []
  readonly random: () => number
  private readonly names = new Map<string, Variable>()
  private group = ''
  /** Systems that a hand outside has taken over from the craft's own pilot. */
  readonly takenOver = new Set<string>()

  constructor(seed: number) {
    this.random = randomFrom(seed)
  }

  inGroup(group: string): this {
    this.group = group
    return this
  }

  number(
    name: string,
    unit: string | null,
    description: string,
    initial = 0,
    options: WorldOptions = {},
  ): Variable {
    return this.add({ name, type: 'number', unit, description }, initial, options)
  }

  flag(name: string, description: string, initial = false, options: WorldOptions = {}): Variable {
    return this.add({ name, type: 'boolean', unit: null, description }, initial ? 1 : 0, options)
  }

  text(name: string, description: string, initial: string): Variable {
    return this.add({ name, type: 'text', unit: null, description }, initial, {})
  }

  /** A variable that this craft does not have: it is in the catalogue and never has a value. */
  absent(name: string, unit: string | null, description: string): Variable {
    return this.add({ name, type: 'number', unit, description }, null, {})
  }

  private add(
    what: Pick<VariableInfo, 'name' | 'type' | 'unit' | 'description'>,
    initial: Value,
    options: WorldOptions,
  ): Variable {
    if (this.names.has(what.name)) throw new Error(`variable ${what.name} twice`)
    const info: VariableInfo = {
      ...what,
      writable: options.system !== undefined,
      range: options.range ?? null,
      ...(options.choices ? { choices: options.choices } : {}),
      group: this.group,
    }
    const variable = new Variable(info, initial, options.system ?? null)
    this.variables.push(variable)
    this.names.set(what.name, variable)
    return variable
  }

  /** An event; acting on it takes its system over from the craft's own pilot. */
  event(
    name: string,
    description: string,
    system: string,
    act: (value: number) => void,
    value: EventInfo['value'] = null,
  ) {
    const info: EventInfo = { name, description, group: this.group, value }
    this.events.push({
      info,
      act: (v) => {
        this.takenOver.add(system)
        act(v)
      },
    })
  }

  /** Events that set, clear and flip a switch. */
  switchEvents(name: string, words: string, system: string, variable: Variable): void {
    this.event(`${name}.on`, `Switch ${words} on`, system, () => {
      variable.is = true
    })
    this.event(`${name}.off`, `Switch ${words} off`, system, () => {
      variable.is = false
    })
    this.event(`${name}.toggle`, `Switch ${words} over`, system, () => {
      variable.is = !variable.is
    })
  }

  named(name: string): Variable {
    const found = this.names.get(name)
    if (!found) throw new Error(`no variable ${name}`)
    return found
  }

  /** Sets a variable from outside; a sentence when it cannot be. */
  set(index: number, value: number | string): string | null {
    const variable = this.variables[index]
    if (!variable) return `there is no variable number ${index}`
    const { info } = variable
    if (variable.system === null) return `${info.name} cannot be set`
    if ((info.type === 'text') !== (typeof value === 'string')) return `${info.name} takes a ${info.type}`
    if (typeof value === 'number' && !Number.isFinite(value)) return `${info.name} takes a finite number`
    if (info.range && typeof value === 'number' && (value < info.range[0] || value > info.range[1])) {
      return `${info.name} takes ${info.range[0]} to ${info.range[1]}, not ${value}`
    }
    variable.value = value
    this.takenOver.add(variable.system)
    return null
  }

  /** What the craft's own pilot does with a system, unless a hand has taken it over. */
  pilot(system: string, act: () => void): void {
    if (!this.takenOver.has(system)) act()
  }
}

/** Moves towards a target by at most `rate` a second. */
export const approach = (from: number, to: number, rate: number, dt: number): number => {
  const most = rate * dt
  return Math.abs(to - from) <= most ? to : from + Math.sign(to - from) * most
}

/** First-order lag with the given time constant in seconds. */
export const lag = (from: number, to: number, seconds: number, dt: number): number =>
  from + (to - from) * (1 - Math.exp(-dt / seconds))

export const clamp = (x: number, least: number, most: number): number => Math.min(most, Math.max(least, x))

/** The shorter way round from one heading to another, −180 to 180 degrees. */
export const turnBetween = (from: number, to: number): number =>
  ((((to - from + 540) % 360) + 360) % 360) - 180

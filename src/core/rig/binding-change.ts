import { indicatorKind } from '../aspects/aspects'
import { partKind } from '../catalogue/parts'
import type { ElementSettings } from '../elements/elements'
import { type Action, aspectFor, type BindingSettings } from './binding'
import { type Change, changeRow } from './edit'
import { type Rig, rowsOf } from './rig'
import type { SimulatorCatalogue } from './simulator-catalogue'

/** Words that mean each other's opposite in names of variables and events. */
const opposites: readonly (readonly [string, string])[] = [
  ['up', 'down'],
  ['left', 'right'],
  ['on', 'off'],
  ['open', 'close'],
  ['in', 'out'],
  ['next', 'previous'],
  ['extend', 'retract'],
  ['increase', 'decrease'],
  ['engage', 'disengage'],
  ['start', 'stop'],
]

const other = new Map(opposites.flatMap(([a, b]) => [[a, b] as const, [b, a] as const]))

/** A name with its last word that has an opposite turned round, or null where none has one. */
export const oppositeName = (name: string): string | null => {
  const words = name.split('.')
  for (let i = words.length - 1; i >= 0; i--) {
    const turned = other.get(words[i] as string)
    if (turned !== undefined) return words.with(i, turned).join('.')
  }
  return null
}

const turnedAction = (action: Action, events: ReadonlySet<string>): Action => {
  switch (action.do) {
    case 'step':
    case 'choose':
      return { ...action, by: -action.by }
    case 'event': {
      const turned = oppositeName(action.event)
      return turned !== null && events.has(turned) ? { ...action, event: turned } : action
    }
    case 'layer':
      return action.to === 'next'
        ? { ...action, to: 'previous' }
        : action.to === 'previous'
          ? { ...action, to: 'next' }
          : action
    default:
      return action
  }
}

/** The same binding the other way round: steps with the other sign, events with the opposite name where there is one. */
export const turnedRound = (s: BindingSettings, catalogue: SimulatorCatalogue): BindingSettings => {
  if (s.kind !== 'control') return s
  const events = new Set(catalogue.events.map((e) => e.name))
  return { ...s, actions: s.actions.map((a) => turnedAction(a, events)) }
}

/** The binding for the other direction of its own control: the other way of turning, the opposite position. */
export const forOtherDirection = (
  rig: Rig,
  partId: string,
  s: BindingSettings,
  catalogue: SimulatorCatalogue,
): BindingSettings | null => {
  if (s.kind !== 'control') return null
  const turned = turnedRound(s, catalogue)
  if (turned.kind !== 'control') return null
  if (s.when === 'clockwise' || s.when === 'counter')
    return { ...turned, when: s.when === 'clockwise' ? 'counter' : 'clockwise' }
  const kind = partKind(rig.part[partId]?.kind ?? '')
  const aspect = kind ? aspectFor(kind.aspects, s) : undefined
  if (aspect?.kind !== 'positions' || s.position === undefined) return null
  const opposite = other.get(s.position)
  return aspect.positions.some((p) => p.id === opposite) ? { ...turned, position: opposite } : null
}

/** Steps of a size, keeping their signs; null where the binding has none. */
export const withStep = (s: BindingSettings, by: number): BindingSettings | null => {
  if (s.kind !== 'control' || !s.actions.some((a) => a.do === 'step') || by === 0) return null
  const sized = (a: Action): Action => (a.do === 'step' ? { ...a, by: Math.sign(a.by) * Math.abs(by) } : a)
  return { ...s, actions: s.actions.map(sized) }
}

/** Its value converted to another unit at the end; one that was converted there before is converted anew. */
export const withUnit = (s: BindingSettings, unit: string): BindingSettings | null => {
  const converted = (source: string): string => {
    const inner = /^to\((.*), "[^"]*"\)$/.exec(source)?.[1] ?? source
    return `to(${inner}, ${JSON.stringify(unit)})`
  }
  if (s.kind === 'control') return s.value === null ? null : { ...s, value: converted(s.value) }
  const { wanted, main } = indicatorKind(s.kind)
  // What a lamp shows has no unit, and a page none of its own.
  if (wanted.as === 'lamp' || main(s) === null) return null
  return { ...s, show: converted(main(s) ?? '') } as BindingSettings
}

/** Every expression and name of a binding, each put through a change. */
const everywhere = (s: BindingSettings, change: (text: string) => string): BindingSettings => {
  const maybe = (text: string | null): string | null => (text === null ? null : change(text))
  const onlyWhile = maybe(s.onlyWhile)
  if (s.kind !== 'control') {
    const reworded = indicatorKind(s.kind).reworded(s, change)
    return { ...reworded, onlyWhile, variable: maybe(s.variable) }
  }
  return {
    ...s,
    onlyWhile,
    value: maybe(s.value),
    actions: s.actions.map((a): Action => {
      if ('variable' in a) return { ...a, variable: change(a.variable) }
      return a.do === 'event' ? { ...a, event: change(a.event) } : a
    }),
  }
}

/** The binding with a piece of every name replaced: `left` by `right`, `one` by `two`. */
export const withNames = (s: BindingSettings, from: string, to: string): BindingSettings =>
  from === '' ? s : everywhere(s, (text) => text.replaceAll(from, to))

/** An expression after a part or a layer set it speaks of was given another name. */
const renamedIn = (text: string, call: 'part' | 'layer', from: string, to: string): string => {
  const spoken = new RegExp(`\\b${call}\\(\\s*(["'])${from.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}\\1`, 'g')
  return text.replace(spoken, () => `${call}(${JSON.stringify(to)}`)
}

/** The binding after a part or a layer set it speaks of was given another name. */
export const afterRenaming = (
  s: BindingSettings,
  call: 'part' | 'layer',
  from: string,
  to: string,
): BindingSettings => everywhere(s, (text) => renamedIn(text, call, from, to))

/** What else has to change when a part or a layer set is given another name: all that speaks of it. */
export const followRenaming = (rig: Rig, call: 'part' | 'layer', from: string, to: string): Change[] => {
  if (from === to) return []
  const bindings = rowsOf(rig, 'binding').map((b) =>
    changeRow('binding', b, { ...b, settings: afterRenaming(b.settings, call, from, to) }),
  )
  const sets = rowsOf(rig, 'layerSet').map((s) => {
    const { chosenBy } = s.settings
    if (chosenBy === null) return null
    return changeRow('layerSet', s, {
      ...s,
      settings: { ...s.settings, chosenBy: renamedIn(chosenBy, call, from, to) },
    })
  })
  const lights = rowsOf(rig, 'lighting').map((l) =>
    changeRow('lighting', l, {
      ...l,
      settings: { ...l.settings, level: renamedIn(l.settings.level, call, from, to) },
    }),
  )
  const screens = rowsOf(rig, 'screen').map((s) => {
    const { pageBy } = s.settings
    if (pageBy === null) return null
    return changeRow('screen', s, {
      ...s,
      settings: { ...s.settings, pageBy: renamedIn(pageBy, call, from, to) },
    })
  })
  const elements = rowsOf(rig, 'element').map((e) =>
    changeRow('element', e, {
      ...e,
      settings: withFollowed(e.settings, (text) => renamedIn(text, call, from, to)),
    }),
  )
  return [...bindings, ...sets, ...lights, ...screens, ...elements].filter((c) => c !== null)
}

/** The settings of an element in which every shaping, and every variable, is put through a change. */
export const withFollowed = (s: ElementSettings, change: (text: string) => string): ElementSettings => ({
  ...s,
  follows: Object.fromEntries(
    Object.entries(s.follows).map(([property, { variable, show }]) => [
      property,
      { variable: variable === null ? null : change(variable), show: change(show) },
    ]),
  ),
})

/** The first variable or event a binding acts on that the craft does not have, or null. */
export const unknownName = (s: BindingSettings, catalogue: SimulatorCatalogue): string | null => {
  const known = new Set([...catalogue.variables, ...catalogue.events].map((v) => v.name))
  return namesIn(s).find((n) => !known.has(n)) ?? null
}

/** All names of variables and events that a binding's actions and source speak of. */
export const namesIn = (s: BindingSettings): string[] => {
  if (s.kind !== 'control') return s.variable === null ? [] : [s.variable]
  return s.actions.flatMap((a) => ('variable' in a ? [a.variable] : a.do === 'event' ? [a.event] : []))
}

/** A quoted text, or a name, in an expression. */
const QUOTED_OR_NAME = /"[^"]*"|'[^']*'|[\p{L}_][\p{L}\p{N}_.]*/gu

/** A binding in which each name of a variable or event is another, wherever it stands; what is quoted is left alone. */
export const withNewNames = (s: BindingSettings, names: ReadonlyMap<string, string>): BindingSettings =>
  everywhere(s, (text) => names.get(text) ?? text.replace(QUOTED_OR_NAME, (w) => names.get(w) ?? w))

/** Every name of a binding that `isName` knows, in its actions and in its expressions, each once. */
export const allNamesIn = (s: BindingSettings, isName: (word: string) => boolean): string[] => {
  const found = new Set<string>()
  everywhere(s, (text) => {
    if (isName(text)) found.add(text)
    else for (const [word] of text.matchAll(QUOTED_OR_NAME)) if (isName(word)) found.add(word)
    return text
  })
  return [...found]
}

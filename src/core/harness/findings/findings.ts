import type { Rig } from '../../rig/rig'
import { addressClashes } from './addresses'
import { capacity, type KnownLimits } from './capacity'
import { currents } from './currents'
import { clashes, sharedPwm, shortOfChannels, spread, unable, unknowns } from './ends'
import type { FindingKind, HarnessFinding } from './finding'
import { hotResistors, inductives, resistors } from './lamps'
import { brokenRibbons, unassigned } from './open'
import { regulators } from './regulators'
import { joins, voltages } from './supplies'
import { timers } from './timers'

const rules: readonly ((rig: Rig) => HarnessFinding[])[] = [
  unknowns,
  joins,
  clashes,
  unable,
  sharedPwm,
  timers,
  addressClashes,
  voltages,
  inductives,
  resistors,
  hotResistors,
  currents,
  regulators,
  spread,
  shortOfChannels,
  brokenRibbons,
  unassigned,
]

const nothingKnown: KnownLimits = new Map()

/**
 * Everything about the wiring of a rig that will not work, or not for long; what destroys something comes first.
 * `known` is what boards have said that they can hold.
 */
export const harnessFindings = (rig: Rig, known: KnownLimits = nothingKnown): HarnessFinding[] => [
  ...rules.flatMap((rule) => rule(rig)),
  ...capacity(rig, known),
]

export const findingWords: Record<FindingKind, string> = {
  clash: 'clash',
  ability: 'ability',
  'own pin': 'own pin',
  'two-wire': 'two-wire',
  address: 'address',
  'two boards': 'two boards',
  resistor: 'resistor',
  'pin current': 'pin current',
  'group current': 'current',
  'board current': 'current',
  'expander current': 'current',
  'rail current': 'current',
  'usb current': 'port',
  'supply current': 'supply',
  ground: 'ground',
  'joined plus': 'plus',
  voltage: 'voltage',
  inductive: 'coil',
  'board supply': 'supply',
  open: 'no wire',
  channels: 'channels',
  ribbon: 'ribbon',
  unknown: 'unknown',
  capacity: 'memory',
  pwm: 'timer',
  timer: 'timer',
  regulator: 'regulator',
  'resistor heat': 'heat',
}

import type { VariableInfo } from '../rig/simulator-catalogue'

/** A formula by which a group of lights could be dimmed, and what it is called. */
export interface LevelOffer {
  readonly words: string
  readonly level: string
}

const MOST = 30
/** What is left by night. */
const NIGHT = 0.25

const numbers = (variables: readonly VariableInfo[]): VariableInfo[] =>
  variables.filter((v) => v.type === 'number')

/** Variables that speak of brightness, by their names or descriptions. */
export const brightnessOffers = (variables: readonly VariableInfo[]): LevelOffer[] =>
  numbers(variables)
    .filter((v) => /bright|dimm|illumin/i.test(`${v.name} ${v.description}`))
    .slice(0, MOST)
    .map((v) => ({ words: v.name, level: v.name }))

/** By day and night as the sun stands, and by the hour of each clock that there is. */
export const timeOffers = (variables: readonly VariableInfo[]): LevelOffer[] => [
  ...numbers(variables)
    .filter((v) => /sun.*(height|elevation)/i.test(v.name))
    .map((v) => ({ words: `by day and night: ${v.name}`, level: `${v.name} > 0 ? 1 : ${NIGHT}` })),
  ...numbers(variables)
    .filter((v) => /(^|\.)hours?$/i.test(v.name))
    .map((v) => ({
      words: `by the clock: ${v.name}`,
      level: `${v.name} >= 7 && ${v.name} < 19 ? 1 : ${NIGHT}`,
    })),
]

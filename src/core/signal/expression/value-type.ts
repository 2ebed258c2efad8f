import { type Unit, unitNamed } from '../unit'

/** What an expression yields. A number without a unit takes the unit of whatever it meets. */
export type ValueType =
  | { readonly is: 'number'; readonly unit: Unit | null }
  | { readonly is: 'boolean' }
  /** `choices` are all the texts that it can be, where these are known: positions of a switch, layers of a set. */
  | { readonly is: 'text'; readonly choices?: readonly string[] }
  | { readonly is: 'lamp' }

export const plainNumber: ValueType = { is: 'number', unit: null }
export const boolean: ValueType = { is: 'boolean' }
export const text: ValueType = { is: 'text' }
export const lamp: ValueType = { is: 'lamp' }

export const typeWords = (type: ValueType): string => {
  switch (type.is) {
    case 'number':
      return type.unit ? `a number in ${type.unit.symbol}` : 'a number'
    case 'boolean':
      return 'a yes or no'
    case 'text':
      return 'a text'
    case 'lamp':
      return 'a lamp state'
  }
}

/** The type of a simulator variable, from what the simulator tells of it. */
export const typeOfVariable = (v: {
  type: 'number' | 'boolean' | 'text'
  unit: string | null
}): ValueType => {
  if (v.type === 'boolean') return boolean
  if (v.type === 'text') return text
  return { is: 'number', unit: v.unit === null ? null : (unitNamed(v.unit) ?? null) }
}

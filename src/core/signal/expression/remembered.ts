import { type Argument, type MemoryName, memoryKind, memoryKinds } from '../memory/kinds'
import { unitNamed } from '../unit'
import {
  alike,
  asBoolean,
  asNumber,
  asWords,
  type Checked,
  type Checker,
  freshUses,
  inUnit,
  type MemoryArgument,
  readSlot,
  type Scope,
} from './checked'
import { ExpressionError } from './expression-error'
import { type Node, spanOf } from './parse'
import { boolean, plainNumber, text, type ValueType } from './value-type'

const wrong = (node: Node, message: string) => new ExpressionError(message, spanOf(node))
const seconds = unitNamed('s') ?? null

/** What lasts: `input` where it is a variable's value; what a control was just moved to is over at once. */
const lasting = (scope: Scope, call: Node): Scope => {
  const { input, inputSlot, ...others } = scope
  return {
    ...others,
    inputAt: () => {
      // Within another memory it lies where it lies for that one.
      if (!input) return scope.inputAt?.(call)
      if (inputSlot === undefined)
        throw wrong(
          call,
          'What a control was just moved to is over at once; remember a variable or part("…").',
        )
      return { slot: inputSlot, type: input }
    },
  }
}

const asArgument = (of: Argument, value: Checked, first: Checked | undefined, node: Node): Checked => {
  switch (of) {
    case 'number':
      // Limits are meant in what they are limits of.
      return first?.type.is === 'number'
        ? alike(first, asNumber(value, node), node)[1]
        : asNumber(value, node)
    case 'condition':
      return asBoolean(value, node)
    case 'seconds':
      return seconds ? inUnit(value, seconds, node) : asNumber(value, node)
    case 'words':
      return asWords(value, node)
    case 'anything':
      if (value.type.is === 'lamp')
        throw wrong(node, 'A lamp’s state cannot be remembered; remember what makes it.')
      return value
  }
}

const typeOf = (name: MemoryName, first: ValueType): ValueType => {
  switch (memoryKinds[name].gives) {
    case 'yes or no':
      return boolean
    case 'seconds':
      return { is: 'number', unit: seconds }
    case 'bare number':
      return plainNumber
    case 'text':
      return text
    case 'the first':
      return first
  }
}

/** How often each argument is taken, in order, for so many of them; null where so many make no sense. */
const argumentsFor = (name: MemoryName, count: number): readonly Argument[] | null => {
  const { takes, optional, again } = memoryKind(name)
  if (!again) return count >= takes.length - optional && count <= takes.length ? takes.slice(0, count) : null
  const rounds = (count - (takes.length - again.last)) / again.last
  if (!Number.isInteger(rounds) || rounds < 1 || rounds > again.most) return null
  const fixed = takes.slice(0, takes.length - again.last)
  return [...fixed, ...Array.from({ length: rounds }, () => takes.slice(-again.last)).flat()]
}

/** A call of a function with a memory: what it gives is kept beside the values, and read like one of them. */
export const remembered =
  (name: MemoryName) =>
  (args: Node[], call: Node, ck: Checker): Checked => {
    const wanted = argumentsFor(name, args.length)
    if (!wanted) throw wrong(call, `This is called as ${memoryKind(name).form}.`)
    const scope = lasting(ck.scope, call)
    const given: MemoryArgument[] = []
    for (const [i, node] of args.entries()) {
      const uses = freshUses()
      const value = ck.within(scope, uses).check(node)
      given.push({ checked: asArgument(wanted[i] as Argument, value, given[0]?.checked, node), uses })
    }
    const type = typeOf(name, (given[0] as MemoryArgument).checked.type)
    const found = ck.scope.memory?.(name, given, type) ?? { problem: 'Nothing can be remembered here.' }
    if ('problem' in found) throw wrong(call, found.problem)
    return readSlot(found.slot, type, ck)
  }

/** What browsers of five years ago lack of what the drawing needs. Each is as the standard has it, as far as it is used. */
type Lacking = Record<string, unknown>

const fill = (of: object, name: string, work: (this: never, ...given: never[]) => unknown): void => {
  if ((of as Lacking)[name] === undefined)
    Object.defineProperty(of, name, { value: work, writable: true, configurable: true })
}

/** The element at a place, from the end where it is below zero. */
function at(this: ArrayLike<unknown>, index: number): unknown {
  return this[index < 0 ? this.length + index : index]
}

fill(Array.prototype, 'at', at as never)
fill(String.prototype, 'at', at as never)
fill(Array.prototype, 'findLast', function (this: unknown[], is: (x: unknown) => boolean) {
  for (let i = this.length - 1; i >= 0; i--) if (is(this[i])) return this[i]
  return undefined
} as never)
fill(Object, 'hasOwn', ((of: object, key: string) => Object.hasOwn(of, key)) as never)

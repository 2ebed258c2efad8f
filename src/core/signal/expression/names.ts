/** Words that mean something else than a variable. */
const reserved: ReadonlySet<string> = new Set(['input', 'on', 'off', 'true', 'false', 'pi', 'this', 'null'])
const plain = /^[A-Za-z_$][\w$]*(\.[A-Za-z_$][\w$]*)*$/

/** Whether a variable's name can stand in an expression as it is. */
export const isPlainName = (name: string): boolean => plain.test(name) && !reserved.has(name)

/** How a variable is written in an expression: by its name, or as `variable("…")` where that is not one word. */
export const writtenName = (name: string): string =>
  isPlainName(name) ? name : `variable(${JSON.stringify(name)})`

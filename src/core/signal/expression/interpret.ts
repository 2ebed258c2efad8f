/** Where a piece of checked code runs: its names, each by itself. */
export type Names = Map<string, unknown>
type Run = (names: Names) => unknown

const TOKEN =
  /\s*(?:(\d+(?:\.\d+)?(?:e[+-]?\d+)?)|("(?:[^"\\]|\\.)*")|([A-Za-z_]\w*)|(===|!==|==|!=|<=|>=|&&|\|\||[-+*/%<>!?:=(),.[\]]))/gy

/** Binary operators by how strongly they bind; `=` and `?` are looked at by themselves. */
const binary: Readonly<Record<string, readonly [number, (a: never, b: never) => unknown]>> = {
  '===': [3, (a, b) => a === b],
  '!==': [3, (a, b) => a !== b],
  '==': [3, (a, b) => a === b],
  '!=': [3, (a, b) => a !== b],
  '<': [4, (a, b) => a < b],
  '>': [4, (a, b) => a > b],
  '<=': [4, (a, b) => a <= b],
  '>=': [4, (a, b) => a >= b],
  '+': [5, (a, b) => (a as number) + (b as number)],
  '-': [5, (a, b) => a - b],
  '*': [6, (a, b) => a * b],
  '/': [6, (a, b) => a / b],
  '%': [6, (a, b) => a % b],
}

/**
 * Reads the code that expressions are compiled to and works it out step by step, where no code may be made (a page
 * with a strict policy). Slower by far than the compiled one, and the same in every result. The code comes from
 * checked pieces only; what is not among them is an Error.
 */
export const interpreted = (code: string): Run => new Reader(code).whole()

class Reader {
  private readonly tokens: string[] = []
  private at = 0

  constructor(code: string) {
    TOKEN.lastIndex = 0
    for (let m = TOKEN.exec(code); m !== null; m = TOKEN.exec(code)) {
      this.tokens.push(m[1] ?? m[2] ?? m[3] ?? m[4] ?? '')
      if (TOKEN.lastIndex === code.length) return
    }
    throw new Error('this code cannot be read')
  }

  whole(): Run {
    const run = this.sequence()
    if (this.at < this.tokens.length) throw new Error(`“${this.tokens[this.at]}” is not expected here`)
    return run
  }

  private get next(): string | undefined {
    return this.tokens[this.at]
  }

  private take(token: string): boolean {
    if (this.next !== token) return false
    this.at++
    return true
  }

  private expect(token: string): void {
    if (!this.take(token)) throw new Error(`“${token}” is missing`)
  }

  private sequence(): Run {
    let run = this.choice()
    while (this.take(',')) {
      const [before, then] = [run, this.choice()]
      run = (n) => {
        before(n)
        return then(n)
      }
    }
    return run
  }

  private choice(): Run {
    // A name that is kept: `v0=…`.
    const name = this.next ?? ''
    if (this.tokens[this.at + 1] === '=' && /^v\d+$/.test(name)) {
      this.at += 2
      const value = this.choice()
      return (n) => {
        const worked = value(n)
        n.set(name, worked)
        return worked
      }
    }
    const test = this.operation(0)
    if (!this.take('?')) return test
    const yes = this.choice()
    this.expect(':')
    const no = this.choice()
    return (n) => (test(n) ? yes(n) : no(n))
  }

  private operation(least: number): Run {
    let left = this.unary()
    for (;;) {
      const operator = this.next ?? ''
      if ((operator === '&&' || operator === '||') && least <= 1) {
        this.at++
        const [a, b] = [left, this.operation(2)]
        left = operator === '&&' ? (n) => a(n) && b(n) : (n) => a(n) || b(n)
        continue
      }
      const [strength, act] = binary[operator] ?? [-1, null]
      if (act === null || strength < least) return left
      this.at++
      const [a, b] = [left, this.operation(strength + 1)]
      left = (n) => act(a(n) as never, b(n) as never)
    }
  }

  private unary(): Run {
    if (this.take('-')) {
      const value = this.unary()
      return (n) => -(value(n) as number)
    }
    if (this.take('!')) {
      const value = this.unary()
      return (n) => !value(n)
    }
    return this.reached()
  }

  /** A value, and what is reached from it: `f.name(…)`, `n[s0]`. */
  private reached(): Run {
    const first = this.next ?? ''
    this.at++
    if (first === '(') {
      const inner = this.sequence()
      this.expect(')')
      return inner
    }
    if (/^\d/.test(first)) {
      const value = Number(first)
      return () => value
    }
    if (first.startsWith('"')) {
      const value: unknown = JSON.parse(first)
      return () => value
    }
    if (first === 'null') return () => null
    if (first === 'NaN') return () => Number.NaN
    if (first === 'Infinity') return () => Number.POSITIVE_INFINITY
    if (!/^[A-Za-z_]/.test(first)) throw new Error(`“${first}” is not expected here`)
    if (this.take('.')) return this.call(first)
    if (this.take('[')) {
      const place = this.sequence()
      this.expect(']')
      return (n) => (n.get(first) as ArrayLike<unknown>)[place(n) as number]
    }
    return (n) => n.get(first)
  }

  private call(owner: string): Run {
    const name = this.next ?? ''
    this.at++
    this.expect('(')
    const args: Run[] = []
    while (!this.take(')')) {
      if (args.length > 0) this.expect(',')
      args.push(this.choice())
    }
    return (n) => {
      const functions = n.get(owner) as Record<string, (...values: unknown[]) => unknown>
      const act = Object.hasOwn(functions, name) ? functions[name] : undefined
      if (!act) throw new Error(`there is no function ${name}`)
      return act(...args.map((a) => a(n)))
    }
  }
}

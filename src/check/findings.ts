export type CheckVerdict = 'right' | 'wrong' | 'missing' | 'not tried'

export interface Finding {
  readonly verdict: CheckVerdict
  /** What was asked for. */
  readonly what: string
  /** What came of it. */
  readonly detail: string
}

/** What a check has found so far, told one by one to whoever listens. */
export class Findings {
  readonly list: Finding[] = []

  constructor(private readonly told: (finding: Finding) => void = () => {}) {}

  add(verdict: CheckVerdict, what: string, detail = ''): void {
    const finding = { verdict, what, detail }
    this.list.push(finding)
    this.told(finding)
  }

  /** Right, or wrong for this reason. */
  judge(what: string, problem: string | null, detail = ''): void {
    if (problem === null) this.add('right', what, detail)
    else this.add('wrong', what, problem)
  }

  count(verdict: CheckVerdict): number {
    return this.list.filter((f) => f.verdict === verdict).length
  }

  /** Whether somebody who wrote the other end has nothing left to do. */
  get isSound(): boolean {
    return this.count('wrong') + this.count('missing') === 0
  }

  get summary(): string {
    const verdicts: readonly CheckVerdict[] = ['right', 'wrong', 'missing', 'not tried']
    return verdicts.map((v) => `${this.count(v)} ${v}`).join(', ')
  }
}

/** A finding as a line of text. */
export const findingLine = ({ verdict, what, detail }: Finding): string =>
  `${(verdict === 'wrong' || verdict === 'missing' ? verdict.toUpperCase() : verdict).padEnd(9)}  ${what}${detail === '' ? '' : `: ${detail}`}`

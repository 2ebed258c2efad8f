'use client'

/** A piece of names, and what stands in its place. */
export interface NamePattern {
  readonly from: string
  readonly to: string
}

/** Two short fields: what to replace in names, and by what. */
export const NamePatternFields = ({
  pattern,
  change,
}: {
  pattern: NamePattern
  change: (next: NamePattern) => void
}) => (
  <>
    <input
      aria-label="In names, replace"
      className="mono w-[96px]"
      placeholder="in names …"
      value={pattern.from}
      onChange={(e) => change({ ...pattern, from: e.target.value })}
    />
    <span className="text-ink2">→</span>
    <input
      aria-label="By"
      className="mono w-[96px]"
      placeholder="by …"
      value={pattern.to}
      onChange={(e) => change({ ...pattern, to: e.target.value })}
    />
  </>
)

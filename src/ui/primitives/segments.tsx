/** A few words in a row, of which one is on. */
export const Segments = <K extends string>({
  label,
  words,
  is,
  choose,
}: {
  label: string
  /** What can be chosen, in its order, with the word for each. */
  words: Readonly<Record<K, string>>
  is: K
  choose: (key: K) => void
}) => (
  <div role="radiogroup" aria-label={label} className="flex border border-line">
    {(Object.keys(words) as K[]).map((key) => (
      // biome-ignore lint/a11y/useSemanticElements: a word that is on or off, not a dot beside one
      <button
        key={key}
        type="button"
        role="radio"
        aria-checked={is === key}
        className={`h-[22px] border-r border-hair px-2 text-[12px] last:border-r-0 ${is === key ? 'bg-accent-bg font-bold text-accent' : 'text-ink2 hover:text-ink'}`}
        onClick={() => choose(key)}
      >
        {words[key]}
      </button>
    ))}
  </div>
)

/** Why something typed was not taken and what would do, right below it. */
export const RefusalNote = ({ id, words }: { id?: string; words: string }) => (
  <span
    id={id}
    role="alert"
    className="absolute top-full left-0 z-30 mt-0.5 border border-warn bg-raised px-1.5 py-0.5 text-[11px] text-ink whitespace-nowrap"
  >
    {words}
  </span>
)

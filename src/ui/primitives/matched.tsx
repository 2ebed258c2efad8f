/** A text with every place marked where one of the searched words stands. */
export const Matched = ({ text, words }: { text: string; words: readonly string[] }) => {
  const wanted = words.filter((w) => w !== '')
  if (wanted.length === 0) return <>{text}</>
  const pattern = new RegExp(
    `(${wanted.map((w) => w.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|')})`,
    'gi',
  )
  let at = 0
  return (
    <>
      {text.split(pattern).map((piece) => {
        const key = at
        at += piece.length
        return wanted.some((w) => w.toLowerCase() === piece.toLowerCase()) ? (
          <mark key={key}>{piece}</mark>
        ) : (
          piece
        )
      })}
    </>
  )
}

/** A button that asks for a file. The same file may be chosen again. */
export const FileButton = ({
  words,
  label,
  accept,
  take,
}: {
  words: string
  label: string
  accept: string
  take: (file: File) => void
}) => (
  <label className="btn cursor-pointer self-start focus-within:outline-2">
    {words}
    <input
      type="file"
      aria-label={label}
      accept={accept}
      className="sr-only"
      onChange={(e) => {
        const file = e.target.files?.[0]
        e.target.value = ''
        if (file) take(file)
      }}
    />
  </label>
)

import { notify } from '../live/store'

/** Few files that are read here are nearly as large; a larger one is not even opened. */
const MOST_BYTES = 8_000_000

/** A button that asks for a file. The same file may be chosen again. */
export const FileButton = ({
  words,
  label,
  accept,
  mostBytes = MOST_BYTES,
  take,
}: {
  words: string
  label: string
  accept: string
  mostBytes?: number
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
        if (!file) return
        if (file.size > mostBytes)
          notify(
            `${file.name} is larger than ${mostBytes / 1e6} MB; it was not read, and nothing was changed.`,
          )
        else take(file)
      }}
    />
  </label>
)

/** A name that every system takes for a file. */
export const fileName = (words: string): string => words.replace(/[^\p{L}\p{N}]+/gu, '-')

/** Gives the builder a text as a file. */
export const saveFile = (name: string, text: string, type = 'text/plain'): void => {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type }))
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}

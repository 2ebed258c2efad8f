/** The words of a search, in small letters: all of them have to be found. */
export const wordsOf = (search: string): string[] => search.toLowerCase().split(/\s+/).filter(Boolean)

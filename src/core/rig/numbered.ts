/** A name that is not taken yet: the stem with the first free number behind it. */
export const numbered = (stem: string, taken: ReadonlySet<string>, from = 1): string => {
  let n = from
  while (taken.has(`${stem} ${n}`)) n++
  return `${stem} ${n}`
}

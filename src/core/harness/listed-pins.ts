/** Where a pin of a chip is named with its chip: what stands before its last blank. */
const chipAndPin = (pin: string): readonly [chip: string, own: string] => {
  const at = pin.lastIndexOf(' ')
  return at < 0 ? ['', pin] : [pin.slice(0, at), pin.slice(at + 1)]
}

/** How many of these follow each other as numbers, from one of them on. */
const runFrom = (names: readonly string[], from: number): number => {
  const first = names[from] as string
  if (!/^\d+$/.test(first)) return 1
  let length = 1
  while (names[from + length] === String(Number(first) + length)) length++
  return length
}

/** Pins in their order, as one text: a chip is named once for what hangs on it, and three numbers in a row or more are a span. */
export const listedPins = (pins: readonly string[]): string => {
  const groups: { readonly chip: string; readonly names: string[] }[] = []
  for (const [chip, own] of pins.map(chipAndPin)) {
    const last = groups.at(-1)
    if (last?.chip === chip) last.names.push(own)
    else groups.push({ chip, names: [own] })
  }
  return groups
    .map(({ chip, names }) => {
      const words: string[] = chip === '' ? [] : [chip]
      for (let at = 0; at < names.length; ) {
        const run = runFrom(names, at)
        words.push(run >= 3 ? `${names[at]}–${names[at + run - 1]}` : names.slice(at, at + run).join(' '))
        at += run
      }
      return words.join(' ')
    })
    .join(', ')
}

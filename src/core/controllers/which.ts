/** What tells one controller from another: what it is, and, where they say so or are plugged in, which one. */
export interface Sign {
  readonly vendor: number
  readonly product: number
  readonly serial: string
  readonly port: string
}

/** One that the rig knows, and one that is plugged in. */
export interface Known extends Sign {
  readonly id: string
}
export interface Plugged extends Sign {
  readonly path: string
}

const isSameKind = (a: Sign, b: Sign): boolean => a.vendor === b.vendor && a.product === b.product

/** By known controller: the path where it is now, or why that cannot be told. */
export type Found = ReadonlyMap<string, { readonly path: string } | { readonly unclear: readonly string[] }>

/**
 * Which of the controllers that are plugged in are those that the rig knows: by their own number, else by the port, else,
 * where one of a kind is missing and one of that kind is new, that one, on whichever port. Two of a kind that both came to
 * other ports cannot be told apart by anything but a hand on them.
 */
export const whichIsWhich = (known: readonly Known[], plugged: readonly Plugged[]): Found => {
  const found = new Map<string, { path: string } | { unclear: string[] }>()
  const free = new Set(plugged)
  const missing = new Set(known)
  const settle = (isIt: (k: Known, p: Plugged) => boolean) => {
    for (const k of [...missing]) {
      const fits = [...free].filter((p) => isSameKind(k, p) && isIt(k, p))
      const rivals = [...missing].filter((other) => isSameKind(other, k) && fits[0] && isIt(other, fits[0]))
      if (fits.length !== 1 || rivals.length !== 1 || !fits[0]) continue
      found.set(k.id, { path: fits[0].path })
      free.delete(fits[0])
      missing.delete(k)
    }
  }
  // Some makers give all of a kind the same number: then that tells nothing.
  settle((k, p) => k.serial !== '' && k.serial === p.serial && k.port === p.port)
  settle((k, p) => k.serial !== '' && k.serial === p.serial)
  settle((k, p) => k.port !== '' && k.port === p.port && (k.serial === p.serial || k.serial === ''))
  settle((k, p) => k.serial === '' || p.serial === '' || k.serial === p.serial)
  for (const k of missing) {
    const unclear = [...free].filter((p) => isSameKind(k, p) && (k.serial === '' || k.serial === p.serial))
    if (unclear.length > 0) found.set(k.id, { unclear: unclear.map((p) => p.path) })
  }
  return found
}

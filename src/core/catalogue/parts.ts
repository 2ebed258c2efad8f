import type { PartKind } from './part-kind'
import { greyButton, redButton } from './parts/button'
import { lamps } from './parts/lamp'
import { toggle } from './parts/toggle'
import { wheelLever } from './parts/wheel-lever'

const all: PartKind[] = [wheelLever, toggle, redButton, greyButton, ...lamps]
const byId = new Map(all.map((k) => [k.id, k]))

/** The catalogue's record of a kind of part, or undefined for one this Clavik does not know. */
export const partKind = (id: string): PartKind | undefined => byId.get(id)

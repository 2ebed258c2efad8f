import { drawnPart } from '../drawing/drawn-parts'

/** Loaded by devices whose screen shows parts of the catalogue, and by no others. */
Object.assign(window, { clavikParts: drawnPart })

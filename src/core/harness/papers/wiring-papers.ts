/** Papers that a wiring drawing is printed on: A4 upright with one row of parts, A3 across with two. */
export const wiringPapers = { A4: { bands: 1 }, A3: { bands: 2 } } as const
export type WiringPaper = keyof typeof wiringPapers

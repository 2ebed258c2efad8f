/** The papers of the harness, by the names of their files. */
export const harnessPapers = ['wires.csv', 'parts.csv', 'labels.pdf', 'wiring.svg', 'wiring.pdf'] as const
export type HarnessPaper = (typeof harnessPapers)[number]

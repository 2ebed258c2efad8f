/** The fonts that legends are set in; they ship with Clavik. Letters of `single` are strokes that a tool follows once. */
export const legendFonts = ['plain', 'bold', 'mono', 'single'] as const
export type LegendFont = (typeof legendFonts)[number]

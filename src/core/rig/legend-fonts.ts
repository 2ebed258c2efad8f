/** The fonts that legends are set in; they ship with Clavik. */
export const legendFonts = ['plain', 'bold', 'mono'] as const
export type LegendFont = (typeof legendFonts)[number]

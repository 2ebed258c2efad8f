interface Ink {
  readonly hex: string
  /** On a dark ground it needs an edge to be seen. */
  readonly isDark?: true
}

/** Colours of wires as they are printed. */
const inks: Readonly<Record<string, Ink>> = {
  white: { hex: '#a7b0ae' },
  yellow: { hex: '#c9a400' },
  green: { hex: '#2e8b57' },
  blue: { hex: '#2f6fb5' },
  violet: { hex: '#7a4fa3', isDark: true },
  grey: { hex: '#77828a' },
  orange: { hex: '#d9772b' },
  brown: { hex: '#8a5a33', isDark: true },
  pink: { hex: '#d4679a' },
  red: { hex: '#c2333f' },
  black: { hex: '#20282d', isDark: true },
}

/** The ink for a wire; a colour that is not known is printed as grey, and written beside it anyway. */
export const wireInk = (colour: string): string => inks[colour]?.hex ?? '#5a676d'

/** Whether a wire's ink is so dark that on a dark ground it needs an edge to be seen. */
export const isDarkInk = (colour: string): boolean => inks[colour]?.isDark ?? false

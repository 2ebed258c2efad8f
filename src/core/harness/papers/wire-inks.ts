/** Colours of wires as they are printed. */
const inks: Readonly<Record<string, string>> = {
  white: '#a7b0ae',
  yellow: '#c9a400',
  green: '#2e8b57',
  blue: '#2f6fb5',
  violet: '#7a4fa3',
  grey: '#77828a',
  orange: '#d9772b',
  brown: '#8a5a33',
  pink: '#d4679a',
  red: '#c2333f',
  black: '#20282d',
}

/** The ink for a wire; a colour that is not known is printed as grey, and written beside it anyway. */
export const wireInk = (colour: string): string => inks[colour] ?? '#5a676d'

/** Whether a wire's ink is so dark that on a dark ground it needs an edge to be seen. */
export const isDarkInk = (colour: string): boolean =>
  colour === 'black' || colour === 'violet' || colour === 'brown'

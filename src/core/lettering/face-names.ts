/** Faces whose letters are outlines, from fonts that ship with Clavik. */
export const outlineFaces = [
  'b612',
  'b612-bold',
  'plex-mono',
  'dejavu',
  'dejavu-bold',
  'dejavu-mono',
] as const
export type OutlineFace = (typeof outlineFaces)[number]

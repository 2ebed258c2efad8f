import { z } from 'zod'
import type { Mount } from './mount'
import type { PartKind } from './part-kind'
import { partKind } from './parts'

const mm = z.number().finite().min(-500).max(500)
const size = z.number().finite().gt(0, 'has to be more than 0').max(500, 'at most 500 mm')

/**
 * A part as a builder has it on the bench: it does what a part of the catalogue does and has the same terminals, but
 * has a name and measures of its own.
 */
export const ownKind = z.strictObject({
  name: z.string().trim().min(1, 'a name is needed').max(80),
  /** The part of the catalogue that it works like. */
  like: z.string().refine((id) => partKind(id) !== undefined, 'this Clavik knows no such part'),
  widthMm: size,
  heightMm: size,
  cutout: z.discriminatedUnion('is', [
    z.strictObject({ is: z.literal('round'), diameterMm: size }),
    z
      .strictObject({ is: z.literal('flat-sided'), diameterMm: size, acrossMm: size })
      .refine((c) => c.acrossMm > c.diameterMm / 2 && c.acrossMm <= c.diameterMm, {
        message: 'the flat lies between the middle and the edge',
        path: ['acrossMm'],
      }),
    z.strictObject({ is: z.literal('window'), widthMm: size, heightMm: size, cornerMm: mm.min(0) }),
  ]),
  screws: z.array(z.strictObject({ xMm: mm, yMm: mm, diameterMm: size })).max(16),
  bodyWidthMm: size,
  bodyHeightMm: size,
  depthMm: size,
  standoffMm: mm.min(0),
})
export type OwnKind = z.infer<typeof ownKind>

/** The measures of a part of the catalogue, to begin one's own from. */
export const ownKindLike = (kind: PartKind): OwnKind => {
  const { mount, frontMm } = kind
  const [first] = mount.cutouts
  const cutout: OwnKind['cutout'] =
    first?.is === 'window'
      ? { is: 'window', widthMm: first.widthMm, heightMm: first.heightMm, cornerMm: first.cornerMm }
      : first?.is === 'flat-sided'
        ? { is: 'flat-sided', diameterMm: first.diameterMm, acrossMm: first.acrossMm }
        : { is: 'round', diameterMm: first?.diameterMm ?? 10 }
  return {
    name: `My ${kind.name.charAt(0).toLowerCase()}${kind.name.slice(1)}`.slice(0, 80),
    like: kind.id,
    widthMm: Math.round(frontMm.width * 100) / 100,
    heightMm: Math.round(frontMm.height * 100) / 100,
    cutout,
    screws: [...mount.screws],
    bodyWidthMm: mount.body.widthMm,
    bodyHeightMm: mount.body.heightMm,
    depthMm: mount.body.depthMm,
    standoffMm: mount.standoffMm,
  }
}

const built = new WeakMap<OwnKind, PartKind>()

const build = (own: OwnKind, like: PartKind): PartKind => {
  const room = {
    widthMm: like.mount.reach.widthMm - like.frontMm.width,
    heightMm: like.mount.reach.heightMm - like.frontMm.height,
  }
  const mount: Mount = {
    cutouts: [own.cutout],
    screws: own.screws,
    body: { widthMm: own.bodyWidthMm, heightMm: own.bodyHeightMm, depthMm: own.depthMm },
    standoffMm: own.standoffMm,
    // Fingers need as much room round it as round the part it works like.
    reach: { widthMm: own.widthMm + room.widthMm, heightMm: own.heightMm + room.heightMm },
  }
  return { ...like, name: own.name, frontMm: { width: own.widthMm, height: own.heightMm }, mount }
}

/** What a part is: its kind in the catalogue, with measures of its own where it has any; undefined when unknown. */
export const kindOf = (part: {
  readonly kind: string
  readonly settings: { readonly own?: OwnKind | undefined }
}): PartKind | undefined => {
  const like = partKind(part.kind)
  const { own } = part.settings
  if (!own || !like) return like
  let kind = built.get(own)
  if (!kind) {
    kind = build(own, like)
    built.set(own, kind)
  }
  return kind
}

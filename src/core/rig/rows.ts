import { z } from 'zod'
import { ownBoard } from '../catalogue/own-board'
import { connectionSettings } from '../connections/connections'
import { colour, pixels } from '../elements/element-kind'
import { elementSettings } from '../elements/elements'
import { pictureSettings } from '../elements/picture-data'
import { isPathData } from '../geometry/read-path-data'
import { bindingSettings } from './binding'
import { legendFonts } from './legend-fonts'
import { partSettings } from './part-settings'

/** The newest rig format this Clavik understands; rows that say a higher one are kept aside untouched. */
export const RIG_FORMAT = 2

const id = z.string().min(1).max(80)
/** As the database keeps whole numbers: 32 bits. */
const whole = z.int32()
const name = z.string().trim().min(1, 'a name is needed').max(120)
const mm = z.number().finite().min(-5000).max(5000)
/** SVG path data that can be read. */
const pathText = z
  .string()
  .max(200_000)
  .refine((d) => isPathData(d), 'this is no path')

/** What a plate is made of; the thinner a bridge may be, the tougher it is. */
export const materials = ['acrylic', 'aluminium', 'plywood', 'printed', 'steel'] as const
export type Material = (typeof materials)[number]

const positiveMm = z.number().finite().gt(0).max(5000)

const rig = z.strictObject({
  id,
  name,
  format: z.number().int().min(1).max(RIG_FORMAT, 'made by a newer Clavik'),
})

const panel = z.strictObject({
  id,
  name,
  position: whole,
  widthMm: positiveMm,
  heightMm: positiveMm,
  cornerMm: mm.min(0),
  thicknessMm: positiveMm,
  settings: z.strictObject({
    holes: z.array(z.strictObject({ xMm: mm, yMm: mm, diameterMm: positiveMm })).max(2000),
    material: z.enum(materials).optional(),
    /** An imported edge, as path data in millimetres; without it size and corners are the edge. */
    outline: pathText.optional(),
    /** Imported openings that belong to no part. */
    windows: z.array(pathText).max(500).optional(),
    /** Lines to which things snap. */
    guides: z
      .array(z.strictObject({ axis: z.enum(['x', 'y']), atMm: mm }))
      .max(100)
      .optional(),
  }),
})

const font = z.enum(legendFonts).optional()

/** What legends have in common with parts when they are moved. */
const held = { locked: z.boolean().optional(), group: z.string().min(1).max(80).optional() }

const part = z.strictObject({
  id,
  panelId: id,
  name,
  kind: z.string().min(1).max(120),
  xMm: mm,
  yMm: mm,
  rotationDeg: z.number().finite().min(-36_000).max(36_000),
  settings: partSettings,
})

const legend = z.strictObject({
  id,
  panelId: id,
  partId: id.nullable(),
  xMm: mm,
  yMm: mm,
  settings: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('text'),
      text: z.string().max(200),
      sizeMm: positiveMm,
      anchor: z.enum(['start', 'middle', 'end']),
      rotationDeg: z.number().finite().optional(),
      font,
      ...held,
    }),
    /** A line round a group, broken at the top left of its title. */
    z.strictObject({
      kind: z.literal('frame'),
      title: z.string().max(80),
      sizeMm: positiveMm,
      font,
      widthMm: positiveMm,
      heightMm: positiveMm,
      ...held,
    }),
    z.strictObject({ kind: z.literal('tick'), lengthMm: positiveMm, ...held }),
    z.strictObject({
      kind: z.literal('line'),
      dxMm: mm,
      dyMm: mm,
      widthMm: positiveMm.optional(),
      ...held,
    }),
    /** Lines out of a drawing made elsewhere, as path data from the legend's own place. */
    z.strictObject({
      kind: z.literal('drawing'),
      /** Where they are from, for people. */
      name: z.string().max(120),
      d: pathText,
      widthMm: positiveMm.optional(),
      ...held,
    }),
    /** The names of a switch's positions round its knob, where the switch really stops. */
    z.strictObject({
      kind: z.literal('ring'),
      radiusMm: positiveMm,
      sizeMm: positiveMm,
      font,
      ticks: z.boolean(),
      ...held,
    }),
  ]),
})

const board = z
  .strictObject({
    id,
    name,
    model: z.string().min(1).max(120),
    /** What the board is, where the catalogue does not know its model. */
    own: ownBoard.nullable().default(null),
    /** The identity the board itself keeps and tells; 16 hexadecimal digits. Null until one is chosen. */
    identity: z
      .string()
      .regex(/^[0-9a-f]{16}$/)
      .nullable(),
    position: whole,
    /** The supply that feeds it; null where its own cable from the computer does. */
    supplyId: id.nullable().default(null),
  })
  .refine((b) => b.own === null || b.own.id === b.model, {
    message: 'it has to be that of its own record',
    path: ['model'],
  })

/** A chip, or a chain of the same chips, that gives its board more inputs or outputs. */
const expander = z.strictObject({
  id,
  boardId: id,
  name,
  kind: z.string().min(1).max(120),
  /** How many hang one behind the other. */
  chips: z.number().int().min(1).max(16),
  /** Which of its addresses its jumpers choose, from 0. */
  jumpers: z.number().int().min(0).max(63),
  position: whole,
})

const supply = z.strictObject({
  id,
  name,
  volts: z.number().positive().max(60),
  maxMilliamps: z.number().positive().max(1_000_000),
  /** Whether its minus is joined to the ground of the boards. */
  groundJoined: z.boolean().default(true),
  /** The board or supply whose plus its own is joined to, if it is. */
  plusJoinedTo: id.nullable().default(null),
})

/**
 * A wire from a terminal of a part, or of an expander, to exactly one of: a contact of a board, a channel of an
 * expander, a supply, ground.
 */
const lead = z
  .strictObject({
    id,
    partId: id.nullable(),
    fromExpanderId: id.nullable().default(null),
    terminal: z.string().min(1).max(80),
    number: whole.positive(),
    colour: z.string().min(1).max(40),
    boardId: id.nullable(),
    pin: z.string().max(40).nullable(),
    expanderId: id.nullable(),
    channel: whole.nonnegative().nullable(),
    supplyId: id.nullable(),
    ground: z.boolean(),
    /** It hangs on a pin that others of its line may hang on too, or on a contact that gives a supply. */
    shared: z.boolean().default(false),
    /** It never moves when pins are assigned. */
    locked: z.boolean().default(false),
    /** The ribbon cable it belongs to: its leads stay side by side. */
    ribbon: z.string().trim().min(1).max(60).nullable().default(null),
  })
  .refine(
    (l) => (l.partId === null) !== (l.fromExpanderId === null),
    'a lead begins at a part or at an expander',
  )
  .refine(
    (l) =>
      Number(l.pin !== null) + Number(l.channel !== null) + Number(l.supplyId !== null) + Number(l.ground) ===
      1,
    'a lead ends at exactly one of: a pin, a channel, a supply, ground',
  )

/** Alternative jobs of the same controls; one of its layers is active at a time. */
const layerSet = z.strictObject({
  id,
  name,
  position: whole,
  settings: z.strictObject({
    /** The active layer's name, worked out from variables and controls; null where actions change it. */
    chosenBy: z.string().max(2000).nullable(),
    /** Back to the first layer when nothing of the set was used for so long. */
    timeoutMs: z.number().int().min(500).max(600_000).nullable(),
  }),
})

const layer = z.strictObject({ id, layerSet: id, name, position: whole })

/** Lamps and displays that are dimmed together; parts name it in their settings. */
const lighting = z.strictObject({
  id,
  name,
  position: whole,
  settings: z.strictObject({
    /** How bright, 0 to 1, worked out from variables and controls. */
    level: z.string().trim().min(1, 'a level is needed').max(2000),
    /** What they are at the very bottom: out, or just to be read. */
    bottom: z.enum(['out', 'readable']),
  }),
})

const binding = z.strictObject({
  id,
  partId: id,
  position: whole,
  on: z.boolean(),
  settings: bindingSettings,
})

/** Bindings for one craft or a family of them: for which, and how they stand to those for every craft. */
const craftSet = z.strictObject({
  id,
  name,
  position: whole,
  settings: z.strictObject({
    /** Names of craft, with `*` for anything: the set holds as soon as a source says that it flies one of them. */
    patterns: z.array(z.string().trim().min(1).max(120)).max(30),
    /** Whether, part by part, its bindings stand in place of those for every craft, or beside them. */
    replaces: z.boolean(),
  }),
})

const curve = z.strictObject({
  id,
  name,
  points: z
    .array(z.strictObject({ from: z.number().finite(), to: z.number().finite() }))
    .min(2)
    .max(200)
    .refine(
      (p) => p.every((q, i) => i === 0 || q.from > (p[i - 1]?.from ?? 0)),
      'points must rise from left to right',
    ),
})

/** What the builder notes about something to be bought, by what it is in the parts list. */
const purchase = z.strictObject({
  id,
  what: z.string().trim().min(1).max(200),
  value: z.string().max(80),
  note: z.string().max(300),
  /** Where it is sold; nothing but a web address, which is shown and never fetched. */
  link: z
    .string()
    .max(500)
    .refine((l) => l === '' || /^https?:\/\/\S+$/.test(l), 'a link begins with http:// or https://'),
  /** Of one piece, in whatever money the builder counts in. */
  price: z.number().finite().min(0).max(1_000_000).nullable(),
})

/** One thing that Clavik speaks with. */
const connection = z.strictObject({
  id,
  name,
  position: whole,
  /** One that is off is not opened; its settings and its names stay. */
  on: z.boolean(),
  settings: connectionSettings,
})

const dots = z.int().min(16).max(8192)

/** A small screen with drawn instruments, to the dot. */
const screen = z.strictObject({
  id,
  name: name.refine(
    (n) => !/[/\\?#%]/.test(n),
    'a screen is reached by its name, which holds none of / \\ ? # %',
  ),
  position: whole,
  widthPx: dots,
  heightPx: dots,
  settings: z.strictObject({
    ground: colour,
    /** How wide its picture really is; what is drawn is as large on a panel. */
    widthMm: positiveMm,
    /** The name of the page that is shown, worked out from variables, controls and layers; null for the first. */
    pageBy: z.string().trim().min(1).max(2000).nullable(),
    guides: z
      .array(z.strictObject({ axis: z.enum(['x', 'y']), at: pixels }))
      .max(100)
      .optional(),
  }),
})

const page = z.strictObject({ id, screenId: id, name, position: whole })

const picture = z.strictObject({ id, screenId: id, name, settings: pictureSettings })

/** An instrument, or a piece of one, on a page of a screen; on all of its pages where it names none. */
const element = z.strictObject({
  id,
  screenId: id,
  pageId: id.nullable(),
  name,
  /** What lies above what. */
  position: whole,
  /** The top left corner of its box, turned about the middle of that. */
  x: pixels,
  y: pixels,
  width: pixels.min(0),
  height: pixels.min(0),
  angle: z.number().finite().min(-36_000).max(36_000),
  settings: elementSettings,
})

/** Every table of a rig, in the order in which rows can be added without breaking a reference. */
export const tables = {
  rig,
  panel,
  supply,
  board,
  expander,
  part,
  legend,
  lead,
  layerSet,
  layer,
  lighting,
  craftSet,
  curve,
  binding,
  purchase,
  connection,
  screen,
  page,
  picture,
  element,
} as const

export type TableName = keyof typeof tables
export const tableNames = Object.keys(tables) as TableName[]
export type RowOf<T extends TableName> = z.infer<(typeof tables)[T]>

export type PanelRow = RowOf<'panel'>
export type PartRow = RowOf<'part'>
export type LegendRow = RowOf<'legend'>
export type LeadRow = RowOf<'lead'>
export type BoardRow = RowOf<'board'>
export type ExpanderRow = RowOf<'expander'>
export type SupplyRow = RowOf<'supply'>
export type BindingRow = RowOf<'binding'>
export type LayerSetRow = RowOf<'layerSet'>
export type LayerRow = RowOf<'layer'>
export type LightingRow = RowOf<'lighting'>
export type CraftSetRow = RowOf<'craftSet'>
export type PurchaseRow = RowOf<'purchase'>
export type ConnectionRow = RowOf<'connection'>
export type ScreenRow = RowOf<'screen'>
export type PageRow = RowOf<'page'>
export type PictureRow = RowOf<'picture'>
export type ElementRow = RowOf<'element'>

/** What a table's rows are called in sentences. */
export const tableWords: Record<TableName, string> = {
  rig: 'rig',
  panel: 'panel',
  supply: 'supply',
  board: 'board',
  expander: 'expander',
  part: 'part',
  legend: 'legend',
  lead: 'lead',
  layerSet: 'layer set',
  layer: 'layer',
  lighting: 'group of lights',
  craftSet: 'craft set',
  curve: 'curve',
  binding: 'binding',
  purchase: 'line of the parts list',
  connection: 'connection',
  screen: 'screen',
  page: 'page',
  picture: 'picture',
  element: 'element',
}

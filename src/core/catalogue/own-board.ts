import { z } from 'zod'
import { type BoardModel, contactsOf } from './board-model'
import { boardModel } from './boards'

const word = z.string().trim().min(1, 'a name is needed').max(16, 'at most 16 characters')
const mm = z.number().finite().min(0).max(500, 'at most 500 mm')
const side = z.number().finite().gt(0, 'has to be more than 0').max(500, 'at most 500 mm')
const milliamps = z.number().finite().gt(0, 'has to be more than 0').max(100_000)
const volts = z.number().finite().min(1, 'at least 1 V').max(24, 'at most 24 V')

const header = z.strictObject({
  xMm: mm,
  yMm: mm,
  runs: z.enum(['right', 'down', 'up']),
  faces: z.enum(['up', 'down', 'left', 'right']),
  contacts: z.array(word).min(1, 'a row has contacts').max(100),
})

const pin = z.strictObject({
  name: word,
  /** Above 255 are the channels of the board's chips. */
  number: z.number().int('a whole number').min(0).max(255, 'at most 255'),
  abilities: z.array(
    z.enum([
      'digital',
      'pull-up',
      'pwm',
      'steps',
      'frequency',
      'analog',
      'interrupt',
      'serial',
      'two-wire-data',
      'two-wire-clock',
    ] as const),
  ),
  only: z.enum(['input', 'analog']).exactOptional(),
  loaded: z.string().trim().min(1).max(120).exactOptional(),
  pwmChannel: z.string().trim().min(1).max(20).exactOptional(),
  taken: z.string().trim().min(1).max(60).exactOptional(),
})

const shape = z.strictObject({
  id: z
    .string()
    .regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'small letters, digits and hyphens')
    .refine((id) => boardModel(id) === undefined, 'a board of the catalogue has this id; choose another'),
  name: z.string().trim().min(1, 'a name is needed').max(60),
  note: z.string().trim().min(1).max(300).exactOptional(),
  given: z.literal(true).exactOptional(),
  logicVolts: volts,
  milliampsPerPin: milliamps,
  milliampsAllPins: milliamps,
  /** Bytes that it keeps without power; left out where nobody has said. */
  keepsBytes: z.number().int().min(64).max(16_000_000).exactOptional(),
  /** Room of Clavik's own program on its chip; left out where it has none. */
  works: z
    .strictObject({
      bytes: z.number().int().min(64).max(16_000_000),
      slots: z.number().int().min(1).max(10_000),
      chips: z.number().int().min(0).max(255),
    })
    .exactOptional(),
  groups: z
    .array(
      z.strictObject({
        name: z.string().min(1).max(60),
        pins: z.array(word),
        only: z.enum(['giving', 'taking']).exactOptional(),
        milliamps,
      }),
    )
    .max(16),
  ownMilliamps: milliamps,
  rails: z.array(z.strictObject({ contact: word, volts, milliamps })).max(8),
  regulator: z
    .strictObject({
      contact: word,
      volts: z.strictObject({ least: volts, most: volts }),
      milliamps,
      watts: z.number().finite().gt(0).max(100),
    })
    .exactOptional(),
  widthMm: side,
  heightMm: side,
  plug: z.enum(['left', 'top']),
  headers: z.array(header).min(1, 'a board has rows of contacts').max(16),
  pins: z.array(pin).min(1, 'a board has pins').max(200),
  timers: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1).max(60),
        pins: z.array(word).max(40),
        servos: z.boolean().exactOptional(),
      }),
    )
    .max(16)
    .exactOptional(),
})

/** What is wrong in a record whose fields are all well, as places and sentences. */
function* contradictions(board: BoardModel): Generator<readonly [path: (string | number)[], words: string]> {
  const contacts = contactsOf(board)
  const onHeader = new Set(contacts.map((c) => c.name))
  const pins = new Set<string>()
  const numbers = new Map<number, string>()
  for (const [i, p] of board.pins.entries()) {
    const path = (field: string) => ['pins', i, field]
    const twin = numbers.get(p.number)
    if (pins.has(p.name)) yield [path('name'), `there are two pins ${p.name}`]
    if (twin !== undefined) yield [path('number'), `${p.name} and ${twin} both have the number ${p.number}`]
    if (!onHeader.has(p.name) && !p.taken) yield [path('name'), `${p.name} is in no row of contacts`]
    if (p.abilities.length === 0 && !p.taken) yield [path('abilities'), `${p.name} can do nothing`]
    if (p.only === 'analog' && p.abilities.some((a) => a !== 'analog'))
      yield [path('only'), `${p.name} is analog only, but is said to do more`]
    if (p.only === 'input' && p.abilities.includes('pwm'))
      yield [path('only'), `${p.name} is input only, but is said to give PWM`]
    pins.add(p.name)
    numbers.set(p.number, p.name)
  }
  for (const [i, g] of board.groups.entries()) {
    const stranger = g.pins.find((name) => !pins.has(name))
    if (stranger !== undefined) yield [['groups', i, 'pins'], `there is no pin ${stranger}`]
  }
  for (const [i, r] of board.rails.entries()) {
    if (pins.has(r.contact)) yield [['rails', i, 'contact'], `${r.contact} is a pin`]
    else if (!onHeader.has(r.contact))
      yield [['rails', i, 'contact'], `${r.contact} is in no row of contacts`]
  }
  if (board.regulator && !onHeader.has(board.regulator.contact))
    yield [['regulator', 'contact'], `${board.regulator.contact} is in no row of contacts`]
  const places = new Map<string, string>()
  for (const c of contacts) {
    const path = ['headers', c.row, 'contacts', c.index]
    const place = `${c.xMm.toFixed(1)} ${c.yMm.toFixed(1)}`
    const under = places.get(place)
    if (under !== undefined) yield [path, `${c.name} lies where ${under} lies`]
    if (c.xMm < 0 || c.yMm < 0 || c.xMm > board.widthMm || c.yMm > board.heightMm)
      yield [path, `${c.name} lies beyond the edge of the board`]
    places.set(place, c.name)
  }
  if (!onHeader.has('GND') && !board.given) yield [['headers'], 'no contact is named GND']
}

/** A model of board that the catalogue does not have, as a builder describes it; kept in each board of the model. */
export const ownBoard: z.ZodType<BoardModel> = shape.superRefine((board, context) => {
  for (const [path, message] of contradictions(board)) context.addIssue({ code: 'custom', path, message })
})

/** What a board of a model keeps of it: nothing of one that the catalogue has. */
export const ownOf = (model: BoardModel): BoardModel | null => (boardModel(model.id) ? null : model)

/** A record of a board of one's own to begin from: another model's, under a name of its own. */
export const ownBoardLike = (model: BoardModel): BoardModel =>
  ownOf(model) ?? { ...model, id: `my-${model.id}`.slice(0, 40), name: `My ${model.name}`.slice(0, 60) }

/** What a board is: its own record where it has one, else the catalogue's; undefined when unknown. */
export const modelOf = (
  board: { readonly model: string; readonly own: BoardModel | null } | undefined,
): BoardModel | undefined => board?.own ?? boardModel(board?.model ?? '')

import { z } from 'zod'
import { nature } from '../core/aspects/nature'
import { seatInputs } from '../core/connections/seat'
import { simulatedModelNames } from '../core/controllers/simulated-models'
import { LineReader } from './line-reader'

const places = z.array(z.number().int())
const whole = z.number().int()
const rest = z.union([z.literal('keep'), whole])

/** What hangs on a board, as the slot that drives it: contacts and wipers are under the hand by their pins alone. */
const driven = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('lamp'), pin: whole, sinks: z.boolean(), rest }),
  z.object({
    kind: z.literal('digits'),
    pins: places,
    driver: z.enum(['MAX7219', 'TM1637']),
    digits: whole,
    keep: z.boolean(),
  }),
  z.object({
    kind: z.literal('text'),
    pins: places,
    columns: whole,
    rows: whole,
    address: whole,
    keep: z.boolean(),
  }),
  z.object({
    kind: z.literal('needle'),
    pins: places,
    drive: z.enum(['four-wire', 'servo', 'frequency']),
    travelDeg: z.number(),
    degPerS: z.number(),
    rest,
  }),
  z.object({ kind: z.literal('colour'), pin: whole, lamps: whole, keep: z.boolean() }),
])

/** What some of what hangs on a board is really like, by the places where it hangs. */
const likenesses = z.array(z.object({ places, nature }))

const pinAnd = <T extends z.ZodType>(value: T) => z.array(z.tuple([z.number().int(), value]))

/**
 * The bench's own channel to simulated boards: fingers that move contacts, and a meter on the pins. Real boards
 * have no such thing; what they do is told by the board link alone.
 */
const toStandins = z.discriminatedUnion('say', [
  /** The first line: only who knows the secret of this start is listened to. */
  z.object({ say: z.literal('hello'), secret: z.string() }),
  z.object({
    say: z.literal('move'),
    identity: z.string(),
    contacts: z.array(z.object({ pin: z.number().int(), closed: z.boolean() })),
  }),
  /** Turns a knob by so many contact changes of its two pins. */
  z.object({
    say: z.literal('turn'),
    identity: z.string(),
    pins: z.tuple([z.number().int(), z.number().int()]),
    changes: z.number().int().min(-400).max(400),
  }),
  /** Puts a wiper at a share of the supply: at once, or as a hand moves a lever. */
  z.object({
    say: z.literal('slide'),
    identity: z.string(),
    pin: z.number().int(),
    level: z.number().min(0).max(1),
    glides: z.boolean().optional(),
  }),
  /** All stand-ins that there are to be from now on; others are put away, and what a board held is kept for its return. */
  z.object({
    say: z.literal('be'),
    /** The rig that they are of. Another one, as a copy, has others, whatever they are called. */
    rig: z.string(),
    boards: z.array(
      z.object({
        identity: z.string().regex(/^[0-9a-f]{16}$/),
        model: z.string(),
        /** Contacts that are closed before anybody has touched the panel, and where wipers stand then, 0 to 1. */
        closed: z.array(z.number().int()),
        wipers: pinAnd(z.number()),
      }),
    ),
    crafts: z.array(
      z.object({ id: z.string(), seed: z.number().int(), further: z.number().int().max(20_000) }),
    ),
    /** Trucks, each with the port of this computer to which it sends its datagrams. */
    clusters: z.array(z.object({ id: z.string() })),
    trucks: z.array(z.object({ id: z.string(), port: z.number().int().min(1).max(65_535) })),
    /** Controllers by their identity, as boards have one. */
    controllers: z.array(
      z.object({ id: z.string().regex(/^[0-9a-f]{16}$/), model: z.enum(simulatedModelNames) }),
    ),
  }),
  /** What is soldered to a board now, as it is drawn: its chips, in the order in which their channels are counted, and what it drives. */
  z.object({
    say: z.literal('solder'),
    identity: z.string(),
    chips: z.array(
      z.object({
        kind: z.string(),
        pins: z.array(z.number().int()),
        chips: z.number().int(),
        address: z.number().int(),
      }),
    ),
    slots: z.array(driven),
    natures: likenesses,
  }),
  /** A hand and a foot in a truck; what is null is left to its own driver. */
  z.object({ say: z.literal('drive'), id: z.string(), seat: seatInputs }),
  /** A hand on one of the controls of a simulated controller, by its place in the model: where it is put. */
  z.object({
    say: z.literal('handle'),
    identity: z.string(),
    control: whole,
    to: z.number().min(0).max(100),
  }),
  /** Inputs of a board are measured: it is to run as finely as a real one, or only as far as hands and lamps need. */
  z.object({ say: z.literal('attend'), identity: z.string(), on: z.boolean() }),
])

const pins = z.object({
  say: z.literal('pins'),
  identity: z.string(),
  /** Pins whose contact to ground is closed. */
  closed: z.array(z.number().int()),
  /** The level of each pin that drives a lamp, 0 to 255. */
  levels: pinAnd(z.number()),
  /** Where the hand has put each wiper, 0 to 1. */
  wipers: pinAnd(z.number()),
  /** What each display shows and where each needle stands, by the first pin it hangs on. */
  shows: pinAnd(z.union([z.number(), z.string()])),
})

const fromStandins = z.discriminatedUnion('say', [
  pins,
  /** What hangs on a board is like this now: what it noted after this time of its own, in microseconds, is of that. */
  z.object({
    say: z.literal('is like'),
    identity: z.string(),
    at: z.number().int(),
    natures: likenesses,
  }),
  /** A simulated board, or a simulated craft or cluster, answers on this port of the same computer; 0 when it has been put away. */
  z.object({ say: z.literal('board'), identity: z.string(), port: z.number().int() }),
  z.object({ say: z.literal('craft'), id: z.string(), port: z.number().int() }),
])

export type ToStandins = z.infer<typeof toStandins>
export type FromStandins = z.infer<typeof fromStandins>

export type Likeness = z.infer<typeof likenesses>[number]

export const readerOfHands = () => new LineReader<ToStandins>(toStandins)
export const readerOfPins = () => new LineReader<FromStandins>(fromStandins)
export const handLine = (message: ToStandins | FromStandins): string => `${JSON.stringify(message)}\n`

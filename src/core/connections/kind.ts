import type { z } from 'zod'

/** What a connection carries: the values of a simulator or telemetry, or one board. */
export type Carries = 'source' | 'board'

/** One value that goes out over a connection: where it belongs there, and the expression that it is. */
export interface OutgoingValue {
  readonly key: string
  readonly expression: string
  /** The unit in which it is wanted; as it is where nothing is said. */
  readonly unit?: string
}

/** One thing that a builder sets on a connection, and how it is asked for. */
export interface ConnectionField {
  readonly key: string
  readonly label: string
  readonly as: 'text' | 'port number' | 'serial port' | 'choice' | 'board model'
  /** What it means, or an example. */
  readonly hint: string
  /** The first is meant where nothing is set. */
  readonly choices?: readonly (number | string)[]
  /** Behind choices that are numbers. */
  readonly unit?: string
}

/**
 * One kind of thing that Clavik speaks with. The hub adds a line to it, by the same name; nothing else knows one kind
 * from another.
 */
export interface ConnectionKind<Z extends z.ZodType<{ readonly kind: string }>> {
  /** As it is offered. */
  readonly name: string
  readonly summary: string
  readonly carries: Carries
  /** Whether it is one of Clavik's own stand-ins. */
  readonly isSimulated: boolean
  readonly settings: Z
  /** What a new one begins with. */
  readonly fresh: z.infer<Z>
  /** What of it can be set by hand, in the order in which it is asked for. */
  readonly fields: readonly ConnectionField[]
  /** Where it is reached, as people say it. */
  readonly address: (settings: z.infer<Z>) => string
  /** The values that it sends, where it sends any. */
  readonly outgoing?: (settings: z.infer<Z>) => readonly OutgoingValue[]
}

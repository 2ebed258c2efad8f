import type { Nature } from '../aspects/nature'
import type { Drifted } from '../calibration/drift'
import type { Carries } from '../connections/kind'
import type { SeatInputs } from '../connections/seat'
import type { Capabilities } from '../controllers/capabilities'
import type { Touched } from '../elements/touch'
import type { Agreement } from '../engine/agreement'
import type { Exercise } from '../engine/exercise'
import type { LightingNow } from '../engine/lighting'
import type { TraceRow } from '../engine/trace-row'
import type { BoardLimits } from '../harness/board-limits'
import type { ProgramState } from '../programs/programs'
import type { CraftChoice } from '../rig/craft-sets'
import type { Diff } from '../rig/edit'
import type { Rig } from '../rig/rig'
import type { SimulatorCatalogue } from '../rig/simulator-catalogue'
import type { SourcePlace } from '../rig/sources'
import type { ScopeQuery } from '../scope/find'
import type { Millis } from '../units-of-measure'
import type { RecordingState, ReplayState } from './recording-states'
import type { OfScreen } from './screen-feed'

/** The vocabulary of the live feed between hub and browser. Both ends are of one build, so it has no version. */

/** How one connection of the rig stands. */
export interface ConnectionStatus {
  /** Its row. */
  readonly id: string
  readonly name: string
  readonly carries: Carries
  readonly state: 'up' | 'down' | 'off'
  /** Where it leads now, and where it was meant to lead if its board was found elsewhere. */
  readonly address: string
  readonly insteadOf: string | null
  /** The craft, or the board's model; empty before it has said. */
  readonly who: string
  /** Of a board, as it said. */
  readonly identity: string | null
  /** The number of a board's program, where it is Clavik's own. */
  readonly program: number | null
  /** Frames heard a second. */
  readonly rateHz: number
  /** Milliseconds from a question to its answer, when last measured. */
  readonly delayMs: number | null
  /** Frames or lines that came damaged, or not at all, in either direction. */
  readonly dropped: number
  /** Why it is not up, or what is wrong although it is, and what the builder can do about it. */
  readonly problem: string | null
  readonly cure: string | null
  /** What is odd about what it tells, in sentences; everything else of it is used. */
  readonly odd: readonly string[]
}

/** A serial port that is plugged in, and what is known of what is behind it. */
export interface FoundPort {
  readonly path: string
  /** What the system says of it. */
  readonly what: string
  /** Plugged in since Clavik runs. */
  readonly fresh: boolean
  readonly state: 'not asked' | 'asking' | 'board' | 'nothing' | 'in use'
  readonly identity: string | null
  readonly model: string
  /** The number of the program of the board there, where it is Clavik's own. */
  readonly number: number | null
  /** How the writing of a program to what is there stands; null where nobody has begun to. */
  readonly program: ProgramState | null
  readonly problem: string | null
  readonly cure: string | null
}

/** A game controller that is plugged in, and the connection that reads it, if any does. */
export interface FoundController {
  readonly path: string
  readonly name: string
  readonly vendor: number
  readonly product: number
  readonly serial: string
  readonly port: string
  readonly keys: readonly number[]
  readonly axes: readonly number[]
  readonly usedBy: string | null
  /** Plugged in since Clavik runs. */
  readonly fresh: boolean
}

/** One identifier on a vehicle bus, in one direction: its bytes last, as digits, how often it came so far, and how often it comes. */
export interface BusRow {
  readonly id: number
  readonly extended: boolean
  readonly d: 'in' | 'out'
  readonly hex: string
  readonly count: number
  readonly everyMs: number
  readonly ago: Millis
}

/** One frame or line that has gone over a connection. */
export interface RawItem {
  /** Milliseconds of the wall clock. */
  readonly t: number
  readonly d: 'in' | 'out'
  /** As it was sent: bytes as digits, or a line as text. */
  readonly raw: string
  /** What it means, as its link reads it. */
  readonly words: string
  readonly sound: boolean
}

export interface BoardStatus {
  /** The drawn board, or null for a real one that nobody has drawn. */
  readonly id: string | null
  /** The connection over which it speaks; null while nobody does. */
  readonly connection: string | null
  readonly identity: string
  readonly name: string
  readonly model: string
  readonly state: 'up' | 'down'
  readonly problem: string | null
  /** Whether what it holds is what is drawn. */
  readonly loaded: boolean
  /** Parts that differ between drawing and board. */
  readonly differing: readonly string[]
  /** Share loaded so far, 0 to 1, while a load runs. */
  readonly loading: number | null
  /** Frames heard a second, and those so far that came damaged or not at all, in either direction. */
  readonly rateHz: number
  readonly bad: number
  /** What it can hold and carry, as it said; null before it has. */
  readonly limits: BoardLimits | null
  /** Simulated ones can be operated on screen. */
  readonly simulated: boolean
}

export interface Status {
  readonly armed: boolean
  /** The craft set that holds, how it is chosen, and what is flown. */
  readonly craftSet: {
    readonly holds: string | null
    readonly choice: CraftChoice
    readonly crafts: readonly string[]
  }
  readonly database: 'up' | 'down'
  readonly standins: 'up' | 'down'
  /** In the order of the rig. */
  readonly connections: readonly ConnectionStatus[]
  readonly boards: readonly BoardStatus[]
  readonly found: readonly FoundPort[]
  readonly controllers: readonly FoundController[]
}

/**
 * What one aspect of a part is doing now. `told` is what the board reported, or what the engine asks for: a position,
 * clicks, what a lever gives, a lamp's packed state, a needle's tenths of a degree, what a display shows. `metered` is
 * where the hand has put the simulated part, or what the meter on its pins reads; null for real ones.
 */
export interface AspectLive {
  readonly told: number | string | null
  readonly metered: number | string | null
}

/** What a part is doing now. */
export interface PartLive {
  readonly aspects: Readonly<Record<string, AspectLive>>
  readonly exercised: boolean
}

export interface LayerLive {
  readonly active: string | null
  readonly problem: string | null
}

/** A moment that was marked, with the position in which the touched part stood then. */
export interface HuntMark {
  readonly ago: number
  /** By the builder, not by what was operated on the panel. */
  readonly byHand: boolean
  readonly position: string | null
}

/** A variable that a hunt thinks may be the one. */
export interface HuntGuess {
  readonly row: number
  readonly partner: number | null
  readonly sure: number
  readonly words: string
  readonly levels: readonly number[]
  /** The level it came to while the touched part stood in a position. */
  readonly seen: Readonly<Record<string, number>>
  readonly trace: readonly (number | null)[]
  /** When it began to move, from what to what, and how long that took. */
  readonly onsets: readonly (readonly [ago: number, from: number, to: number, ms: number])[]
}

/** What a hand does to a simulated part. */
export type Movement =
  | { readonly to: 'position'; readonly position: string }
  | { readonly to: 'turn'; readonly clicks: number }
  | { readonly to: 'slide'; readonly level: number }

export type ProofState = 'proven' | 'changed since' | 'not yet'

/** To tabs and devices: the hub is there, said once a second whether or not there is anything else to say. */
export interface Alive {
  readonly say: 'alive'
}

export type FromHub =
  | {
      readonly say: 'rig'
      readonly rigId: string | null
      readonly rig: Rig
      readonly revision: number
      readonly setAside: readonly string[]
    }
  | {
      readonly say: 'edit'
      readonly revision: number
      readonly editId: string
      readonly sentence: string
      readonly diff: Diff
    }
  | { readonly say: 'status'; readonly status: Status }
  /** What all sources tell, as one catalogue, and where in it the names of each are. */
  | {
      readonly say: 'catalogue'
      readonly catalogue: SimulatorCatalogue
      readonly sources: readonly SourcePlace[]
      /** Sources that have told no names yet. */
      readonly untold: readonly string[]
    }
  | { readonly say: 'values'; readonly i: readonly number[]; readonly v: readonly (number | string | null)[] }
  | { readonly say: 'parts'; readonly parts: Readonly<Record<string, PartLive>> }
  /** What the panel shows, what the craft says, and whether they agree, of parts of which the tab shows that. */
  | { readonly say: 'says'; readonly parts: Readonly<Record<string, Agreement>> }
  | {
      readonly say: 'trace'
      readonly partId: string
      readonly rows: readonly TraceRow[]
      readonly now: number
    }
  /** Whether parts agree, for those where that has changed: true, false, waiting for a board's word, or nothing to compare. */
  | { readonly say: 'agreements'; readonly parts: Readonly<Record<string, boolean | 'waits' | null>> }
  /** The paths of parts whose paths have changed, of those that the tab shows. */
  | { readonly say: 'paths'; readonly parts: Readonly<Record<string, readonly TraceRow[]>> }
  | { readonly say: 'proof'; readonly proof: Readonly<Record<string, ProofState>> }
  /** The active layer of each set by name, how bright each group of lights is, and what is wrong with either. */
  | {
      readonly say: 'layers'
      readonly layers: Readonly<Record<string, LayerLive>>
      readonly lighting: Readonly<Record<string, LightingNow>>
    }
  /** A control was operated on the panel, told to tabs that follow. */
  | { readonly say: 'operated'; readonly partId: string }
  /** What has gone over a connection that the tab looks at; `left` is how much more there was than can be shown. */
  | {
      readonly say: 'raw'
      readonly connection: string
      readonly items: readonly RawItem[]
      readonly left: number
    }
  /** Whole datagrams that came to a connection, or went from it, since the last turn: when, in milliseconds of the hub, and their bytes in base 64. */
  | {
      readonly say: 'datagrams'
      readonly connection: string
      readonly items: readonly { readonly at: Millis; readonly d: 'in' | 'out'; readonly bytes: string }[]
      readonly left: number
    }
  /** All that is on a vehicle bus, and where its slow indicators are thought to be, by where their value belongs. */
  | {
      readonly say: 'bus'
      readonly connection: string
      readonly rows: readonly BusRow[]
      readonly slow: Readonly<Record<string, readonly [told: number, at: number, seconds: number]>>
    }
  /** Where everything on a controller stands, by pin, as it says itself; what was touched last, and buttons that take turns. */
  | {
      readonly say: 'controller'
      readonly connection: string
      readonly hello: Capabilities | null
      readonly raw: readonly (readonly [pin: number, value: number])[]
      readonly touched: { readonly pin: number; readonly at: Millis } | null
      readonly groups: readonly (readonly number[])[]
    }
  /** How long the other end of a connection took to answer; null when it did not. */
  | { readonly say: 'echo'; readonly connection: string; readonly ms: number | null }
  /** The rows of Scope that a search wants, in its order: variables and, behind them, events. */
  | { readonly say: 'scope found'; readonly ask: number; readonly rows: readonly number[] }
  /** Of rows on its screen: value, number of changes, milliseconds since the last; and now and then their traces. */
  | {
      readonly say: 'scope rows'
      readonly i: readonly number[]
      readonly v: readonly (number | string | null)[]
      readonly n: readonly number[]
      readonly ago: readonly (number | null)[]
      readonly traces: Readonly<Record<string, readonly (number | null)[]>> | null
    }
  /** What came of a value written, or an event sent, by hand; `sent` is false where it did not get as far as the simulator. */
  | {
      readonly say: 'scope answered'
      readonly name: string
      readonly value: number | string | null
      readonly problem: string | null
      readonly sent: boolean
    }
  /** How a hunt stands: its marks and its best guesses, in milliseconds before now. */
  | {
      readonly say: 'hunt'
      readonly marks: readonly HuntMark[]
      /** The part that was touched last on the panel, and how long ago. */
      readonly part: { readonly id: string; readonly ago: number } | null
      /** How many move by themselves. */
      readonly restless: number
      readonly guesses: readonly HuntGuess[]
    }
  /** Something that a chart shows as a line: a binding has ordered something, a moment was marked. */
  | { readonly say: 'scope noted'; readonly words: string }
  /** What has moved within the time asked for. */
  | { readonly say: 'scope moved'; readonly names: readonly string[] }
  /** The recording that is made, and the one that is played in place of the sources. */
  | { readonly say: 'recording'; readonly recording: RecordingState | null }
  | { readonly say: 'replay'; readonly replay: ReplayState | null }
  /** Recordings were added, changed or deleted. */
  | { readonly say: 'recordings' }
  /**
   * What a board has noted of the input that a tab measures, as it came: when, in milliseconds of the board's time, and its
   * contacts, the first lowest, or its level of 0 to 1023. `left` counts notes that found no room; a problem says why there is nothing.
   */
  | ({
      readonly say: 'probed'
      readonly notes: readonly (readonly [at: Millis, value: number])[]
      readonly left: number
      readonly problem: string | null
      /** The level at which the lever that is moved along with it stands, as its board told it last. */
      readonly twin: number | null
      /** What a simulated one is really like, as the stand-ins confirmed it; what was noted is of that. Null: as its catalogue says. */
      readonly nature: Nature | null
    } & ProbedAspect)
  | OfScreen
  /** All that has drifted since it was measured. */
  | { readonly say: 'drift'; readonly parts: readonly DriftedPart[] }
  | { readonly say: 'problem'; readonly message: string }

/** A control that does worse than when it was measured. */
export interface DriftedPart extends ProbedAspect {
  readonly drifted: Drifted
}

/** A control that is measured. */
export interface ProbedAspect {
  readonly partId: string
  readonly aspectId: string
}

export type ToHub =
  | { readonly say: 'select'; readonly partId: string | null }
  /** Whether this tab wants every variable's value and every part's state, or only those that it shows. */
  | { readonly say: 'watch'; readonly all: boolean }
  /** The parts that this tab draws, those of which it says what panel and craft say, those whose paths it shows. */
  | { readonly say: 'show'; readonly subject: 'parts' | 'says' | 'paths'; readonly parts: readonly string[] }
  /** The variables whose values this tab shows. */
  | { readonly say: 'values'; readonly names: readonly string[] }
  /** The screens of which this tab shows what they show. */
  | { readonly say: 'screens'; readonly ids: readonly string[] }
  /** Whether this tab lists which parts agree. */
  | { readonly say: 'agreements'; readonly on: boolean }
  | {
      readonly say: 'operate'
      readonly partId: string
      readonly aspectId: string
      readonly movement: Movement
    }
  /** A finger on an element of a screen. */
  | { readonly say: 'touch'; readonly element: string; readonly by: Touched }
  | { readonly say: 'arm'; readonly armed: boolean }
  /** How the craft set is chosen from now on. */
  | { readonly say: 'craft set'; readonly choice: CraftChoice }
  | { readonly say: 'load'; readonly boardId: string }
  | { readonly say: 'exercise'; readonly partIds: readonly string[]; readonly how: Exercise | null }
  /** The panel leads: tell the simulator where these parts stand. */
  | { readonly say: 'settle'; readonly partIds: readonly string[] }
  /** A port is asked whether a board answers there. */
  | { readonly say: 'ask port'; readonly path: string }
  /** The program that fits is written to the chip on a port; or what came of that has been read. */
  | { readonly say: 'load program'; readonly path: string }
  | { readonly say: 'forget program'; readonly path: string }
  /** Whether this tab looks at what goes over a connection. */
  | { readonly say: 'raw'; readonly connection: string | null }
  /** The connection whose datagrams this tab looks at. */
  | { readonly say: 'datagrams'; readonly connection: string | null }
  /** The vehicle bus that this tab looks at. */
  | { readonly say: 'bus'; readonly connection: string | null }
  /** The controller that this tab looks at. */
  | { readonly say: 'controller'; readonly connection: string | null }
  /** A hand on a control of a simulated controller, by its place in the model. */
  | { readonly say: 'handle'; readonly connection: string; readonly control: number; readonly to: number }
  /** A hand and a foot in a simulated truck. */
  | { readonly say: 'drive'; readonly connection: string; readonly seat: SeatInputs }
  /** Bytes to be sent by hand, as hexadecimal digits. */
  | { readonly say: 'raw send'; readonly connection: string; readonly hex: string }
  | { readonly say: 'echo'; readonly connection: string }
  | { readonly say: 'lines'; readonly connection: string; readonly dtr: boolean; readonly rts: boolean }
  /** The control that this tab measures. */
  | { readonly say: 'probe'; readonly of: ProbedAspect | null }
  /** A lever that is moved along with it. */
  | { readonly say: 'probe twin'; readonly of: ProbedAspect | null }
  /** Whether this tab goes to whatever is operated on the panel. */
  | { readonly say: 'follow'; readonly on: boolean }
  /** Whether this tab has Scope open: everything is asked of the sources then, and counted. */
  | { readonly say: 'scope'; readonly on: boolean }
  | {
      readonly say: 'scope lists'
      readonly pinned: readonly string[]
      readonly muted: readonly string[]
      readonly bound: readonly string[]
    }
  | { readonly say: 'scope find'; readonly ask: number; readonly query: ScopeQuery }
  | { readonly say: 'scope show'; readonly rows: readonly number[] }
  /** A value for a variable, or with an event, as it was typed. */
  | { readonly say: 'scope write' | 'scope event'; readonly name: string; readonly typed: string }
  /** Begins a hunt anew, or ends it. */
  | { readonly say: 'hunt'; readonly on: boolean }
  /** Marks this moment; or takes the last mark back. */
  | { readonly say: 'hunt mark' | 'hunt unmark' }
  /** The part for which is hunted, chosen by hand. */
  | { readonly say: 'hunt part'; readonly partId: string | null }
  | { readonly say: 'scope moved'; readonly ms: number }
  /** Counts of changes begin anew. */
  | { readonly say: 'scope forget' }
  /** Begins a recording of all that the sources tell, or of these names and what is bound. */
  | { readonly say: 'record'; readonly name: string; readonly names: readonly string[] | null }
  | { readonly say: 'record end' | 'replay close' }
  | { readonly say: 'record mark'; readonly words: string }
  | { readonly say: 'replay open'; readonly id: string }
  | {
      readonly say: 'replay change'
      readonly playing?: boolean | undefined
      readonly speed?: number | undefined
      readonly loop?: boolean | undefined
      readonly hands?: boolean | undefined
      readonly at?: number | undefined
    }
  | { readonly say: 'replay step'; readonly by: 1 | -1 }

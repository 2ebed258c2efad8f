import { type Aspect, isControl } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { addingController } from '../controllers/add-controller'
import { type Capabilities, inputsOf } from '../controllers/capabilities'
import { partsByPin, takingParts } from '../controllers/take'
import type { Touched, TouchKind } from '../elements/touch'
import type { Movement } from '../live/feed'
import { apply, type Diff } from '../rig/edit'
import { boardsOf, connectionsOf, type Rig, rowsOf } from '../rig/rig'
import type { BoardRow, PartRow, ScreenRow } from '../rig/rows'

const FIRST_KEY = 0x120
const KEYS = 96
const FIRST_AXIS = 0x20
const AXES = 24
const FULL = 65_535

/** What a screen that is touched says of itself: more contacts and levels than fingers find room for. */
export const touchCapabilities = (name: string): Capabilities => ({
  ...{ controller: 1, name: name.slice(0, 60), vendor: 0, product: 0, serial: '', port: '' },
  keys: Array.from({ length: KEYS }, (_, i) => FIRST_KEY + i),
  down: [],
  axes: Array.from({ length: AXES }, (_, i) => ({ code: FIRST_AXIS + i, value: 0, least: 0, most: FULL })),
})

/** The board that the fingers on a screen are, where there is one. */
export const touchBoardOf = (rig: Rig, screenId: string): BoardRow | null => {
  const row = connectionsOf(rig).find(({ settings: s }) => s.kind === 'touch screen' && s.screen === screenId)
  const identity = row?.settings.kind === 'touch screen' ? row.settings.identity : null
  return identity === null ? null : (boardsOf(rig).find((b) => b.identity === identity) ?? null)
}

/** As what part of the catalogue each is taken, and its terminals. */
const taken: Readonly<Record<TouchKind, { readonly kind: string; readonly terminals: readonly string[] }>> = {
  button: { kind: 'button-10-grey', terminals: ['closed'] },
  slider: { kind: 'slide-pot-45', terminals: ['wiper'] },
  knob: { kind: 'encoder', terminals: ['a', 'b'] },
}

/**
 * A control for fingers on a screen as a part of the rig, and with the first of them the board that they are: from here on it
 * is bound, layered and calibrated like any other. Gives the changes and the part, or why there is no room for one more.
 */
export const addingTouch = (
  rig: Rig,
  screen: ScreenRow,
  is: TouchKind,
  name: string,
  newId: () => string,
  newIdentity: () => string,
): { readonly diff: Diff; readonly part: PartRow } | { readonly problem: string } => {
  const hello = touchCapabilities(`Touch ${screen.name}`)
  const known = touchBoardOf(rig, screen.id)
  const adding = known
    ? []
    : addingController(
        rig,
        hello,
        { kind: 'touch screen', identity: newIdentity(), screen: screen.id },
        { connection: newId(), board: newId() },
      )
  const with0 = apply(rig, adding)
  const board = touchBoardOf(with0, screen.id)
  if (!board) return { problem: 'The board that fingers are could not be made.' }
  const used = partsByPin(with0, board)
  const kind = taken[is]
  const inputs = inputsOf(hello).filter((i) => (i.is === 'axis') === (is === 'slider') && !used.has(i.name))
  if (inputs.length < kind.terminals.length)
    return {
      problem: `“${screen.name}” has no room for another ${is}: ${KEYS} contacts and ${AXES} sliders are there.`,
    }
  const pins = Object.fromEntries(kind.terminals.map((t, i) => [t, inputs[i]?.name ?? '']))
  const taking = takingParts(with0, board, [{ kind: kind.kind, name, pins }], newId)
  const after = apply(with0, taking)
  const part = rowsOf(after, 'part').find((p) => !with0.part[p.id])
  return part ? { diff: [...adding, ...taking], part } : { problem: 'The part could not be made.' }
}

/** What a finger on an element does to the part that it is; null where it does nothing. */
export const movementOf = (
  rig: Rig,
  elementId: string,
  by: Touched,
): { readonly partId: string; readonly aspectId: string; readonly movement: Movement } | null => {
  const settings = rig.element[elementId]?.settings
  const part = settings?.kind === 'touch' ? rig.part[settings.part ?? ''] : undefined
  const aspects = partKind(part?.kind ?? '')?.aspects.filter(isControl) ?? []
  const of = <K extends Aspect['kind']>(kind: K) =>
    aspects.find((a) => a.kind === kind) as Extract<Aspect, { kind: K }> | undefined
  if (!part) return null
  if ('press' in by) {
    const aspect = of('positions')
    const position = aspect?.positions[by.press ? 1 : 0]
    return aspect && position
      ? { partId: part.id, aspectId: aspect.id, movement: { to: 'position', position: position.id } }
      : null
  }
  if ('level' in by) {
    const aspect = of('travel')
    return aspect
      ? { partId: part.id, aspectId: aspect.id, movement: { to: 'slide', level: by.level } }
      : null
  }
  const aspect = of('encoder')
  return aspect ? { partId: part.id, aspectId: aspect.id, movement: { to: 'turn', clicks: by.turn } } : null
}

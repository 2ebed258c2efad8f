'use client'
import { useMemo } from 'react'
import type { BoardModel, Header } from '@/core/catalogue/board-model'
import { pinOf, railOf } from '@/core/catalogue/boards'
import { kindOf } from '@/core/catalogue/own-kind'
import { beginningOf, beginningWords, type LeadEnd, terminalAt } from '@/core/harness/leads'
import { isDarkInk, wireInk } from '@/core/harness/papers/wire-inks'
import { pinObjection } from '@/core/harness/pin-objection'
import { widthIn } from '@/core/lettering/faces'
import { leadsOnBoard, type Rig } from '@/core/rig/rig'
import type { BoardRow, LeadRow } from '@/core/rig/rows'
import { useStore } from '../live/store'
import { type Contact, INNER_STUB_MM, layContacts, MOST_LETTERS, namePlace, STUB_MM } from './board-layout'
import { useDrawnRig, useHarness, useIsProposed } from './harness-store'
import { handling, TRAILING, useIsLooked, useWireLive, useWireWords } from './wire-end'
import { hasWords } from './wire-look'

/** Room for what hangs on the pins, beside the board, at most. */
const LABEL_MM = 48
/** As many letters of what is live at a pin are shown. */
const LIVE_LETTERS = 10
const EMPTY_MM = 7
const TEXT_MM = 2.15
const NAME_MM = 2
/**
 * The board is as large as the sheet allows, in pixels for a millimetre, but never smaller than legible: the names of
 * pins are 11 px then. What does not fit is scrolled to.
 */
const LEAST_SCALE = 11 / NAME_MM
const MOST_SCALE = 12

const outward: Record<Header['faces'], readonly [number, number]> = {
  up: [0, -1],
  down: [0, 1],
  left: [-1, 0],
  right: [1, 0],
}

/** As wide as a letter of equally wide ones is, of its size; as one is that no face has. */
const MONO = 0.6
/** From the end of a wire to its words, and behind them. */
const CLEAR_MM = 1.2

/** As far as a label reaches from its pin, with the number of its wire, what it begins at, its pin and what is live there. */
const labelMm = (rig: Rig, lead: LeadRow): number => {
  if (lead.pin === null) return 0
  const part = rig.part[lead.partId ?? '']
  const live = part && hasWords(kindOf(part), lead.terminal) ? LIVE_LETTERS + 2 : 0
  const words = `${lead.number} ${beginningWords(rig, beginningOf(lead)).replace(TRAILING, '')}`
  const letters = [...words].slice(0, MOST_LETTERS)
  const width = letters.reduce((sum, c) => sum + (widthIn('b612', c) ?? MONO), 0) * TEXT_MM
  return STUB_MM + width + (lead.pin.length + 2 + live) * MONO * NAME_MM + CLEAR_MM
}

/** How far a contact lies within the edge that it faces. */
const fromEdge = ({ x, y, faces }: Contact, { widthMm, heightMm }: BoardModel): number =>
  ({ up: y, down: heightMm - y, left: x, right: widthMm - x })[faces]

/** Wires that leave a board's pins with the proposal, by pin. */
const useLeaving = (boardId: string): ReadonlyMap<string, LeadRow> => {
  const now = useStore((s) => leadsOnBoard(s.rig, boardId))
  const drawn = useDrawnRig()
  return useMemo(() => {
    const stays = (l: LeadRow) => {
      const then = drawn.lead[l.id]
      return then?.boardId === l.boardId && then.pin === l.pin
    }
    return new Map(now.filter((l) => !stays(l)).map((l) => [l.pin ?? '', l]))
  }, [now, drawn, boardId])
}

/** A board to shape: its pins in their order, and at each what hangs on it. */
export const BoardDrawing = ({
  board,
  model,
  sheet,
}: {
  board: BoardRow
  model: BoardModel
  /** Pixels there are for it; null before that is known. */
  sheet: { readonly width: number; readonly height: number } | null
}) => {
  const rig = useDrawnRig()
  const leads = leadsOnBoard(rig, board.id)
  const leaving = useLeaving(board.id)
  const proposed = useStore((s) => (s.rig.board[board.id] ?? board) !== board)
  const zoom = useHarness((s) => s.zoom)
  const contacts = useMemo(
    () => layContacts(model, new Set([...leads.flatMap((l) => l.pin ?? []), ...leaving.keys()])),
    [model, leads, leaving],
  )
  const room = (faces: Header['faces']) => {
    const wired = contacts.filter((c) => c.faces === faces && !c.inner)
    const reaches = wired.flatMap((c) => {
      const first = leads.find((l) => l.pin === c.name) ?? leaving.get(c.name)
      return first ? [labelMm(rig, first) - fromEdge(c, model)] : []
    })
    return Math.min(LABEL_MM, Math.max(EMPTY_MM, ...reaches))
  }
  const [west, east, up, down] = [room('left'), room('right'), room('up'), room('down')]
  const width = west + model.widthMm + east
  const height = up + model.heightMm + down
  const fits = sheet ? Math.min(sheet.width / width, sheet.height / height) : LEAST_SCALE
  const scale = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, fits))
  return (
    <svg
      viewBox={`${-west} ${-up} ${width} ${height}`}
      style={{ width: `${width * scale * zoom}px`, fontFamily: 'B612' }}
      aria-label={`${board.name}, ${model.name}`}
      className="block max-w-none"
    >
      <BoardOutline model={model} proposed={proposed} />
      {contacts.map((c) => (
        <PinMark
          key={`${c.x} ${c.y}`}
          board={board}
          model={model}
          contact={c}
          leads={c.first ? leads.filter((l) => l.pin === c.name) : []}
          leaves={c.first ? leaving.get(c.name) : undefined}
        />
      ))}
    </svg>
  )
}

const BoardOutline = ({ model, proposed }: { model: BoardModel; proposed: boolean }) => (
  <>
    <rect
      width={model.widthMm}
      height={model.heightMm}
      rx={1.5}
      fill="var(--raised)"
      stroke={proposed ? 'var(--accent)' : 'var(--ink)'}
      strokeWidth={0.35}
      strokeDasharray={proposed ? '1.5 1' : undefined}
    />
    {model.plug === 'left' ? (
      <path d="M-2.500 8h12v12h-12z" fill="var(--sheet)" stroke="var(--ink2)" strokeWidth={0.25} />
    ) : (
      <path
        d={`M${model.widthMm / 2 - 4} -2.500h8v7h-8z`}
        fill="var(--sheet)"
        stroke="var(--ink2)"
        strokeWidth={0.25}
      />
    )}
    <BoardName model={model} />
  </>
)

const BoardName = ({ model }: { model: BoardModel }) => {
  const { x, y, sizeMm, below } = namePlace(model)
  return (
    <>
      <text x={x} y={y} textAnchor="middle" fontSize={sizeMm} fill="var(--ink2)">
        {model.name.replace(/ board.*$/, '')}
      </text>
      <text x={x} y={y + below} textAnchor="middle" fontSize={NAME_MM} fill="var(--ink3)">
        {model.given ? 'bought' : `${model.logicVolts} V`}
      </text>
    </>
  )
}

const PinMark = ({
  board,
  model,
  contact,
  leads,
  leaves,
}: {
  board: BoardRow
  model: BoardModel
  contact: Contact
  leads: readonly LeadRow[]
  leaves: LeadRow | undefined
}) => {
  const carried = useHarness((s) => s.carried)
  const asks = useStore((s) => (carried ? terminalAt(s.rig, carried) : undefined))
  const { name, x, y, faces } = contact
  const pin = pinOf(model, name)
  const rail = railOf(model, name)
  const isGround = name === 'GND'
  const usable = pin !== undefined && !pin.taken
  const end: LeadEnd | null = isGround
    ? { at: 'ground' }
    : pin || rail
      ? { at: 'contact', boardId: board.id, pin: name }
      : null
  const objection = carried && pin ? pinObjection(pin, asks) : null
  const [first] = leads
  const [dx, dy] = outward[faces]
  const abilities = pin ? (pin.only ? `${pin.only} only` : pin.abilities.join(', ')) : ''
  const says = pin?.taken
    ? `taken by the ${pin.taken}`
    : leads.length > 0
      ? `${leads.length} ${leads.length === 1 ? 'wire' : 'wires'}`
      : 'free'
  return (
    <g
      role={end ? 'button' : undefined}
      tabIndex={end ? 0 : undefined}
      data-pin={name}
      className={`worked ${end ? 'cursor-pointer' : ''}`}
      opacity={objection ? 0.35 : 1}
      {...handling(end, first)}
    >
      <title>{`${board.name} ${name}: ${says}${abilities ? `, ${abilities}` : ''}${objection ? `; ${objection}` : ''}`}</title>
      <rect x={x - 1.25} y={y - 1.25} width={2.5} height={2.5} fill="transparent" />
      <rect
        x={x - 0.85}
        y={y - 0.85}
        width={1.7}
        height={1.7}
        fill={leads.length > 0 ? 'var(--ink)' : usable || rail || isGround ? 'var(--sheet)' : 'var(--hair)'}
        stroke="var(--ink)"
        strokeWidth={0.22}
      />
      {pin?.taken && (
        <path
          d={`M${x - 0.8} ${y - 0.8}l1.600 1.600m0 -1.600l-1.600 1.600`}
          stroke="var(--ink2)"
          strokeWidth={0.25}
        />
      )}
      <rect
        className="focus-ring"
        x={x - 1.35}
        y={y - 1.35}
        width={2.7}
        height={2.7}
        fill="none"
        stroke="var(--accent)"
        strokeWidth={0.5}
      />
      {first ? (
        <WireLabel contact={contact} lead={first} more={leads.length - 1} />
      ) : leaves ? (
        <WireLabel contact={contact} lead={leaves} more={0} leaves />
      ) : (
        <text
          transform={
            dy === 0
              ? `translate(${x + dx * 1.6} ${y})`
              : `translate(${x} ${dy < 0 ? -0.9 : model.heightMm + 0.9}) rotate(-90)`
          }
          textAnchor={dy < 0 || dx > 0 ? 'start' : 'end'}
          dominantBaseline="central"
          fontSize={NAME_MM}
          fontFamily="IBM Plex Mono"
          fill={usable ? 'var(--ink)' : 'var(--ink3)'}
        >
          {name}
        </text>
      )}
    </g>
  )
}

/** The wire at a pin, in its colour, and what it comes from. */
const WireLabel = ({
  contact,
  lead,
  more,
  leaves = false,
}: {
  contact: Contact
  lead: LeadRow
  more: number
  /** It is there now and would be gone with the proposal. */
  leaves?: boolean
}) => {
  const { owner, terminal } = useWireWords(lead)
  const live = useWireLive(lead)
  const looked = useIsLooked(lead)
  const proposed = useIsProposed(lead)
  const { x, y, faces, inner, letters } = contact
  const [dx, dy] = outward[faces]
  const stub = inner ? INNER_STUB_MM : STUB_MM
  const colour = wireInk(lead.colour)
  const endX = x + dx * stub
  const endY = y + dy * stub
  const line = `M${x + dx * 0.9} ${y + dy * 0.9}L${endX} ${endY}`
  const turn = dy !== 0 ? -90 : 0
  const anchor = dy < 0 || dx > 0 ? 'start' : 'end'
  const liveLetters = Math.min(LIVE_LETTERS, live.words?.length ?? -2) + 2
  const most = Math.max(0, letters - liveLetters)
  const nameFirst = dy < 0 || dx > 0
  const what =
    more > 0 && lead.shared && lead.fromExpanderId === null && lead.partId !== null
      ? `${more + 1} wires`
      : `${owner} · ${terminal}`
  const text = `${lead.number} ${what}${more > 0 && !what.endsWith('wires') ? ` +${more}` : ''}`
  return (
    <>
      {isDarkInk(lead.colour) && (
        <path d={line} stroke="var(--wire-edge)" strokeWidth={looked || proposed ? 1.5 : 1.05} fill="none" />
      )}
      <path
        d={line}
        stroke={colour}
        strokeWidth={looked || proposed ? 1.1 : 0.65}
        strokeDasharray={leaves || proposed ? '0.9 0.6' : undefined}
        opacity={leaves ? 0.5 : 1}
        fill="none"
      />
      {live.on !== null && (
        <circle
          cx={endX - dx * 1.4}
          cy={endY - dy * 1.4}
          r={0.75}
          fill={live.on ? 'var(--live)' : 'var(--raised)'}
          stroke={live.on ? 'var(--live)' : 'var(--ink2)'}
          strokeWidth={0.25}
        />
      )}
      <text
        transform={`translate(${endX + dx * 0.7} ${endY + dy * 0.7}) rotate(${turn})`}
        textAnchor={anchor}
        dominantBaseline="central"
        fontSize={TEXT_MM}
        fontWeight={looked || proposed ? 700 : 400}
        fill={leaves ? 'var(--ink3)' : looked || proposed ? 'var(--accent)' : 'var(--ink)'}
        textDecoration={leaves ? 'line-through' : undefined}
        data-proposed={leaves ? 'leaves' : proposed ? 'comes' : undefined}
        data-looked={looked || undefined}
      >
        <title>{`Wire ${lead.number}, ${lead.colour}: ${owner} · ${terminal}`}</title>
        {nameFirst ? <PinName name={contact.name} /> : <LiveWords words={live.words} />}
        {text.length > most ? `${text.slice(0, most - 1)}…` : text}
        {nameFirst ? <LiveWords words={live.words} /> : <PinName name={contact.name} />}
      </text>
    </>
  )
}

/** What stands at a pin now, farthest from it within its label. */
const LiveWords = ({ words }: { words: string | null }) =>
  words === null ? null : (
    <tspan fontFamily="IBM Plex Mono" fontSize={NAME_MM} fontWeight={500} fill="var(--live)">
      {` ${words.length > LIVE_LETTERS ? `${words.slice(0, LIVE_LETTERS - 1)}…` : words} `}
    </tspan>
  )

/** The name of a pin, nearest to it within its label. */
const PinName = ({ name }: { name: string }) => (
  <tspan fontFamily="IBM Plex Mono" fontSize={NAME_MM} fontWeight={400} fill="var(--ink2)">
    {` ${name} `}
  </tspan>
)

import { pinOf } from '../../catalogue/boards'
import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import type { PartKind, Terminal } from '../../catalogue/part-kind'
import { boardOfLead, boardsOf, expandersOf, leadsOf, linesOf, type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, LeadRow, PartRow } from '../../rig/rows'
import { boardLines } from '../chip'
import { isGiven, isInside } from '../given'
import { type Beginning, beginningOf, endOfLead, type LeadEnd, leadAt, terminalAt } from '../leads'
import { placeOfChannel } from '../lines'
import { neededLines } from '../needed-lines'
import { pwmUsers } from '../pwm-channels'
import { channelNeed, drivenTerminals } from '../wiring'
import { boardSites, channelSites } from './board-sites'
import { ability, type Instance, type Need, type NeedBlock, type Site } from './instance'

/** A wire to be assigned: where it begins, and the lead it is today. */
export interface LooseWire {
  readonly from: Beginning
  readonly lead: LeadRow | undefined
  /** Of a lamp: its other terminal, which goes to ground or to a supply. */
  readonly lampMinus?: string
  /** It is switched by an array that follows the pin it is given. */
  readonly isCoil?: boolean
}

/** A rig as an instance of the assignment, and what its sites and needs stand for. */
export interface RigInstance {
  readonly instance: Instance
  readonly boards: readonly BoardRow[]
  readonly ends: readonly LeadEnd[]
  /** By need; null for what only holds its place. */
  readonly wires: readonly (LooseWire | null)[]
}

/** What is to be assigned: wires of these parts, to these boards; all of them for null. */
export interface AssignmentScope {
  readonly partIds: ReadonlySet<string> | null
  readonly boardIds?: ReadonlySet<string> | null
}

/** A panel's wires stay with the boards it is wired to; another board costs so much a block. */
const AWAY = 6

/** The rig's boards and expanders, and the wires in scope with the lines of expanders. */
export const rigInstance = (rig: Rig, scope: AssignmentScope): RigInstance => new Builder(rig, scope).build()

class Builder {
  private readonly boards: readonly BoardRow[]
  private readonly sites: Site[] = []
  private readonly ends: LeadEnd[] = []
  private readonly siteAt = new Map<string, number>()
  private readonly wholeHeaders = new Set<number>()
  private readonly needs: Need[] = []
  private readonly wires: (LooseWire | null)[] = []
  private readonly blocks: NeedBlock[] = []
  private readonly lines = new Map<string, number>()
  private homes: ReadonlyMap<string, ReadonlySet<string>> | null = null
  /** Leads that are to be assigned. */
  private readonly inScope = new Set<string>()

  constructor(
    private readonly rig: Rig,
    private readonly scope: AssignmentScope,
  ) {
    this.boards = boardsOf(rig).filter((b) => modelOf(b) && !isGiven(b))
  }

  build(): RigInstance {
    this.addSites()
    for (const group of this.partGroups()) this.addParts(group)
    for (const board of this.boards)
      for (const expander of expandersOf(this.rig, board.id)) this.addLines(expander.id, board)
    this.holdOthers()
    const inUse = this.boards.map((b) =>
      rowsOf(this.rig, 'lead').some((l) => boardOfLead(this.rig, l) === b.id),
    )
    const { sites, wholeHeaders, needs, blocks } = this
    return {
      instance: { inUse, sites, wholeHeaders, needs, blocks },
      boards: this.boards,
      ends: this.ends,
      wires: this.wires,
    }
  }

  private addSites(): void {
    let header = 0
    for (const [host, board] of this.boards.entries()) {
      const model = modelOf(board)
      if (!model) continue
      for (const { name, ...site } of boardSites(model, host, header))
        this.addSite(this.pulsedOnce(board, name, site), { at: 'contact', boardId: board.id, pin: name })
      header += model.headers.length
      for (const expander of expandersOf(this.rig, board.id)) {
        const kind = expanderKind(expander.kind)
        if (!kind) continue
        const made = channelSites(kind, expander.chips, host, header)
        for (const [channel, site] of made.sites.entries()) {
          // What follows its own leads is there only where those are.
          if (kind.follows && typeof placeOfChannel(this.rig, expander, channel) === 'string') continue
          this.addSite(site, { at: 'channel', expanderId: expander.id, channel })
          if (made.whole) this.wholeHeaders.add(site.header)
        }
        header += made.rows
      }
    }
  }

  /** Of pins that one timer channel drives, only one is offered for lamps and servos: the one that has one, else the first. */
  private pulsedOnce(board: BoardRow, pin: string, site: Site): Site {
    const model = modelOf(board)
    const channel = model && pinOf(model, pin)?.pwmChannel
    if (!model || channel === undefined) return site
    const user = pwmUsers(this.rig, board.id).get(channel)?.[0]?.pin
    const offered = user ?? model.pins.find((p) => p.pwmChannel === channel)?.name
    return pin === offered ? site : { ...site, abilities: site.abilities & ~(ability.lamp | ability.servo) }
  }

  private addSite(site: Site, end: LeadEnd): void {
    this.siteAt.set(JSON.stringify(end), this.sites.length)
    this.sites.push(site)
    this.ends.push(end)
  }

  private siteOf(lead: LeadRow | undefined): number {
    return lead ? (this.siteAt.get(JSON.stringify(endOfLead(lead))) ?? -1) : -1
  }

  private line(shares: string | undefined): number {
    if (shares === undefined) return 0
    const known = this.lines.get(shares) ?? this.lines.size + 1
    this.lines.set(shares, known)
    return known
  }

  /** Parts that share a ribbon go together; every other part by itself. */
  private partGroups(): PartRow[][] {
    const groups: PartRow[][] = []
    const byRibbon = new Map<string, PartRow[]>()
    for (const part of rowsOf(this.rig, 'part')) {
      if (this.scope.partIds && !this.scope.partIds.has(part.id)) continue
      const leads = leadsOf(this.rig, part.id)
      // A board that is not known is left as it is, with all that hangs on it.
      if (leads.some((l) => l.boardId !== null && !modelOf(this.rig.board[l.boardId]))) continue
      if (leads.some((l) => isInside(this.rig, l))) continue
      const joined = new Set(leads.flatMap((l) => (l.ribbon === null ? [] : (byRibbon.get(l.ribbon) ?? []))))
      const group = [...groups.filter((g) => g.some((p) => joined.has(p))).flat(), part]
      for (const g of groups.filter((old) => old.some((p) => joined.has(p))))
        groups.splice(groups.indexOf(g), 1)
      groups.push(group)
      for (const l of leads) if (l.ribbon !== null) byRibbon.set(l.ribbon, group)
    }
    return groups
  }

  private addParts(parts: readonly PartRow[]): void {
    const wires = parts.flatMap((part) => this.wiresOf(part))
    const ribbons = new Map<string, { wire: LooseWire; need: Omit<Need, 'block'> }[]>()
    const loose: { wire: LooseWire; need: Omit<Need, 'block'> }[] = []
    for (const w of wires) {
      const name = w.wire.lead?.ribbon ?? null
      if (name === null) loose.push(w)
      else ribbons.set(name, [...(ribbons.get(name) ?? []), w])
    }
    for (const list of ribbons.values())
      list.sort((a, b) => (a.wire.lead?.number ?? 0) - (b.wire.lead?.number ?? 0))
    const homes = this.homesOf(parts)
    this.addBlock(
      [...ribbons.values()],
      loose,
      this.boards.map((b) => {
        if (this.scope.boardIds && !this.scope.boardIds.has(b.id)) return Number.POSITIVE_INFINITY
        return homes.size === 0 || homes.has(b.id) ? 0 : AWAY * parts.length
      }),
    )
  }

  private addBlock(
    ribbons: readonly (readonly { wire: LooseWire; need: Omit<Need, 'block'> }[])[],
    loose: readonly { wire: LooseWire; need: Omit<Need, 'block'> }[],
    hostCost: readonly number[],
  ): void {
    const all = [...ribbons.flat(), ...loose]
    if (all.length === 0) return
    const stretches: [number, number][] = []
    let at = 0
    for (const ribbon of ribbons) {
      if (ribbon.length > 1) stretches.push([at, at + ribbon.length - 1])
      at += ribbon.length
    }
    const block = this.blocks.length
    const needs = all.map(({ wire, need }) => {
      this.wires.push(wire)
      if (wire.lead) this.inScope.add(wire.lead.id)
      return this.needs.push({ ...need, block }) - 1
    })
    this.blocks.push({ needs, ribbons: stretches, hostCost })
  }

  /** The boards that the panels of these parts are wired to. */
  private homesOf(parts: readonly PartRow[]): ReadonlySet<string> {
    this.homes ??= homesByPanel(this.rig)
    const { homes } = this
    return new Set(parts.flatMap((p) => [...(homes.get(p.panelId) ?? [])]))
  }

  private wiresOf(part: PartRow): { wire: LooseWire; need: Omit<Need, 'block'> }[] {
    const kind = kindOf(part)
    if (!kind) return []
    // The sensor of a needle is a contact of its own.
    const known = new Set<string>()
    return kind.aspects.flatMap((aspect) => {
      const driven = drivenTerminals(this.rig, part, kind, aspect)
      return driven.flatMap((id, i) => {
        const terminal = kind.terminals.find((t) => t.id === id)
        if (!terminal || known.has(id)) return []
        known.add(id)
        const isCoil = aspect.kind === 'needle' && aspect.drive === 'four-wire' && id !== aspect.sensor
        const ofFour = isCoil ? i : -1
        return [this.wire(part, kind, terminal, aspect.kind === 'lamp', ofFour)]
      })
    })
  }

  private wire(part: PartRow, kind: PartKind, terminal: Terminal, isLamp: boolean, ofFour: number) {
    const from: Beginning = { of: 'part', id: part.id, terminal: terminal.id }
    const lead = leadAt(this.rig, from)
    const minus = isLamp ? kind.terminals.find((t) => t.role === 'lamp-minus')?.id : undefined
    const isCoil = isLamp && kind.electrical?.inductive === true
    const need = {
      abilities: isCoil ? this.coilAbility(lead) : abilitiesFor(kind, terminal, lead),
      line: this.line(terminal.shares),
      present: this.siteOf(lead),
      locked: (lead?.locked ?? false) && this.siteOf(lead) >= 0,
      ofFour,
    }
    const wire: LooseWire = {
      ...{ from, lead },
      ...(minus === undefined ? {} : { lampMinus: minus }),
      ...(isCoil ? { isCoil } : {}),
    }
    return { wire, need }
  }

  /** A coil asks for a pin, which an array will follow; or for a channel of one, where it hangs on that. */
  private coilAbility(lead: LeadRow | undefined): number {
    const on = expanderKind(this.rig.expander[lead?.expanderId ?? '']?.kind ?? '')
    return on?.inductive ? ability.inductive : ability.drive
  }

  private addLines(expanderId: string, board: BoardRow): void {
    const expander = this.rig.expander[expanderId]
    const kind = expanderKind(expander?.kind ?? '')
    if (!expander || !kind) return
    const measures = rowsOf(this.rig, 'lead').some(
      (l) => l.expanderId === expanderId && terminalAt(this.rig, beginningOf(l))?.role === 'wiper',
    )
    const leads = linesOf(this.rig, expanderId)
    const needed = neededLines(this.rig, expander)
    const lines = boardLines(kind).filter((t) => needed.includes(t) || leads.some((l) => l.terminal === t.id))
    const wires = lines.map((terminal) => {
      const from: Beginning = { of: 'expander', id: expanderId, terminal: terminal.id }
      const lead = leads.find((l) => l.terminal === terminal.id)
      let abilities: number = ability.drive | (terminal.needs ? ability[terminal.needs] : 0)
      if (terminal.role === 'signal') abilities = ability.signal | (measures ? ability.wiper : 0)
      if (terminal.role === 'two-wire-data' || terminal.role === 'two-wire-clock')
        abilities = ability[terminal.role]
      const present = this.siteOf(lead)
      const locked = (lead?.locked ?? false) && present >= 0
      return {
        wire: { from, lead },
        need: { abilities, line: this.line(terminal.shares), present, locked, ofFour: -1 },
      }
    })
    // A multiplexer may come to measure: it takes a pin that can, where there is a choice.
    this.addBlock(
      [],
      wires,
      this.boards.map((b) => (b.id === board.id ? 0 : Number.POSITIVE_INFINITY)),
    )
  }

  /** Whatever else hangs on a pin or channel keeps it. */
  private holdOthers(): void {
    for (const lead of rowsOf(this.rig, 'lead')) {
      const present = this.siteOf(lead)
      if (present < 0 || this.inScope.has(lead.id)) continue
      const shares = terminalAt(this.rig, beginningOf(lead))?.shares
      const block = this.blocks.length
      const need = this.needs.length
      this.needs.push({ block, abilities: 0, line: this.line(shares), present, locked: true, ofFour: -1 })
      this.wires.push(null)
      this.blocks.push({ needs: [need], ribbons: [], hostCost: this.boards.map(() => 0) })
      // What holds a place of four holds it as it is.
      const site = this.sites[present]
      if (site && this.wholeHeaders.has(site.header))
        this.needs[need] = { ...(this.needs[need] as Need), ofFour: site.at }
    }
  }
}

/** By panel, the boards that its parts are wired to. */
const homesByPanel = (rig: Rig): ReadonlyMap<string, ReadonlySet<string>> => {
  const homes = new Map<string, Set<string>>()
  for (const lead of rowsOf(rig, 'lead')) {
    const panelId = rig.part[lead.partId ?? '']?.panelId
    const board = boardOfLead(rig, lead)
    if (panelId === undefined || board === null) continue
    const known = homes.get(panelId)
    if (known) known.add(board)
    else homes.set(panelId, new Set([board]))
  }
  return homes
}

/** What a terminal of a part asks of a site. */
const abilitiesFor = (kind: PartKind, terminal: Terminal, lead: LeadRow | undefined): number => {
  if (terminal.role === 'two-wire-data' || terminal.role === 'two-wire-clock') {
    // On a shifter it stays on one: the bus at the board's own pins has another voltage.
    if (lead?.channel == null) return ability[terminal.role]
    return ability[terminal.role === 'two-wire-data' ? 'bus-data' : 'bus-clock']
  }
  const need = channelNeed(kind, terminal)
  // A pin will do for a line; it goes on a channel only where somebody has put it on one.
  if (need === 'line' && lead?.channel != null) return ability.line
  if (need !== null && need !== 'line' && need !== 'bus') return ability[need]
  return ability.drive | (terminal.needs ? ability[terminal.needs] : 0)
}

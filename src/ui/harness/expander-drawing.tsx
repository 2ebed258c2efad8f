'use client'
import type { ExpanderKind } from '@/core/catalogue/expander-kind'
import { channelName, expanderKind } from '@/core/catalogue/expanders'
import { endOfLead, endWords, type LeadEnd } from '@/core/harness/leads'
import { neededLines } from '@/core/harness/needed-lines'
import { isDarkInk, wireInk } from '@/core/harness/papers/wire-inks'
import { leadsOnExpander, linesOf } from '@/core/rig/rig'
import type { ExpanderRow, LeadRow } from '@/core/rig/rows'
import { useStore } from '../live/store'
import { useDrawnRig, useIsProposed } from './harness-store'
import { handling, useIsLooked, useWireLive, useWireWords } from './wire-end'

/** An expander: the lines it hangs on its board by, and chip by chip what hangs on its channels. */
export const ExpanderDrawing = ({ expander }: { expander: ExpanderRow }) => {
  const kind = expanderKind(expander.kind)
  const leads = leadsOnExpander(useDrawnRig(), expander.id)
  const used = new Set(leads.map((l) => l.channel))
  const proposed = useStore((s) => s.rig.expander[expander.id]?.chips !== expander.chips)
  if (!kind) {
    return (
      <p className="px-3.5 py-2 text-[12px] text-fault">
        {expander.name} is an expander “{expander.kind}”, which this Clavik does not know. It is kept as it
        is.
      </p>
    )
  }
  return (
    <article
      aria-label={expander.name}
      data-expander={expander.id}
      inert={proposed}
      className="px-3.5 pt-2 pb-3"
    >
      <div
        className={`flex items-baseline gap-2 border-t pt-2 ${proposed ? 'border-accent border-dashed' : 'border-line'}`}
      >
        <h3 className={`font-bold ${proposed ? 'text-accent' : ''}`}>{expander.name}</h3>
        <span className="text-[12px] text-ink2">
          {kind.name}
          {expander.chips > 1 && `, ${expander.chips} chips`}
          {kind.addresses && `, jumpers ${expander.jumpers}`}
        </span>
        <span className="mono ml-auto text-[12px] text-ink2">
          {used.size} of {expander.chips * kind.channelsPerChip} channels
        </span>
      </div>
      <Lines expander={expander} kind={kind} />
      <div className="grid grid-cols-1 gap-x-5 gap-y-2 pt-1.5 min-[1600px]:grid-cols-2">
        {Array.from({ length: expander.chips }, (_, chip) => (
          <Chip key={chip} expander={expander} kind={kind} chip={chip} leads={leads} />
        ))}
      </div>
    </article>
  )
}

/** Its own wires: to pins of the board, to a supply, to ground. */
const Lines = ({ expander, kind }: { expander: ExpanderRow; kind: ExpanderKind }) => {
  const rig = useDrawnRig()
  const lines = linesOf(rig, expander.id)
  const needed = neededLines(rig, expander)
  return (
    <ul className="flex flex-wrap gap-x-3 gap-y-0.5 pt-1">
      {kind.lines.map((line) => {
        const idle = !needed.includes(line)
        const lead = lines.find((l) => l.terminal === line.id)
        const from = { of: 'expander' as const, id: expander.id, terminal: line.id }
        return (
          <li key={line.id}>
            <button
              type="button"
              className={`flex items-center gap-1 text-[12px] ${lead ? 'text-ink' : idle ? 'text-ink3' : 'text-warn'} hover:text-accent`}
              title={
                lead ? `Wire ${lead.number}, ${lead.colour}; drag it to another pin` : 'Drag it to a pin'
              }
              {...handling(null, lead)}
              data-from={JSON.stringify(from)}
            >
              <WireDash colour={lead?.colour ?? null} />
              <span className="text-ink2">{line.name}</span>
              <span className="mono">
                {lead ? endWords(rig, endOfLead(lead)).split(' ').at(-1) : idle ? 'free' : 'no pin'}
              </span>
            </button>
          </li>
        )
      })}
    </ul>
  )
}

/** A wire in its colour; a broken one where there is none. */
export const WireDash = ({ colour }: { colour: string | null }) => (
  <svg width={14} height={8} viewBox="0 0 14 8" aria-hidden="true" className="shrink-0">
    {colour !== null && isDarkInk(colour) && <path d="M0 4h14" stroke="var(--wire-edge)" strokeWidth={5} />}
    <path
      d="M0 4h14"
      stroke={colour === null ? 'var(--ink3)' : wireInk(colour)}
      strokeWidth={colour === null ? 1.5 : 3}
      strokeDasharray={colour === null ? '3 2' : undefined}
    />
  </svg>
)

const Chip = ({
  expander,
  kind,
  chip,
  leads,
}: {
  expander: ExpanderRow
  kind: ExpanderKind
  chip: number
  leads: readonly LeadRow[]
}) => {
  const per = kind.channelsPerChip
  const channels = Array.from({ length: per }, (_, i) => chip * per + i)
  const half = per / 2
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_72px_minmax(0,1fr)]">
      <div>
        {channels.slice(0, half).map((c) => (
          <Channel
            key={c}
            expander={expander}
            kind={kind}
            channel={c}
            leads={leads.filter((l) => l.channel === c)}
            side="left"
          />
        ))}
      </div>
      <div className="flex flex-col items-center justify-center border border-ink bg-raised text-center text-[11px] leading-[13px] text-ink2">
        {kind.name.split(' ')[0]}
        {expander.chips > 1 && <span className="mono">{chip + 1}</span>}
      </div>
      <div>
        {channels.slice(half).map((c) => (
          <Channel
            key={c}
            expander={expander}
            kind={kind}
            channel={c}
            leads={leads.filter((l) => l.channel === c)}
            side="right"
          />
        ))}
      </div>
    </div>
  )
}

const Channel = ({
  expander,
  kind,
  channel,
  leads,
  side,
}: {
  expander: ExpanderRow
  kind: ExpanderKind
  channel: number
  leads: readonly LeadRow[]
  side: 'left' | 'right'
}) => {
  const end: LeadEnd = { at: 'channel', expanderId: expander.id, channel }
  const name = channelName(kind, channel)
  const [lead] = leads
  const looked = useIsLooked(lead)
  return (
    <button
      type="button"
      data-channel={`${expander.id} ${channel}`}
      title={`${expander.name} channel ${name}: ${lead ? `wire ${lead.number}` : 'free'}`}
      className={`flex h-[17px] w-full items-center gap-1 text-[11.5px] ${side === 'left' ? 'flex-row-reverse' : ''} ${looked ? 'bg-accent-bg' : ''} hover:bg-accent-bg`}
      {...handling(end, lead)}
    >
      <span
        className={`mono w-7 shrink-0 text-[11px] text-ink2 ${side === 'left' ? 'text-right' : 'text-left'}`}
      >
        {name}
      </span>
      <WireDash colour={lead?.colour ?? null} />
      {lead ? (
        <ChannelWire lead={lead} more={leads.length - 1} looked={looked} />
      ) : (
        <span className="text-ink3">free</span>
      )}
    </button>
  )
}

const LiveWords = ({ words }: { words: string }) => (
  <span className="mono max-w-[88px] shrink-0 truncate text-[11px] text-live" title={words}>
    {words}
  </span>
)

const ChannelWire = ({ lead, more, looked }: { lead: LeadRow; more: number; looked: boolean }) => {
  const { owner, terminal } = useWireWords(lead)
  const live = useWireLive(lead)
  const proposed = useIsProposed(lead)
  return (
    <>
      {live.on !== null && (
        <span
          role="img"
          aria-label={live.on ? 'on' : 'off'}
          className={`h-[7px] w-[7px] shrink-0 rounded-full border ${live.on ? 'border-live bg-live' : 'border-ink2'}`}
        />
      )}
      <span
        className={`min-w-0 truncate ${looked || proposed ? 'font-bold text-accent' : ''}`}
        data-proposed={proposed ? 'comes' : undefined}
        title={`${owner} · ${terminal}`}
      >
        <span className="mono text-ink2">{lead.number}</span> {owner}
        {more > 0 && ` +${more}`}
      </span>
      {live.words !== null && <LiveWords words={live.words} />}
    </>
  )
}

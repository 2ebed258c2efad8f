'use client'
import { ChevronRight } from 'lucide-react'
import { kindOf } from '@/core/catalogue/own-kind'
import type { Aspect } from '@/core/catalogue/part-kind'
import { brightnessOffers, type LevelOffer, timeOffers } from '@/core/engine/lighting-offers'
import { addRow, changeRow, removeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { lightingsOf, panelsOf, partsOf, type Rig, rowsOf } from '@/core/rig/rig'
import type { LightingRow, PartRow } from '@/core/rig/rows'
import { ExpressionField } from '../editors/expression-field'
import { freeBinding } from '../editors/free-binding'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Sheet } from '../primitives/sheet'

/** What can be dimmed of a part; a text display's light is set by a screw on its back. */
const isDimmed = (a: Aspect): boolean => a.kind === 'lamp' || a.kind === 'digits' || a.kind === 'colour'

/** Parts of a panel that something of can be dimmed. */
const lightsOf = (rig: Rig, panelId: string): PartRow[] =>
  partsOf(rig, panelId).filter((p) => kindOf(p)?.aspects.some(isDimmed))

/** Lamps and displays that are dimmed together, and by what. */
export const LightingSheet = () => {
  const open = useStore((s) => s.lightingOpen)
  const rig = useStore((s) => s.rig)
  const groups = lightingsOf(rig)
  return (
    <Sheet
      title="Lighting"
      titleShown
      className="w-[760px] max-h-[82vh] overflow-y-auto p-4"
      open={open}
      setOpen={(lightingOpen) => useStore.setState({ lightingOpen })}
    >
      <div className="mb-2 flex items-start gap-4 text-[12px]">
        <p className="text-ink2">
          Lamps, digits and strips of a group are dimmed together, by a knob, a variable or the time. How
          strongly each has to shine to look as bright as the others is found in Calibrate, under Lights.
        </p>
        <button type="button" className="btn shrink-0" onClick={() => addGroup(rig)}>
          New group
        </button>
      </div>
      {groups.map((g) => (
        <GroupForm key={g.id} group={g} rig={rig} />
      ))}
      {groups.length === 0 && (
        <p className="border-t border-line py-3 text-[13px] text-ink2">
          There is none yet: every light is as bright as its binding says.
        </p>
      )}
    </Sheet>
  )
}

const addGroup = (rig: Rig): void => {
  const groups = lightingsOf(rig)
  const row: LightingRow = {
    id: crypto.randomUUID(),
    name: numbered('Lights', new Set(groups.map((g) => g.name))),
    position: Math.max(0, ...groups.map((g) => g.position)) + 1,
    settings: { level: '1', bottom: 'readable' },
  }
  edit(`Added the group of lights “${row.name}”`, [addRow('lighting', row)])
  requestAnimationFrame(() => {
    const field = document.querySelector<HTMLInputElement>(`[data-lighting="${row.id}"] input`)
    field?.scrollIntoView({ block: 'center' })
    field?.focus()
    field?.select()
  })
}

/** Levers, pots and knobs with positions by which a group could be dimmed. */
const dimmersOf = (rig: Rig): PartRow[] =>
  rowsOf(rig, 'part').filter((p) => kindOf(p)?.aspects.some((a) => a.kind === 'travel'))

const inGroup = (part: PartRow, id: string | null): ReturnType<typeof changeRow> => {
  const { lighting: _, ...settings } = part.settings
  return changeRow('part', part, {
    ...part,
    settings: id === null ? settings : { ...settings, lighting: id },
  })
}

const GroupForm = ({ group, rig }: { group: LightingRow; rig: Rig }) => {
  const live = useStore((s) => s.lighting[group.id])
  const others = lightingsOf(rig).filter((g) => g.id !== group.id)
  const mine = rowsOf(rig, 'part').filter((p) => p.settings.lighting === group.id)
  const put = (more: Partial<LightingRow['settings']>) =>
    edit(`Changed what dims “${group.name}”`, [
      changeRow('lighting', group, { ...group, settings: { ...group.settings, ...more } }),
    ])
  const remove = () =>
    edit(`Removed the group of lights “${group.name}”`, [
      ...mine.map((p) => inGroup(p, null)),
      removeRow('lighting', group),
    ])
  const level = live?.level ?? null
  return (
    <section
      aria-label={`Group of lights ${group.name}`}
      data-lighting={group.id}
      className="mb-4 border-t border-line pt-2 text-[12px]"
    >
      <div className="flex items-center gap-3">
        <TextField
          label="Name of the group"
          width={180}
          value={group.name}
          objection={(t) =>
            t.trim() === ''
              ? 'A name is needed.'
              : others.some((g) => g.name === t.trim())
                ? 'There is one of that name.'
                : null
          }
          take={(t) =>
            edit(`Renamed the group of lights “${group.name}” to “${t.trim()}”`, [
              changeRow('lighting', group, { ...group, name: t.trim() }),
            ])
          }
        />
        <span aria-hidden="true" className="h-2 w-[160px] bg-hair">
          <span className="block h-full bg-accent" style={{ width: `${(level ?? 1) * 100}%` }} />
        </span>
        <b className="mono w-[44px]">{level === null ? '100 %' : `${Math.round(level * 100)} %`}</b>
        <span className="min-w-0 flex-1 truncate text-ink2">
          {live && level === null && !live.problem ? 'cannot be told now: not dimmed' : ''}
        </span>
        <button type="button" className="btn" onClick={remove}>
          Remove
        </button>
      </div>
      {live?.problem && (
        <p role="alert" className="mt-1 text-fault">
          {live.problem} Its lights are not dimmed.
        </p>
      )}
      <div className="mt-2 grid grid-cols-[96px_1fr] items-start gap-2">
        <span className="pt-1 text-ink2">dimmed by</span>
        <ExpressionField
          binding={freeBinding(group.id)}
          use="level"
          label={`What dims ${group.name}`}
          value={group.settings.level}
          emptyMeans={null}
          focus={false}
          take={(text) => text !== null && put({ level: text })}
        />
        <span />
        <div className="flex flex-wrap items-center gap-1.5">
          <span className="text-ink2">Begin with</span>
          <Offer
            words="a lever or pot …"
            label="Dimmed by a lever or pot"
            list={dimmersOf(rig).map((p) => [p.name, `part(${JSON.stringify(p.name)})`])}
            take={(text) => put({ level: text })}
          />
          <VariableOffer take={(text) => put({ level: text })} />
        </div>
        <span className="pt-0.5 text-ink2">at the bottom</span>
        <select
          aria-label="What they are at the bottom"
          className="h-6 w-[220px] py-0"
          value={group.settings.bottom}
          onChange={(e) => put({ bottom: e.target.value === 'out' ? 'out' : 'readable' })}
        >
          <option value="readable">just to be read in the dark</option>
          <option value="out">out</option>
        </select>
        <span className="pt-0.5 text-ink2">its lights</span>
        <Members group={group} rig={rig} />
      </div>
    </section>
  )
}

const Offer = ({
  words,
  label,
  list,
  take,
}: {
  words: string
  label: string
  list: readonly (readonly [string, string])[]
  take: (text: string) => void
}) =>
  list.length === 0 ? null : (
    <select
      aria-label={label}
      className="h-6 w-[158px] py-0"
      value=""
      onChange={(e) => e.target.value && take(e.target.value)}
    >
      <option value="">{words}</option>
      {list.map(([name, text]) => (
        <option key={text} value={text}>
          {name}
        </option>
      ))}
    </select>
  )

/** What sources tell of light and time, as far as their names say so. */
const VariableOffer = ({ take }: { take: (text: string) => void }) => {
  const { variables } = useStore((s) => s.catalogue.catalogue)
  const listed = (offers: readonly LevelOffer[]) => offers.map((o) => [o.words, o.level] as const)
  return (
    <>
      <Offer
        words="a variable …"
        label="Dimmed by a variable"
        list={listed(brightnessOffers(variables))}
        take={take}
      />
      <Offer words="the time …" label="Dimmed by the time" list={listed(timeOffers(variables))} take={take} />
    </>
  )
}

/** Which parts belong to it, panel by panel. */
const Members = ({ group, rig }: { group: LightingRow; rig: Rig }) => (
  <div className="flex flex-col gap-1.5">
    {panelsOf(rig).map((panel) => {
      const lights = lightsOf(rig, panel.id)
      if (lights.length === 0) return null
      const mine = lights.filter((p) => p.settings.lighting === group.id)
      const all = mine.length === lights.length
      const set = (parts: readonly PartRow[], isIn: boolean) =>
        edit(
          isIn ? `Put lights into “${group.name}”` : `Took lights out of “${group.name}”`,
          parts.map((p) => inGroup(p, isIn ? group.id : null)),
        )
      return (
        <div key={panel.id} className="flex items-start gap-2">
          <input
            type="checkbox"
            className="mt-0.5"
            aria-label={`All lights of ${panel.name}`}
            checked={all}
            ref={(box) => {
              if (box) box.indeterminate = mine.length > 0 && !all
            }}
            onChange={() => set(all ? mine : lights, !all)}
          />
          <details className="group min-w-0 flex-1">
            <summary className="flex cursor-pointer list-none items-center gap-2">
              <span>{panel.name}</span>
              <span className="text-ink2">
                {mine.length} of {lights.length}
              </span>
              <ChevronRight
                size={13}
                aria-hidden="true"
                className="shrink-0 text-ink2 group-open:rotate-90"
              />
            </summary>
            <div className="mt-1 grid grid-cols-3 gap-x-3 gap-y-0.5">
              {lights.map((p) => {
                const isIn = p.settings.lighting === group.id
                const other = isIn ? undefined : rig.lighting[p.settings.lighting ?? '']?.name
                return (
                  <label key={p.id} className="flex min-w-0 items-center gap-1.5">
                    <input type="checkbox" checked={isIn} onChange={() => set([p], !isIn)} />
                    <span className="truncate" title={other ? `${p.name}: with ${other} now` : p.name}>
                      {p.name}
                      {other && <span className="text-ink2"> · {other}</span>}
                    </span>
                  </label>
                )
              })}
            </div>
          </details>
        </div>
      )
    })}
  </div>
)

import type { Nature } from '../aspects/nature'
import { isIndicator } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { natureOf, settingsOf } from '../rig/part-settings'
import type { Rig } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { Chip } from './chip'
import { wantedOn } from './configuration'
import { type DrivenSlot, isDriven, pinsOf } from './slot'
import { isWired, wiringsOf } from './wiring'

/** What really hangs on a simulated board, whatever the settings of its parts say of it. */
export interface SolderedOn {
  readonly chips: readonly Chip[]
  /** What it drives, as the slot that would drive it rightly. */
  readonly slots: readonly DrivenSlot[]
  /** What some of it is really like, by the places it hangs on. */
  readonly natures: readonly { readonly places: readonly number[]; readonly nature: Nature }[]
}

const anyPoints = [
  { value: 0, deg: 0 },
  { value: 1, deg: 1 },
]

/** A part with its motors' leads as they are soldered and its strips as long as they are, whatever its settings say. */
const asSoldered = (part: PartRow): PartRow => {
  const { settings } = part
  const aspects = { ...settings.aspects }
  let differs = false
  for (const aspect of partKind(part.kind)?.aspects ?? []) {
    if (aspect.kind === 'colour') {
      const strip = settingsOf(settings, aspect.id, 'colour')
      const really = natureOf(settings, aspect.id, 'colour')?.lamps
      if (strip?.lamps === really) continue
      differs = true
      const { lamps: _, ...rest } = strip ?? { kind: 'colour' as const }
      aspects[aspect.id] = really === undefined ? rest : { ...rest, lamps: really }
    }
    if (!isIndicator(aspect) || aspect.kind !== 'needle') continue
    const dial = settingsOf(settings, aspect.id, 'needle')
    const really = natureOf(settings, aspect.id, 'needle')?.leads
    if (dial?.leads === really) continue
    differs = true
    const { leads: _, ...rest } = dial ?? { kind: 'needle' as const, points: anyPoints }
    aspects[aspect.id] = really === undefined ? rest : { ...rest, leads: really }
  }
  return differs ? { ...part, settings: { ...settings, aspects } } : part
}

/** What is soldered to a board as it is drawn; a part is what it is by its catalogue and its nature. */
export const solderedOn = (rig: Rig, boardId: string): SolderedOn => {
  const { chips, slots } = wantedOn(rig, boardId)
  const natures: { places: readonly number[]; nature: Nature }[] = []
  const others = new Map<string, DrivenSlot[]>()
  for (const partId of new Set(slots.map((s) => s.partId))) {
    const part = rig.part[partId]
    if (!part) continue
    const really = asSoldered(part)
    if (really === part && !part.settings.simulated) continue
    const mine: DrivenSlot[] = []
    for (const { aspect, wiring } of wiringsOf(rig, really)) {
      if (!isWired(wiring) || wiring.boardId !== boardId) continue
      if (isDriven(wiring.slot)) mine.push(wiring.slot)
      const nature = part.settings.simulated?.[aspect.id]
      if (nature?.kind === aspect.kind) natures.push({ places: pinsOf(wiring.slot), nature })
    }
    if (really !== part) others.set(partId, mine)
  }
  const wanted = slots.flatMap(({ slot, partId }) => (!others.has(partId) && isDriven(slot) ? [slot] : []))
  return { chips, slots: [...wanted, ...[...others.values()].flat()], natures }
}

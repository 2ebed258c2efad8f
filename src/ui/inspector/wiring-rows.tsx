'use client'
import type { NeedleSettings } from '@/core/aspects/needle'
import { kindOf } from '@/core/catalogue/own-kind'
import type { NeedleAspect } from '@/core/catalogue/part-kind'
import { isSetByResistor } from '@/core/harness/draws'
import { lampCircuit } from '@/core/harness/lamp-circuit'
import { leadsCuredOn } from '@/core/harness/wiring'
import { changeRow } from '@/core/rig/edit'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Row } from './row'

const set = (part: PartRow, sentence: string, to: Partial<PartRow['settings']>): void =>
  edit(sentence, [changeRow('part', part, { ...part, settings: { ...part.settings, ...to } })])

/** The set resistor that modules with a MAX7219 come with. */
const MODULE_OHMS = 10_000

/** What belongs to a part's wiring: a lamp's resistor, its jumpers on the bus, how a motor's leads are soldered. */
export const WiringRows = ({ part }: { part: PartRow }) => {
  const rig = useStore((s) => s.rig)
  const kind = kindOf(part)
  const held = lampCircuit(rig, part)?.held === true
  return (
    <>
      {kind?.electrical && !kind.electrical.inductive && (
        <Row term="Resistor">
          {held ? (
            <span className="text-ink2">none: its driver holds the current</span>
          ) : (
            <NumberField
              label=""
              name="Series resistor"
              unit="Ω"
              value={part.settings.seriesOhms ?? 0}
              least={1}
              most={1_000_000}
              take={(ohms) => set(part, `“${part.name}” has ${ohms} Ω in series`, { seriesOhms: ohms })}
            />
          )}
        </Row>
      )}
      {kind && isSetByResistor(kind) && (
        <Row term="Set resistor">
          <NumberField
            label=""
            name="Set resistor of its driver"
            unit="Ω"
            value={part.settings.setOhms ?? MODULE_OHMS}
            least={9500}
            most={1_000_000}
            take={(ohms) => set(part, `The driver of “${part.name}” is set by ${ohms} Ω`, { setOhms: ohms })}
          />
        </Row>
      )}
      {kind?.addresses && (
        <Row term="Jumpers">
          <NumberField
            label=""
            name="Jumpers on the two-wire bus"
            unit={`of 0 to ${kind.addresses.count - 1}`}
            narrow
            value={part.settings.jumpers ?? kind.addresses.asMade}
            least={0}
            most={kind.addresses.count - 1}
            take={(n) => set(part, `Set the jumpers of “${part.name}” to ${n}`, { jumpers: Math.round(n) })}
          />
        </Row>
      )}
      {kind?.aspects.map((a) =>
        a.kind === 'needle' && a.drive === 'four-wire' ? (
          <MotorLeads key={a.id} part={part} aspect={a} several={kind.aspects.length > 1} />
        ) : null,
      )}
    </>
  )
}

type Leads = NonNullable<NeedleSettings['leads']>

const soldered: readonly (readonly [Leads | '', string])[] = [
  ['', 'as its coils say'],
  ['crossed', 'middle two crossed'],
  ['turned', 'one coil turned'],
  ['crossed and turned', 'crossed and turned'],
]

/** A gauge motor whose leads are crossed or turned is put right here instead of with the iron. */
const MotorLeads = ({ part, aspect, several }: { part: PartRow; aspect: NeedleAspect; several: boolean }) => {
  const rig = useStore((s) => s.rig)
  const aspectId = aspect.id
  const known = leadsCuredOn(rig, part, aspect)
  const settings = settingsOf(part.settings, aspectId, 'needle')
  const choose = (leads: string) => {
    const { leads: _before, ...rest } = settings ?? plainNeedle
    const next = leads === '' ? rest : { ...rest, leads: leads as Leads }
    const word = soldered.find(([id]) => id === leads)?.[1] ?? leads
    set(part, `The motor leads of “${part.name}” are soldered ${word}`, {
      aspects: { ...part.settings.aspects, [aspectId]: next },
    })
  }
  return (
    <Row term={several ? `Leads, ${aspectId}` : 'Motor leads'}>
      <select
        aria-label={several ? `Motor leads, ${aspectId}` : 'Motor leads'}
        className="h-[22px] py-0"
        value={settings?.leads ?? ''}
        onChange={(e) => choose(e.target.value)}
      >
        {soldered
          .filter(([id]) => id === '' || known.includes(id) || id === settings?.leads)
          .map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
      </select>
    </Row>
  )
}

/** A dial of its own is given later; two points are the least there can be. */
const plainNeedle: NeedleSettings = {
  kind: 'needle',
  points: [
    { value: 0, deg: -150 },
    { value: 1, deg: 150 },
  ],
}

import { boardModel } from '../catalogue/boards'
import type { SettingsOf } from '../connections/connections'
import { simulatedCraft } from '../connections/simulated-craft'
import type { Diff } from './edit'
import { numbered } from './numbered'

/** The last format in which a rig did not say with what it speaks. */
export const LAST_WITHOUT_CONNECTIONS = 1

/** The simulated board that stands for a board with this identity. */
const simulatedAs = (identity: string, model: string): SettingsOf<'simulated board'> => ({
  kind: 'simulated board',
  identity,
  model,
  closed: [],
  wipers: [],
})

/**
 * What the rig of an older file speaks with, as rows to be added: such rigs knew the simulated craft, and every board
 * with an identity was a simulated one.
 */
export const connectionsOfOlder = (rows: Diff): Diff => {
  const names = new Set<string>()
  const identities = new Set<string>()
  const named = (wanted: string) => {
    const name = names.has(wanted) ? numbered(wanted, names, 2) : wanted
    names.add(name)
    return name
  }
  const add = (id: string, name: string, settings: object) => ({
    op: 'add' as const,
    table: 'connection' as const,
    id,
    row: { id, name, position: names.size - 1, on: true, settings },
  })
  return [
    add('craft', named('Simulated craft'), simulatedCraft.fresh),
    ...rows.flatMap((change) => {
      if (change.op !== 'add' || change.table !== 'board') return []
      const { identity, name, model } = change.row
      if (typeof identity !== 'string' || identities.has(identity)) return []
      identities.add(identity)
      const called = named(`Simulated ${String(name).slice(0, 100)}`)
      return [
        add(
          `sim-${identity}`,
          called,
          simulatedAs(identity, boardModel(String(model))?.name ?? String(model)),
        ),
      ]
    }),
  ]
}

'use client'
import { boardModels } from '@/core/catalogue/boards'
import {
  type ConnectionKindName,
  type ConnectionSettings,
  connectionKind,
  connectionKindNames,
} from '@/core/connections/connections'
import { simulatedModelNames, simulatedModels } from '@/core/controllers/simulated-models'
import { newConnection } from '@/core/rig/connection-change'
import { addRow } from '@/core/rig/edit'
import { addSimulatedController } from '../controllers/add-controller'
import { edit } from '../live/edits'
import { newIdentity } from '../live/simulate'
import { useStore } from '../live/store'

/** Adds a connection, and looks at it. */
export const addConnection = (name: string, settings: ConnectionSettings): void => {
  const row = newConnection(useStore.getState().rig, crypto.randomUUID(), name, settings)
  edit(`Added the connection ${row.name}`, [addRow('connection', row)])
  useStore.setState({ connectionsAt: row.id })
}

/** What a new one of a kind begins with; a simulated board with an identity of its own. */
const freshOf = (kind: ConnectionKindName): ConnectionSettings => {
  const { fresh } = connectionKind(kind)
  if (fresh.kind !== 'simulated board') return fresh
  return { ...fresh, identity: newIdentity(), model: boardModels[0]?.name ?? fresh.model }
}

export const AddConnection = () => (
  <section aria-label="Add a connection" className="flex flex-wrap items-center gap-1.5 py-2">
    <span className="pr-1 pl-2.5 text-ink2">Add</span>
    {connectionKindNames
      .filter((k) => k !== 'controller' && k !== 'simulated controller' && k !== 'touch screen')
      .map((kind) => {
        const { name, summary } = connectionKind(kind)
        return (
          <button
            key={kind}
            type="button"
            className="btn"
            title={summary}
            onClick={() => addConnection(name, freshOf(kind))}
          >
            {name}
          </button>
        )
      })}
    {simulatedModelNames.map((model) => (
      <button
        key={model}
        type="button"
        className="btn"
        title={connectionKind('simulated controller').summary}
        onClick={() => addSimulatedController(model)}
      >
        {simulatedModels[model].name}
      </button>
    ))}
  </section>
)

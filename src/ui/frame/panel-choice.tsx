import { panelsOf } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { useStore } from '../live/store'

/** Which panel is looked at, in every view that shows one. */
export const PanelChoice = ({ panel }: { panel: PanelRow }) => {
  const panels = useStore((s) => s.rig.panel)
  const rig = useStore((s) => s.rig)
  if (Object.keys(panels).length < 2) return <>{panel.name}</>
  return (
    <select
      aria-label="Panel"
      value={panel.id}
      onChange={(e) => useStore.setState({ panelId: e.target.value })}
    >
      {panelsOf(rig).map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
        </option>
      ))}
    </select>
  )
}

import { boxOf } from '../../geometry/boxes'
import { flattened } from '../../geometry/flatten'
import { isInside } from '../../geometry/rings'
import { partsOf, type Rig } from '../../rig/rig'
import type { PanelRow } from '../../rig/rows'
import { plateOf } from '../plate'
import { frontOutline, keyOf } from '../things'
import { thinBridges } from './bridges'
import { backInside, cureBy, wayOff } from './cures'
import { isClearOfEdge, touches } from './edge'
import type { Add, FitFinding } from './finding'
import { clashesBehind, fingerRoom } from './fronts'
import { throughHoles } from './holes'
import { legendFindings } from './legends'
import { lineFindings } from './lines'
import { common, indexed, pairs, region } from './regions'

/** Everything about a panel's layout that will not work, found by way of a spatial index. */
export const fitFindings = (rig: Rig, panel: PanelRow): FitFinding[] => {
  const parts = partsOf(rig, panel.id)
  const outline = plateOf(rig, panel)
  const edge = flattened(outline.outline)
  const fronts = parts.map((p) => region(keyOf('part', p.id), `“${p.name}”`, frontOutline(p)))
  const findings: FitFinding[] = []
  const add: Add = (f) => findings.push({ ...f, id: `${f.kind}: ${f.keys.join(' ')}` })

  const front = indexed(fronts)
  pairs(fronts, front, (a, b) => {
    const move = wayOff(b, a)
    add({
      kind: 'in front',
      keys: [b.key, a.key],
      words: `${a.name} and ${b.name} overlap in front.`,
      box: common(a, b),
      cure: cureBy(b.key, b.name, move),
    })
  })
  const clashing = new Set(findings.map((f) => [...f.keys].sort().join(' ')))
  for (const part of parts) fingerRoom(part, front, clashing, add)
  clashesBehind(parts, add)
  lineFindings(panel, add)
  thinBridges(outline, edge, panel, rig, add)
  for (const f of fronts) {
    if (isClearOfEdge(panel, f) || f.outline.every((p) => isInside(p, edge)) || touches(f, edge)) continue
    add({
      kind: 'beyond',
      keys: [f.key],
      words: `${f.name} reaches beyond the panel.`,
      box: f,
      cure: backInside(f, boxOf(edge)),
    })
  }
  legendFindings(rig, panel, front, edge, add)
  throughHoles(rig, panel, outline, add)
  return findings
}

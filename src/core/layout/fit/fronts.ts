import type RBush from 'rbush'
import { kindOf } from '../../catalogue/own-kind'
import { isControl } from '../../catalogue/part-kind'
import { overlap } from '../../geometry/rings'
import type { PartRow } from '../../rig/rows'
import type { Millimetres } from '../../units-of-measure'
import { boxOnPanel } from '../plate'
import { keyOf } from '../things'
import { cureBy, wayOff } from './cures'
import type { Add } from './finding'
import { common, indexed, meet, pairs, type Region, region } from './regions'

/** A hand needs room round what it works. */
export const fingerRoom = (
  part: PartRow,
  front: RBush<Region>,
  clashing: ReadonlySet<string>,
  add: Add,
): void => {
  const kind = kindOf(part)
  if (!kind?.aspects.some(isControl)) return
  const { widthMm, heightMm } = kind.mount.reach
  const own = region(keyOf('part', part.id), `“${part.name}”`, boxOnPanel(part, widthMm, heightMm))
  for (const other of front.search(own)) {
    if (other.key === own.key || !meet(own, other) || !overlap(own.outline, other.outline)) continue
    if (clashing.has([own.key, other.key].sort().join(' '))) continue
    const move = wayOff(own, other)
    add({
      kind: 'fingers',
      keys: [own.key, other.key],
      words: `No room for fingers round ${own.name}: ${other.name} is in the way.`,
      box: common(own, other),
      cure: cureBy(own.key, own.name, move),
    })
  }
}

/** Bodies behind the plate; those that end before the other begins may lie over each other. */
export const clashesBehind = (parts: readonly PartRow[], add: Add): void => {
  const depths = new Map<string, { from: Millimetres; to: Millimetres }>()
  const bodies = parts.flatMap((part) => {
    const kind = kindOf(part)
    if (!kind) return []
    const { body, standoffMm } = kind.mount
    const key = keyOf('part', part.id)
    depths.set(key, { from: standoffMm, to: standoffMm + body.depthMm })
    return [region(key, `“${part.name}”`, boxOnPanel(part, body.widthMm, body.heightMm, body.xMm, body.yMm))]
  })
  pairs(bodies, indexed(bodies), (a, b) => {
    const [da, db] = [depths.get(a.key), depths.get(b.key)]
    if (!da || !db || da.to <= db.from || db.to <= da.from) return
    add({
      kind: 'behind',
      keys: [b.key, a.key],
      words: `Behind the panel ${a.name} and ${b.name} are in each other’s way.`,
      box: common(a, b),
      cure: cureBy(b.key, b.name, wayOff(b, a)),
    })
  })
}

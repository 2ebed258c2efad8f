import { describe, expect, it } from 'vitest'
import { EventReader } from '../../core/controllers/event-reader'
import { Standing } from '../../core/controllers/standing'
import { elementKinds } from '../../core/elements/elements'
import { addRow, apply } from '../../core/rig/edit'
import { emptyRig } from '../../core/rig/rig'
import type { Hub } from '../hub'
import { Fingers } from '../screens/fingers'
import { TouchLine } from './touch-line'

/** What is heard of fingers, read as what comes from a bought controller is read. */
const listening = async () => {
  const reader = new EventReader()
  let standing: Standing | null = null
  const changes: number[][] = []
  const line = new TouchLine('Touch Dash', {
    opened: () => {},
    closed: () => {},
    received: (bytes) => {
      for (const heard of reader.push(bytes)) {
        if (heard.is === 'hello') standing = new Standing(heard.hello)
        else if (standing) changes.push([...standing.take(heard.events)].sort())
      }
    },
  })
  line.open()
  await new Promise((resolve) => setImmediate(resolve))
  if (!standing) throw new Error('it has not said who it is')
  return { line, standing: standing as Standing, changes, reader }
}

describe('fingers on a screen', () => {
  it('speak as a controller does', async () => {
    const { line, standing, changes, reader } = await listening()
    expect(standing.inputs.filter((i) => i.is === 'button')).toHaveLength(96)
    expect(standing.inputs.filter((i) => i.is === 'axis')).toHaveLength(24)
    line.moved({ say: 'move', identity: '', contacts: [{ pin: 3, closed: true }] })
    expect(standing.isClosed(3)).toBe(true)
    line.moved({ say: 'move', identity: '', contacts: [{ pin: 3, closed: false }] })
    expect(standing.isClosed(3)).toBe(false)
    const axis = standing.inputs.find((i) => i.is === 'axis')?.pin ?? -1
    line.moved({ say: 'slide', identity: '', pin: axis, level: 0.25 })
    expect(standing.share(axis)).toBeCloseTo(0.25, 4)
    expect(changes).toEqual([[3], [3], [axis]])
    expect(reader.problem).toBeNull()
  })

  it('turn a knob contact by contact, one way and back', async () => {
    const { line, standing, changes } = await listening()
    const seen: number[] = []
    const note = () => seen.push(standing.bits([5, 6]))
    for (const by of [1, 1, 1, 1, -1, -1]) {
      line.moved({ say: 'turn', identity: '', pins: [5, 6], changes: by })
      note()
    }
    expect(seen).toEqual([0b01, 0b11, 0b10, 0b00, 0b10, 0b11])
    line.moved({ say: 'turn', identity: '', pins: [5, 6], changes: -12 })
    // Never two contacts at once: no click is lost.
    expect(changes.every((c) => c.length === 1)).toBe(true)
    expect(changes).toHaveLength(18)
  })

  it('say nothing once it is closed', async () => {
    const { line, changes } = await listening()
    line.end()
    line.moved({ say: 'move', identity: '', contacts: [{ pin: 3, closed: true }] })
    expect(changes).toEqual([])
  })
})

describe('a device that goes while it is touched', () => {
  const rig = apply(emptyRig(), [
    ...(['a', 'b'] as const).map((id, position) =>
      addRow('screen', {
        ...{ id, name: id, position, widthPx: 320, heightPx: 240 },
        settings: { ground: '#000000', widthMm: 60, pageBy: null },
      }),
    ),
    ...(['a', 'b'] as const).map((screenId) =>
      addRow('element', {
        ...{ id: `on ${screenId}`, screenId, pageId: null, name: screenId, position: 0 },
        ...{ x: 0, y: 0, width: 1, height: 1, angle: 0, settings: elementKinds.touch.fresh().settings },
      }),
    ),
  ])
  const touches: [string, unknown][] = []
  const hub = {
    engine: { rig },
    touch: (id: string, by: unknown) => {
      touches.push([id, by])
      return null
    },
  } as unknown as Hub

  it('lets go of what it held, and reaches nothing that lies elsewhere', () => {
    const fingers = new Fingers(hub, 'A')
    expect(fingers.touch('on b', { press: true })).toBe('it does not lie on this screen')
    expect(fingers.touch('nowhere', { press: true })).toBe('it does not lie on this screen')
    expect(fingers.touch('on a', { press: true })).toBeNull()
    fingers.letGo()
    fingers.letGo()
    expect(touches).toEqual([
      ['on a', { press: true }],
      ['on a', { press: false }],
    ])
  })
})

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import { edit, stepHistory } from './edits'
import { useStore } from './store'

interface Asked {
  readonly path: string
  readonly answer: (status: number, body: object) => void
}

let asked: Asked[] = []

beforeEach(() => {
  asked = []
  vi.useFakeTimers()
  vi.stubGlobal('localStorage', { setItem: () => {}, removeItem: () => {}, getItem: () => null })
  vi.stubGlobal('fetch', (path: string) => {
    return new Promise((resolve) => {
      asked.push({ path, answer: (status, body) => resolve({ status, json: async () => body }) })
    })
  })
  const rig = demoRig()
  useStore.setState({ pending: [], notices: [], base: rig, rig })
})

afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const settle = () => vi.advanceTimersByTimeAsync(1)
const paths = () => asked.map((a) => a.path)
const rename = () =>
  edit('Named it', [
    { op: 'change', table: 'part', id: 'horn-off', before: { name: 'Horn off' }, after: { name: 'Hush' } },
  ])
const name = () => useStore.getState().rig.part['horn-off']?.name
const notice = () => useStore.getState().notices.at(-1)

describe('undo', () => {
  it('waits until the edit made just before is kept, so that it is the one undone', async () => {
    rename()
    const undone = stepHistory('undo')
    await settle()
    expect(paths()).toEqual(['/api/edits'])
    asked[0]?.answer(200, { revision: 7 })
    await settle()
    expect(paths()).toEqual(['/api/edits', '/api/history'])
    asked[1]?.answer(200, {})
    await undone
    expect(useStore.getState().notices).toEqual([])
  })

  it('says so when that takes too long, and undoes nothing else instead', async () => {
    rename()
    const undone = stepHistory('undo')
    await vi.advanceTimersByTimeAsync(6000)
    await undone
    expect(paths()).toEqual(['/api/edits'])
    expect(useStore.getState().notices[0]?.text).toContain('undo has to wait')
    asked[0]?.answer(200, { revision: 8 })
    await settle()
  })

  it('comes one after the other when pressed twice', async () => {
    void stepHistory('undo')
    void stepHistory('undo')
    await settle()
    expect(paths()).toEqual(['/api/history'])
    asked[0]?.answer(200, {})
    await settle()
    expect(paths()).toEqual(['/api/history', '/api/history'])
    asked[1]?.answer(200, {})
    await settle()
  })
})

describe('an edit that is not kept', () => {
  it('is given back when the door refuses it, with the reason, and can be tried again', async () => {
    rename()
    expect(name()).toBe('Hush')
    await settle()
    asked[0]?.answer(409, { reasons: ['The part was changed meanwhile.'] })
    await settle()
    expect(name()).toBe('Horn off')
    expect(notice()?.text).toContain('The part was changed meanwhile.')
    notice()?.offer?.act()
    await settle()
    expect(name()).toBe('Hush')
    asked[1]?.answer(200, { revision: 9 })
    await settle()
  })

  it('is sent again more and more seldom while the server fails at it, and is given back in the end', async () => {
    rename()
    const sentAt: number[] = []
    for (let i = 0; i < 6; i++) {
      const before = asked.length
      for (let waited = 0; asked.length === before && i > 0; waited++) {
        expect(waited).toBeLessThan(400)
        await vi.advanceTimersByTimeAsync(50)
      }
      sentAt.push(Date.now())
      await settle()
      asked.at(-1)?.answer(500, {})
      await settle()
    }
    const pauses = sentAt.slice(1).map((t, i) => t - (sentAt[i] ?? 0))
    expect(pauses).toEqual([...pauses].sort((a, b) => a - b))
    expect(pauses.at(-1)).toBeGreaterThan(2 * (pauses[0] ?? 0))
    expect(name()).toBe('Horn off')
    expect(notice()?.text).toContain('failed at it 6 times')
    await vi.advanceTimersByTimeAsync(60_000)
    expect(asked).toHaveLength(6)
  })

  it('waits for as long as it takes while the database is away', async () => {
    rename()
    for (let i = 0; i < 30; i++) {
      await vi.advanceTimersByTimeAsync(20_000)
      asked.at(-1)?.answer(503, {})
      await settle()
    }
    expect(name()).toBe('Hush')
    expect(asked.length).toBeGreaterThan(20)
    await vi.advanceTimersByTimeAsync(20_000)
    asked.at(-1)?.answer(200, { revision: 11 })
    await settle()
    expect(useStore.getState().saving).toBe('ok')
  })

  it.each([
    ['a character that is none', { name: 'Horn\0' }],
    ['a name that is none', { name: '   ' }],
    ['a place that is no number', { xMm: Number.NaN }],
    ['a field that is not there', { colour: 'red' }],
  ])('is not even sent, nor shown, when it holds %s', async (_, after) => {
    const part = useStore.getState().rig.part['horn-off'] as unknown as Record<string, unknown>
    const before = Object.fromEntries(Object.keys(after).map((k) => [k, part[k]]))
    edit('Broke it', [{ op: 'change', table: 'part', id: 'horn-off', before, after }])
    await settle()
    expect(asked).toEqual([])
    expect(useStore.getState().rig).toEqual(demoRig())
    expect(notice()?.text).toContain('This cannot be kept')
  })
})

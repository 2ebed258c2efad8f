import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
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
  useStore.setState({ pending: [], notices: [] })
})

afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const settle = () => vi.advanceTimersByTimeAsync(1)
const paths = () => asked.map((a) => a.path)
const rename = () =>
  edit('Named it', [{ op: 'change', table: 'panel', id: 'p', before: { name: 'a' }, after: { name: 'b' } }])

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

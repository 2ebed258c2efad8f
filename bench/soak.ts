import { readdirSync, readFileSync } from 'node:fs'
import WebSocket from 'ws'
import type { ToHub } from '../src/core/live/feed'
import { App, pause, until } from '../tests/app'
import { median, print } from './measure'

/** An hour, where nothing else is said. */
const MINUTES = Number(process.env.CLAVIK_SOAK_MINUTES ?? 60)
const TABS = 5
const MOVEMENTS_PER_S = 150
const EVERY_MS = 20

const processes = ['hub', 'web', 'postgres', 'standins'] as const

/** What a process and those that it started hold of their own, in megabytes. */
const heldMb = (pid: number): number => {
  const children = readdirSync('/proc')
    .filter((p) => /^\d+$/.test(p))
    .filter((p) => {
      try {
        return readFileSync(`/proc/${p}/stat`, 'utf8').split(') ').at(-1)?.split(' ')[1] === String(pid)
      } catch {
        return false
      }
    })
  return [String(pid), ...children].reduce((sum, p) => {
    try {
      const own = /^Pss_(Anon|Shmem):\s+(\d+)/gm
      const text = readFileSync(`/proc/${p}/smaps_rollup`, 'utf8')
      return sum + [...text.matchAll(own)].reduce((s, m) => s + Number(m[2]) / 1024, 0)
    } catch {
      return sum
    }
  }, 0)
}

/** What a hand does next: knobs turned, buttons pressed and let go, levers moved, all over the rig. */
const movements: readonly ((i: number) => ToHub)[] = [
  (i) => move('wheel-lever', 'position', { to: 'position', position: ['up', 'off', 'down'][i % 3] ?? 'up' }),
  (i) => move('horn-off', 'press', { to: 'position', position: i % 2 ? 'pressed' : 'released' }),
  (i) => move('heading-knob', 'turn', { to: 'turn', clicks: i % 2 ? 1 : -1 }),
  (i) => move('power-left', 'travel', { to: 'slide', level: (i % 100) / 100 }),
]
const move = (
  partId: string,
  aspectId: string,
  movement: Extract<ToHub, { say: 'operate' }>['movement'],
): ToHub => ({
  say: 'operate',
  partId,
  aspectId,
  movement,
})

/** Hours at the bench: what each process holds while everything is worked, and whether that goes flat. */
export const benchSoak = async (): Promise<void> => {
  const app = await App.make()
  await app.start()
  await until('all is up', async () => (await app.health()).body.ok === true)
  const tabs = Array.from({ length: TABS }, () => {
    const tab = new WebSocket(`ws://127.0.0.1:${app.port}/live`, { origin: app.address })
    tab.on('open', () => {
      tab.send(JSON.stringify({ say: 'watch', all: true }))
      tab.send(JSON.stringify({ say: 'agreements', on: true }))
    })
    return tab
  })
  let moved = 0
  let owed = 0
  const work = setInterval(() => {
    for (owed += (MOVEMENTS_PER_S * EVERY_MS) / 1000; owed >= 1; owed--) {
      const tab = tabs[moved % TABS]
      const make = movements[moved % movements.length]
      if (tab?.readyState === WebSocket.OPEN && make) tab.send(JSON.stringify(make(moved)))
      moved++
    }
  }, EVERY_MS)
  const held = new Map(processes.map((p): [string, number[]] => [p, []]))
  for (let minute = 0; minute < MINUTES; minute++) {
    await pause(60_000)
    for (const p of processes) held.get(p)?.push(heldMb(app.pid(p)))
    const now = [...held].map(([p, list]) => `${p} ${list.at(-1)?.toFixed(0)}`).join(' · ')
    process.stderr.write(`minute ${minute + 1}: ${now} MB, ${moved} movements\n`)
  }
  clearInterval(work)
  for (const [name, list] of held) {
    const third = Math.max(1, Math.floor(list.length / 3))
    const before = median(list.slice(third, 2 * third))
    const after = median(list.slice(-third))
    // From here on it stayed within a fiftieth of what it held in the end.
    const end = median(list.slice(-5))
    const flat = list.findLastIndex((mb) => Math.abs(mb / end - 1) > 0.02) + 2
    print({
      name: `${name}, flat from minute ${flat}, after ${MINUTES} minutes at ${MOVEMENTS_PER_S} movements a second with ${TABS} tabs: the last third against the one before`,
      value: after,
      unit: 'MB',
      ratio: after / before,
      limit: 1.05,
    })
  }
  for (const tab of tabs) tab.terminate()
  await app.remove()
}

import { lag, type World } from './world'

/** Variables nobody described, as every simulator has them: some follow real things, most just move. */
export const hidden = (w: World, follow: { lever: () => number; n1: () => number; horn: () => number }) => {
  w.inGroup('Undescribed')
  const moving = Array.from({ length: 44 }, (_, i) => ({
    v: w.number(`x.${String(i).padStart(2, '0')}.${'abcdef'[i % 6]}`, null, ''),
    seconds: 0.2 + (i % 7) * 0.4,
    size: 1 + (i % 5) * 12,
  }))
  const counters = [3, 7, 11, 13, 17].map((n) => w.number(`k.${n}`, null, ''))
  // Some programs keep numbers in 32 bits: 0.1 is 0.10000000149011612 there.
  const narrow = [1, 2, 3, 4].map((n) =>
    w.number(`f.${n}`, null, '', Math.fround(0.1 * n), { range: [0, 10], system: 'narrow' }),
  )
  const lever = w.number('m.lv.1', null, '')
  const spool = w.number('m.gg.sum', null, '')
  const horn = w.number('m.aw.4', null, '')
  // The wiper: nobody wrote down that 9 is fast, 0 slow and 4 parked.
  const wiper = w.number('deck.k7', null, '', 4, { range: [0, 9], system: 'wiper' })
  const blade = w.number('deck.k8', null, '')
  let swing = 0
  let ticks = 0
  return {
    step(dt: number): void {
      ticks++
      for (const f of narrow) f.n = Math.fround(f.n)
      for (const m of moving) m.v.n = lag(m.v.n, (w.random() - 0.5) * m.size, m.seconds, dt)
      for (const [i, c] of counters.entries()) if (ticks % (i * 40 + 30) === 0) c.n = (c.n + 1) % 256
      lever.n = 100 - follow.lever() * 50
      spool.n = Math.round(follow.n1() * 10)
      horn.n = follow.horn() * 4
      // Parked, it ends its stroke and stays.
      const speed = wiper.n === 9 ? 6 : wiper.n === 0 ? 3 : swing % Math.PI < 0.2 ? 0 : 3
      swing += speed * dt
      blade.n = Math.round(45 - 45 * Math.cos(2 * swing))
    },
  }
}

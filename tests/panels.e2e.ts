import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, pause, until } from './app'
import type { Bench } from './browser'
import { borrowOnMirror, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowOnMirror())
})

afterAll(() => endSession({ app, craft, bench }))

/** What a variable comes to once it has stood still for half a second. */
const atRest = async (name: string): Promise<number> => {
  let value = craft.value(name)
  let since = Date.now()
  await until(`${name} stands still`, () => {
    if (craft.value(name) !== value) since = Date.now()
    value = craft.value(name)
    return Date.now() - since > 500
  })
  return value
}
const goTo = async (panel: string): Promise<void> => {
  await bench.page.select('select[aria-label="Panel"]', panel)
  await bench.page.waitForSelector(`section[aria-label="Panel"] svg`)
}
const ring = (part: string, aspect: string) => `[data-part="${part}"] .worked[data-aspect="${aspect}"]`

/** Turns a knob by so many clicks with the wheel, as fast or slow as said. */
const turn = async (part: string, aspect: string, clicks: number, everyMs = 130): Promise<void> => {
  const { x, y, width } = await bench.middleOf(ring(part, aspect))
  // At the rim, where the inner knob does not lie over the outer one.
  await bench.page.mouse.move(x + width * 0.36, y)
  for (let i = 0; i < Math.abs(clicks); i++) {
    await bench.page.mouse.wheel({ deltaY: clicks > 0 ? -100 : 100 })
    await pause(everyMs)
  }
}
const shows = (part: string): Promise<string> =>
  bench.page.$eval(
    `[data-part="${part}"] [data-shows]`,
    (e) => (e as HTMLElement | SVGElement).dataset.shows ?? '',
  )
const line = async (n: number): Promise<string> => (await shows('radio-display')).split('\n')[n] ?? ''
const push = async (part: string, ms = 80): Promise<void> => {
  const { x, y } = await bench.middleOf(ring(part, 'inner'))
  await bench.page.mouse.move(x, y)
  await bench.page.mouse.down()
  await pause(ms)
  await bench.page.mouse.up()
}
const near = (name: string, value: number) => Math.abs(craft.value(name) - value) < 1e-6

describe('the flight director', () => {
  it('flies a heading change from the panel', async () => {
    await goTo('flight-director')
    await until('the windows are lit', async () => /^\d{3}$/.test(await shows('heading-window')))
    // A hand takes the autopilot over from the craft's own pilot.
    craft.set('ap.heading.target', 40)
    await until('the window follows', async () => (await shows('heading-window')) === '040')
    await turn('heading-knob', 'turn', 3)
    await until('three degrees were added', () => near('ap.heading.target', 43))
    await turn('heading-knob', 'turn', -2)
    await until('and two taken away', () => near('ap.heading.target', 41))
    await until('the window shows it', async () => (await shows('heading-window')) === '041')
    if (craft.value('ap.master') === 1) await bench.click('[data-part="engage"] .worked')
    await until('the autopilot is off', () => craft.value('ap.master') === 0)
    await until('its lamp follows the craft', async () => !(await bench.lamp('engage')).lit)
    await bench.click('[data-part="engage"] .worked')
    await until('the autopilot is engaged', () => craft.value('ap.master') === 1)
    await until('its lamp follows the craft', async () => (await bench.lamp('engage')).lit)
  })

  it('shows by the lamp in a button what the craft does, not what the hand did', async () => {
    const { x, y } = await bench.middleOf('[data-part="track-beacon"] .worked')
    craft.set('beacon.frequency', 200)
    await until('no beacon is heard', () => !(craft.value('beacon.distance') > 0))
    await bench.page.mouse.click(x, y)
    await pause(600)
    expect(craft.value('ap.beacon.mode')).toBe(0)
    expect((await bench.lamp('track-beacon')).lit).toBe(false)
  })

  it('turns coarse when turned fast, and fine again', async () => {
    craft.set('ap.altitude.target', 3000)
    await until('it is told', () => near('ap.altitude.target', 3000))
    await turn('altitude-knob', 'turn', 1, 300)
    await until('a slow click is fine', () => near('ap.altitude.target', 3100))
    await bench.focus(ring('altitude-knob', 'turn'))
    await bench.page.keyboard.press('PageUp')
    await until('fast clicks are coarse', () => craft.value('ap.altitude.target') > 3600)
    const fast = await atRest('ap.altitude.target')
    await bench.page.keyboard.press('ArrowDown')
    await until('it is turned back', () => craft.value('ap.altitude.target') < fast)
    expect(await atRest('ap.altitude.target')).toBeCloseTo(fast - 100)
  })

  it('is legible and reachable', async () => {
    expect(await bench.breaches()).toEqual([])
  })
})

/** Pushes on until a line has the cursor: on a slow machine the set may have gone back to its first line meanwhile. */
const pushTo = async (row: number, start: string): Promise<void> => {
  for (let i = 0; i < 8; i++) {
    if ((await line(row)).startsWith(start)) return
    await push('radio-knob')
    for (let k = 0; k < 10 && !(await line(row)).startsWith(start); k++) await pause(100)
  }
  throw new Error(`line ${row + 1} never had the cursor`)
}

describe('the radio stack', () => {
  it('tunes the first radio with the outer and inner knob, and exchanges by a long push', async () => {
    await goTo('radio-stack')
    craft.set('radio.one.standby', 121.5)
    await until('the first line has the cursor', async () => (await line(0)).startsWith('>C1'))
    await turn('radio-knob', 'outer', 2)
    await until('two megahertz more', () => near('radio.one.standby', 123.5))
    await turn('radio-knob', 'inner', -3)
    await until('three steps less', () => near('radio.one.standby', 123.425))
    await until('the display shows it', async () => (await line(0)).includes('123.425'))
    const before = craft.value('radio.one.active')
    await push('radio-knob', 900)
    await until(
      'it is in use now',
      () => near('radio.one.active', 123.425) && near('radio.one.standby', before),
    )
  })

  it('goes on to the next line by a push: the cursor, a lamp and the screen say so', async () => {
    await pushTo(1, '>C2')
    await until(
      'its lamp is lit',
      async () => (await bench.lamp('line-lamp-2')).lit && !(await bench.lamp('line-lamp-1')).lit,
    )
    await bench.page.waitForSelector('[data-layer="COM 2"][data-active="true"]')
    craft.set('radio.two.standby', 130.015)
    await until('it is told', () => near('radio.two.standby', 130.015))
    await turn('radio-knob', 'inner', 1)
    await until('the next of its odd grid', () => near('radio.two.standby', 130.025))
    expect(near('radio.one.active', 123.425)).toBe(true)
  })

  it('tunes the beacon receiver digit by digit', async () => {
    await pushTo(2, '>BCN')
    craft.set('beacon.frequency', 395)
    await until('it is told', () => near('beacon.frequency', 395))
    await turn('radio-knob', 'outer', 1)
    await turn('radio-knob', 'inner', 1)
    await until('the tens come round without carrying', () => near('beacon.frequency', 305))
  })

  it('sets the identification code in base 8', async () => {
    await pushTo(3, '>CODE')
    craft.set('code.digits', 4327)
    await until('it is told', () => near('code.digits', 4327))
    await turn('radio-knob', 'outer', -1)
    await turn('radio-knob', 'inner', 1)
    await until('seven is followed by nought', () => near('code.digits', 4320))
    const { x, y, width } = await bench.middleOf('[data-part="code-function"] .worked')
    await bench.page.mouse.click(x + width * 0.3, y)
    await until('its function switch follows', () => craft.value('code.mode') === 3)
  })

  it('falls back to the first line when it is left alone', async () => {
    await until('the first line has the cursor again', async () => (await line(0)).startsWith('>C1'), 16_000)
  })
})

describe('the power levers', () => {
  it('give reverse, idle and power along their bands', async () => {
    await goTo('power-levers')
    const box = await bench.middleOf('[data-part="power-left"] .worked')
    // The slot is 75 mm of the 95 mm that can be touched.
    const y = (place: number) => box.y + (0.5 - place) * box.height * (75 / 95)
    const lever = () => craft.value('engine.left.power.lever')
    await bench.page.mouse.move(box.x, y(0.22))
    await bench.page.mouse.down()
    await until('idle is flat', () => Math.abs(lever()) < 1e-6)
    await bench.page.mouse.move(box.x, y(0.63), { steps: 6 })
    await until('half power', () => Math.abs(lever() - 0.5) < 0.03)
    await bench.page.mouse.move(box.x, y(0), { steps: 6 })
    await until('full reverse', () => near('engine.left.power.lever', -0.3))
    await bench.page.mouse.up()
  })

  it('trims only while both switches are held, again and again', async () => {
    craft.set('controls.trim.pitch', 0)
    await until('it is told', () => near('controls.trim.pitch', 0))
    const right = await bench.middleOf('[data-part="trim-right"] .worked')
    const left = await bench.middleOf('[data-part="trim-left"] .worked')
    const lower = (box: typeof right) => box.y + box.height * 0.3
    await bench.page.mouse.move(left.x, lower(left))
    await bench.page.mouse.down()
    await pause(900)
    await bench.page.mouse.up()
    expect(craft.value('controls.trim.pitch')).toBe(0)
    // Shift keeps a switch where it was put, so that one mouse can hold two.
    await bench.page.keyboard.down('Shift')
    await bench.page.mouse.click(right.x, lower(right))
    await bench.page.keyboard.up('Shift')
    await bench.page.mouse.move(left.x, lower(left))
    await bench.page.mouse.down()
    await until('it trims again and again', () => craft.value('controls.trim.pitch') >= 0.05)
    await bench.page.mouse.up()
    // What is under way yet comes in; then nothing does any more.
    await until('it has come to rest', async () => {
      const there = craft.value('controls.trim.pitch')
      await pause(500)
      return craft.value('controls.trim.pitch') === there
    })
    await bench.page.mouse.click(right.x, lower(right))
  })

  it('lists what stands otherwise than the craft says, and settles it', async () => {
    craft.set('engine.right.propeller.lever', 0.4)
    await bench.sees('Propeller lever right', 'section[aria-label="Disagreements"]')
    await bench.clickWords('Tell the craft all')
    await until('the panel leads', () => near('engine.right.propeller.lever', 1))
  })
})

describe('the engines', () => {
  it('have needles where the craft says', async () => {
    await goTo('engines')
    const deg = () =>
      bench.page.$eval('[data-part="torque-left"] [data-deg]', (e) => Number((e as SVGElement).dataset.deg))
    await until('the needle stands at its torque', async () => {
      const torque = Math.min(120, Math.max(0, craft.value('engine.left.torque')))
      return Math.abs((await deg()) - (torque * 2.2 - 130)) < 6
    })
  })

  it('can be exercised, and end it by themselves', async () => {
    await bench.click('[data-part="fuel-lamp-right"] .worked')
    await bench.clickWords('All lit', 'aside button')
    await until('it is lit by hand', async () => (await bench.lamp('fuel-lamp-right')).lit)
    await until('it ends', async () => !(await bench.lamp('fuel-lamp-right')).lit, 9000)
    expect(await bench.breaches()).toEqual([])
    expect(bench.errors).toEqual([])
  })
})

import { describe, expect, it } from 'vitest'
import { Contact } from '../../standins/boards/contact'
import { Knob } from '../../standins/boards/knob'
import { randomFrom } from '../../standins/craft/world'
import { bouncesOf, measureBounces } from './bounce'
import {
  CHANGES_LOOKED_AT,
  ContactsWatch,
  KnobWatch,
  MOVEMENTS_LOOKED_AT,
  NeedleWatch,
  RESTS_LOOKED_AT,
  TravelWatch,
  VISITS_LOOKED_AT,
} from './drift'
import type { Note } from './note'

const then = { at: '2026-01-01T12:00:00.000Z', kind: 'button', place: '' }
/** A board looks so often. */
const TURN_US = 360

/** A simulated contact as a board notes it. */
class Pressed {
  private now = 0
  private stands = 0
  readonly contact: Contact

  constructor(seed: number) {
    this.contact = new Contact(false, randomFrom(seed))
  }

  move(): Note[] {
    const notes: Note[] = []
    this.contact.move(!this.contact.closed, this.now)
    for (let i = 0; i < 200; i++) {
      this.now += TURN_US
      this.contact.settle(this.now)
      const value = Number(this.contact.closed)
      if (value !== this.stands) notes.push({ at: this.now, value })
      this.stands = value
    }
    this.now += 80_000
    return notes
  }
}

const measuredContact = (pressed: Pressed) => {
  const notes: Note[] = [{ at: 0, value: 0 }]
  for (let i = 0; i < 20; i++) notes.push(...pressed.move())
  const found = measureBounces(bouncesOf(notes))
  return { ...then, movements: 20, usualUs: found?.usualUs ?? 0, longestUs: found?.longestUs ?? 0 }
}

describe('a contact that is watched', () => {
  it('is told of within eighty movements once it bounces three times as long', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const pressed = new Pressed(seed)
      const watch = new ContactsWatch(measuredContact(pressed), 1)
      for (let i = 0; i < 50; i++) watch.take(pressed.move())
      expect(watch.found, `seed ${seed}`).toBeNull()
      pressed.contact.bounceUs *= 3.5
      // What is left of the row that it was in, and two whole ones.
      for (let i = 0; i < 3 * MOVEMENTS_LOOKED_AT + 2; i++) watch.take(pressed.move())
      expect(watch.found, `seed ${seed}`).toMatchObject({ is: 'bounces longer' })
    }
  })

  it('is not told of in a year of being pressed forty times a day, healthy', () => {
    for (const seed of [3, 4]) {
      const pressed = new Pressed(seed)
      const watch = new ContactsWatch(measuredContact(pressed), 1)
      for (let i = 0; i < 365 * 80; i++) watch.take(pressed.move())
      expect(watch.found).toBeNull()
    }
  })
})

/** A simulated knob as a board notes it. */
class Turned {
  private now = 0
  private stands = 0
  readonly knob: Knob

  constructor(seed: number) {
    this.knob = new Knob(randomFrom(seed))
  }

  turn(changes: number): Note[] {
    const notes: Note[] = []
    this.knob.turn(changes)
    for (let i = 0; i < Math.abs(changes) * 14 + 40; i++) {
      this.now += TURN_US
      this.knob.settle(this.now)
      const value = Number(this.knob.a.closed) + 2 * Number(this.knob.b.closed)
      if (value !== this.stands) notes.push({ at: this.now, value })
      this.stands = value
    }
    this.now += 300_000
    return notes
  }
}

describe('a knob that is watched', () => {
  const measured = { ...then, changes: 80, lost: 0, bounceUs: 900 }

  it('is told of once a contact misses, within three rows of changes', () => {
    const turned = new Turned(5)
    const watch = new KnobWatch(measured)
    for (let i = 0; i < 30; i++) watch.take(turned.turn(i % 2 ? 20 : -20))
    expect(watch.found).toBeNull()
    turned.knob.missesOneIn = 6
    for (let i = 0; i * 28 < 3 * CHANGES_LOOKED_AT; i++) watch.take(turned.turn(i % 2 ? 28 : -28))
    expect(watch.found).toMatchObject({ is: 'loses steps', was: 0 })
  })

  it('is not told of in a year of two hundred clicks a day, healthy, turned to and fro by an undecided hand', () => {
    const turned = new Turned(6)
    const random = randomFrom(8)
    const watch = new KnobWatch(measured)
    for (let day = 0; day < 365; day++)
      for (let i = 0; i < 40; i++) watch.take(turned.turn(4 * Math.round((random() - 0.5) * 10)))
    expect(watch.found).toBeNull()
  })
})

const normal = (random: () => number): number =>
  Array.from({ length: 12 }, random).reduce((s, v) => s + v, -6)

describe('a lever that is watched', () => {
  const measured = { ...then, sigma: 1.5, peak: 5, low: 40, high: 980 }
  const resting = (random: () => number, middle: number, sigma: number): Note[] =>
    Array.from({ length: 1000 }, (_, i) => ({
      at: i * 1000,
      value: Math.round(middle + sigma * normal(random)),
    }))
  const pushed = (watch: TravelWatch, from: number, to: number) => {
    for (let i = 0; i <= 20; i++) watch.moved(Math.round(from + ((to - from) * i) / 20))
  }

  it('is told of within twelve moments of rest once its noise has more than doubled', () => {
    const random = randomFrom(3)
    const watch = new TravelWatch(measured)
    for (let i = 0; i < 30; i++) watch.take(resting(random, 200 + 20 * i, 1.5))
    expect(watch.found).toBeNull()
    for (let i = 0; i < 2 * RESTS_LOOKED_AT; i++) watch.take(resting(random, 700 - 20 * i, 4))
    expect(watch.found).toMatchObject({ is: 'noisier', was: 1.5 })
  })

  it('is told of once it stops short of an end, each time alike; not where a hand only goes near it', () => {
    const random = randomFrom(4)
    const near = new TravelWatch(measured)
    for (let i = 0; i < 200; i++) {
      const to = 925 + random() * 40
      pushed(near, 500, to)
      pushed(near, to, 500)
    }
    expect(near.found).toBeNull()
    const short = new TravelWatch(measured)
    for (let i = 0; i <= VISITS_LOOKED_AT; i++) {
      pushed(short, 500, 952 + random() * 4)
      pushed(short, 952, 500)
    }
    expect(short.found).toMatchObject({ is: 'end not reached', end: 'high', was: 980 })
  })

  it('is not told of in a year of rests and of pushes to both ends, healthy', () => {
    const random = randomFrom(9)
    const watch = new TravelWatch(measured)
    for (let day = 0; day < 365; day++) {
      for (let i = 0; i < 4; i++) watch.take(resting(random, 100 + 800 * random(), 1.2 + 0.6 * random()))
      for (let i = 0; i < 6; i++) {
        pushed(watch, 500, 978 + random() * 8)
        pushed(watch, 980, 36 + random() * 8)
        pushed(watch, 40, 500)
      }
    }
    expect(watch.found).toBeNull()
  })
})

describe('a needle with a sensor of its zero', () => {
  const travelDeg = 720
  const takesMs = 3600
  /** A motor with its vane: it stands where it was told, a little late, and so much beside that. */
  const run = (days: number, besideDeg: (day: number) => number) => {
    const random = randomFrom(17)
    const watch = new NeedleWatch(travelDeg)
    let foundOn: number | null = null
    let now = 0
    for (let day = 0; day < days; day++) {
      const boot = day + 1
      for (let move = 0; move < 40; move++) {
        const told = random() < 0.3 ? 0 : Math.round(random() * 7200)
        const since = now
        // Somebody flies: it rests for half a second to a minute and a half.
        for (const until = now + 500 + random() * 90_000; now < until; now += 400) {
          // Four degrees of its vane are on either side, give or take what a sensor trembles.
          const from = Math.abs(((told / 10 + besideDeg(day) + 180) % 360) - 180)
          const isMoving = now - since < takesMs * 1.1
          const seen = isMoving ? random() < 0.2 : from < 3.9 + random() * 0.2
          watch.look({ told, since, seen, takesMs, boot }, now)
          if (watch.found) foundOn ??= day
        }
      }
      now += 8 * 3600_000
    }
    return { watch, foundOn }
  }

  it('is not told of in a year of flying, healthy', () => {
    expect(run(365, () => 0).foundOn).toBeNull()
  })

  it('is told of on the day on which it has lost its zero, and no more once it has found it again', () => {
    const { foundOn, watch } = run(40, (day) => (day === 30 ? 25 : 0))
    expect(foundOn).toBe(30)
    expect(watch.found).toBeNull()
  })

  it('whose sensor never sees it is told of after three looks at its zero', () => {
    const watch = new NeedleWatch(travelDeg)
    const look = (now: number) => watch.look({ told: 0, since: 0, seen: false, takesMs, boot: 1 }, now)
    // It may look for its sensor for 10.8 s, and then go through all of its travel.
    for (let now = 0; now < 14_400; now += 100) look(now)
    expect(watch.found).toBeNull()
    for (let now = 14_400; now < 14_400 + 2 * 30_000 + 1000; now += 100) look(now)
    expect(watch.found).toEqual({ is: 'zero lost', seen: false, times: 3 })
  })
})

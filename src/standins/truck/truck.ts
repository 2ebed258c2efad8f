import { emptySeat, type SeatInputs } from '../../core/connections/seat'
import { randomFrom } from '../craft/world'
import { altitudeAt, bendAt, COURSE_M, fastestAt, gradientAt, splitsPassed } from './course'

const G = 9.81
const MASS_KG = 1480
const WHEEL_M = 0.33
const FINAL = 4.35
const RATIOS: Readonly<Record<number, number>> = {
  [-1]: -3.3,
  0: 0,
  1: 3.3,
  2: 2.35,
  3: 1.78,
  4: 1.42,
  5: 1.17,
  6: 1,
}
const IDLE = 1150
export const LIMIT = 9000
const UP_AT = 8350
const DOWN_AT = 4300
const SHIFT_S = 0.16
const TIMED_RUNS = 3
/** Between two runs it stands at the foot of the hill. */
const REST_S = 6

/** Torque of the engine with the throttle open, N·m, by rpm: a turbocharged four. */
const torqueAt = (rpm: number): number => {
  const x = rpm / 1000
  return Math.max(0, x < 3 ? 120 + 90 * x : 470 - 6 * (x - 5.2) ** 2 - (x > 8.6 ? 400 * (x - 8.6) : 0))
}

const clamp = (x: number, least: number, most: number): number => Math.min(most, Math.max(least, x))
/** What is as good as there is there: no pedal rests at a millionth. */
const THERE = 1e-4
const toward = (x: number, goal: number, rate: number, dt: number): number =>
  Math.abs(goal - x) < THERE ? goal : x + (goal - x) * (1 - Math.exp(-dt * rate))
const four = (value: number): [number, number, number, number] => [value, value, value, value]

/** The Torsk R4 on Brant Ridge: point mass with an engine, a gearbox and four tyres that warm up. It drives itself, but for what a hand takes over. */
export class Truck {
  seat: SeatInputs = emptySeat
  time = 0
  speed = 0
  position = 0
  rpm = IDLE
  gear = 0
  throttle = 0
  brake = 0
  clutch = 1
  steering = 0
  handbrake = 1
  boost = 0
  flow = 0
  heading = 0.6
  acceleration: [number, number, number] = [0, 0, G]
  slip = four(0)
  wheels = four(0)
  suspension = four(0.08)
  limiting = false
  fuel = 46
  water = 61
  oil = 58
  oilPressure = 180
  battery = 12.6
  tyres = four(38)
  pressures = four(182)
  discs = four(60)
  clock = 0
  best = 0
  difference = 0
  run = 1
  split = 0
  penalties = 0
  private resting = REST_S / 2
  private shifting = 0
  private readonly bestSplits: number[] = []
  private readonly splits: number[] = []
  private readonly random: () => number

  constructor(seed: number) {
    this.random = randomFrom(seed)
  }

  get runs(): number {
    return this.seat.session === 'timed run' ? TIMED_RUNS : 0
  }

  /** One step of the model, in seconds. */
  step(dt: number): void {
    this.time += dt
    this.drive(dt)
    this.move(dt)
    this.warm(dt)
    this.keepTime(dt)
  }

  /** What its driver does, and in place of that what a hand does. */
  private drive(dt: number): void {
    const { seat } = this
    const recce = seat.session === 'recce'
    const stands = this.resting > 0
    const goal = stands ? 0 : Math.min(recce ? 16 : 75, fastestAt(this.position, 8.4, 6.2))
    const off = goal - this.speed
    const wanted = stands ? 0 : clamp(off * 0.35 + gradientAt(this.position) * 3, 0, recce ? 0.6 : 1)
    this.shift(dt, stands)
    const pedal = this.shifting > 0 ? 0 : wanted
    this.throttle = seat.throttle ?? toward(this.throttle, pedal, 14, dt)
    this.brake = seat.brake ?? toward(this.brake, stands ? 1 : clamp(-off * 0.28, 0, 1), 18, dt)
    const launching = this.speed < 4 && this.gear !== 0
    const foot = this.shifting > 0 || stands ? 1 : launching ? clamp(1 - this.speed / 4, 0, 0.75) : 0
    this.clutch = seat.clutch ?? toward(this.clutch, foot, 20, dt)
    const bend = bendAt(this.position + this.speed * 0.25)
    this.steering = seat.steering ?? toward(this.steering, clamp(bend * 16, -1, 1), 8, dt)
    this.handbrake = toward(this.handbrake, seat.handbrake || stands ? 1 : 0, 10, dt)
  }

  private shift(dt: number, stands: boolean): void {
    this.shifting = Math.max(0, this.shifting - dt)
    if (this.seat.gear !== null) {
      if (this.gear !== this.seat.gear) this.shifting = SHIFT_S
      this.gear = this.seat.gear
      return
    }
    if (stands) this.gear = this.resting < 1.5 ? 1 : 0
    if (stands || this.shifting > 0) return
    // By what the wheels would turn the engine at: while the clutch is down the engine itself says nothing.
    if (this.gear < 1) this.change(1)
    else if (this.rpmIn(this.gear) > UP_AT && this.gear < 6) this.change(this.gear + 1)
    else if (this.gear > 1 && this.rpmIn(this.gear) < DOWN_AT && this.rpmIn(this.gear - 1) < UP_AT - 600)
      this.change(this.gear - 1)
  }

  /** How fast the wheels would turn the engine in a gear, 1/min. */
  private rpmIn(gear: number): number {
    return (Math.abs((this.speed / WHEEL_M) * (RATIOS[gear] ?? 0) * FINAL) * 30) / Math.PI
  }

  private change(gear: number): void {
    this.gear = gear
    this.shifting = SHIFT_S
  }

  private move(dt: number): void {
    const ratio = (RATIOS[this.gear] ?? 0) * FINAL
    const grips = (1 - this.clutch) * (ratio === 0 ? 0 : 1)
    const coupled = this.rpmIn(this.gear)
    const free = IDLE + this.throttle * (LIMIT + 300 - IDLE)
    this.rpm = clamp(
      toward(
        this.rpm,
        grips > 0.9 ? Math.max(IDLE, coupled) : Math.max(coupled * grips, free * (1 - 0.5 * grips)),
        grips > 0.9 ? 30 : 7,
        dt,
      ),
      0,
      LIMIT + 60,
    )
    this.limiting = this.rpm >= LIMIT
    const torque = this.limiting
      ? 0
      : torqueAt(this.rpm) * this.throttle - (1 - this.throttle) * this.rpm * 0.008
    const push = (torque * ratio * (0.25 + 0.75 * grips) * (grips > 0.02 ? 1 : 0)) / WHEEL_M
    const traction = MASS_KG * G * 0.92
    const spin = clamp((Math.abs(push) - traction * 0.72) / traction, 0, 0.6)
    const drive = clamp(push, -traction, traction) * (1 - 0.4 * spin)
    const slope = MASS_KG * G * gradientAt(this.position)
    const drag = 0.62 * this.speed * Math.abs(this.speed) + 190 * Math.sign(this.speed)
    const brakes = (this.brake * 13_500 + this.handbrake * 5200) * Math.sign(this.speed)
    const by = (drive - slope - drag - brakes) / MASS_KG
    const before = this.speed
    let next = before + by * dt
    // Brakes hold; they do not push back.
    const held = this.brake * 13_500 + this.handbrake * 5200 > Math.abs(drive - slope)
    if (held && (Math.sign(next) !== Math.sign(before) || Math.abs(next) < 0.05)) next = 0
    if (this.gear >= 0 && next < 0) next = 0
    this.speed = clamp(next, -12, 88)
    const sideways = this.speed ** 2 * bendAt(this.position)
    const shake = () => (this.random() - 0.5) * clamp(this.speed / 30, 0, 1)
    this.acceleration = [
      toward(this.acceleration[0], sideways, 9, dt) + shake() * 0.6,
      toward(this.acceleration[1], (this.speed - before) / dt, 9, dt) + shake() * 0.5,
      G + shake() * 3,
    ]
    const skid = clamp((Math.abs(sideways) - 6) * 0.02, 0, 0.3)
    this.slip = four(0).map((_, i) =>
      toward(this.slip[i] as number, spin * (i > 1 ? 1 : 0.6) + skid, 12, dt),
    ) as typeof this.slip
    this.wheels = this.slip.map((s) => this.speed * (1 + s)) as typeof this.wheels
    this.suspension = this.suspension.map((s, i) => {
      const lean = (i % 2 === 0 ? 1 : -1) * sideways * 0.003 + (i < 2 ? -1 : 1) * by * 0.002
      return clamp(toward(s, 0.08 + lean, 14, dt) + shake() * 0.01, 0, 0.22)
    }) as typeof this.suspension
    this.boost = toward(this.boost, this.throttle * clamp((this.rpm - 2500) / 3000, 0, 1) * 1.6, 5, dt)
    this.flow = this.throttle * torqueAt(this.rpm) * this.rpm * 1.9e-5 + 2.2
    this.fuel = Math.max(0, this.fuel - (this.flow * dt) / 3600)
    this.heading = (this.heading + this.speed * bendAt(this.position) * dt + 2 * Math.PI) % (2 * Math.PI)
    if (this.resting === 0 || this.seat.throttle !== null)
      this.position = clamp(this.position + this.speed * dt, 0, COURSE_M + 80)
  }

  private warm(dt: number): void {
    const load = this.throttle * (this.rpm / LIMIT)
    this.water = toward(this.water, 82 + 16 * load, 0.02, dt)
    this.oil = toward(this.oil, 78 + 34 * load, 0.015, dt)
    this.oilPressure = toward(this.oilPressure, 110 + this.rpm * 0.055 - (this.oil - 60) * 0.8, 6, dt)
    this.battery = toward(this.battery, this.rpm > 900 ? 13.9 - (this.seat.lights ? 0.25 : 0) : 12.3, 2, dt)
    this.tyres = this.tyres.map((t, i) =>
      toward(t, 34 + (this.slip[i] as number) * 240 + this.speed * 0.5, 0.05, dt),
    ) as typeof this.tyres
    this.pressures = this.tyres.map((t) => 172 + (t - 20) * 0.42) as typeof this.pressures
    this.discs = this.discs.map((d, i) =>
      toward(d, 55 + this.brake * this.speed * (i < 2 ? 22 : 14), this.brake > 0.05 ? 0.5 : 0.06, dt),
    ) as typeof this.discs
  }

  private keepTime(dt: number): void {
    if (this.resting > 0) {
      this.resting = Math.max(0, this.resting - dt)
      if (this.resting === 0) this.start()
      return
    }
    if (this.position >= COURSE_M) {
      this.finish()
      return
    }
    // Looking at the road is not timed.
    if (this.seat.session !== 'recce') this.clock += dt
    const passed = splitsPassed(this.position)
    if (passed === this.split) return
    this.split = passed
    this.splits[passed] = this.clock
    const best = this.bestSplits[passed]
    this.difference = best === undefined ? 0 : this.clock - best
  }

  private start(): void {
    this.clock = 0
    this.split = 0
    this.difference = 0
    this.splits.length = 0
  }

  private finish(): void {
    if (this.seat.session === 'timed run' && (this.best === 0 || this.clock < this.best)) {
      this.best = this.clock
      for (const [i, s] of this.splits.entries()) this.bestSplits[i] = s
    }
    this.run = this.runs > 0 && this.run >= this.runs ? 1 : this.run + 1
    this.position = 0
    this.speed = 0
    this.resting = REST_S
  }

  get altitude(): number {
    return altitudeAt(this.position)
  }

  get gradient(): number {
    return gradientAt(this.position)
  }

  get spins(): boolean {
    return this.slip.some((s) => s > 0.12)
  }
}

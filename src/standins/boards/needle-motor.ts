import type { Micros } from '../../core/units-of-measure'

/** A gauge motor that turns towards its goal at its own speed, from the stop it was driven against at start. */
export class NeedleMotor {
  tenths = 0
  private at: Micros | null = null

  constructor(
    private readonly travelTenths: number,
    private readonly tenthsPerS: number,
  ) {}

  step(goal: number, now: Micros): void {
    const seconds = this.at === null ? 0 : (now - this.at) / 1e6
    this.at = now
    const to = Math.min(this.travelTenths, Math.max(0, goal))
    const most = this.tenthsPerS * seconds
    const way = to - this.tenths
    this.tenths = Math.abs(way) <= most ? to : this.tenths + Math.sign(way) * most
  }
}

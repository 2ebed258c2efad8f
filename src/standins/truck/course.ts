/** Brant Ridge: a hill-climb of 5.4 km that gains 412 m, as a plan of bends and gradients. Lengths in metres. */
export const COURSE_M = 5400
const FOOT_M = 186
const SPLITS = [1400, 2900, 4300] as const

interface Stretch {
  readonly until: number
  /** Radius of the bend; 0 is straight, a negative one turns left. */
  readonly radius: number
  readonly gradient: number
}

/** Straight and bend by turns, from a few numbers that say where the road goes. */
const stretches: readonly Stretch[] = (() => {
  const plan: readonly (readonly [length: number, radius: number, gradient: number])[] = [
    [180, 0, 0.04],
    [90, 70, 0.06],
    [210, 0, 0.09],
    [60, -28, 0.08],
    [150, 0, 0.1],
    [70, 24, 0.07],
    [320, 0, 0.08],
    [120, -110, 0.06],
    [90, 60, 0.09],
    [260, 0, 0.1],
    [50, -14, 0.05],
    [160, 0, 0.11],
    [55, 15, 0.06],
    [420, 0, 0.05],
    [130, -90, 0.04],
    [140, 80, 0.07],
  ]
  const all: Stretch[] = []
  let at = 0
  for (let n = 0; at < COURSE_M; n++) {
    const [length, radius, gradient] = plan[n % plan.length] as (typeof plan)[number]
    at += length
    // The second time round the same bends go the other way.
    const way = Math.floor(n / plan.length) % 2 === 0 ? 1 : -1
    all.push({ until: at, radius: radius * way, gradient })
  }
  return all
})()

const stretchAt = (m: number): Stretch => stretches.find((s) => m < s.until) ?? (stretches.at(-1) as Stretch)

export const gradientAt = (m: number): number => stretchAt(m).gradient

/** How sharply the road bends, 1/m: to the right where it is more than 0. */
export const bendAt = (m: number): number => {
  const { radius } = stretchAt(m)
  return radius === 0 ? 0 : 1 / radius
}

export const splitsPassed = (m: number): number => SPLITS.filter((s) => m >= s).length

/** Height above the sea, m. */
export const altitudeAt = (m: number): number => {
  let height = FOOT_M
  let from = 0
  for (const s of stretches) {
    height += (Math.min(m, s.until) - from) * s.gradient
    if (m <= s.until) break
    from = s.until
  }
  return height
}

/** What a bend allows, m/s, with so much grip (m/s²). */
const allowed = (m: number, grip: number): number => {
  const bend = Math.abs(bendAt(m))
  return bend === 0 ? 75 : Math.sqrt(grip / bend)
}

/** How fast one may be here, so that one can still slow down for whatever comes, m/s. */
export const fastestAt = (m: number, grip: number, braking: number): number => {
  let least = allowed(m, grip)
  for (let ahead = 10; ahead <= 240; ahead += 10)
    least = Math.min(least, Math.sqrt(allowed(m + ahead, grip) ** 2 + 2 * braking * ahead))
  return least
}

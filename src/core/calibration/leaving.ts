/** So many samples are taken together, and so many means at most say where it stood: whoever creeps away is not followed. */
const MEANT = 64
const MOST_MEANS = 16

/**
 * Tells whether what is measured has left the place where it stood, so that standing on is no answer to the next question.
 * Where it stands when it is first looked at is no answer either. By means of samples: what only trembles has not left.
 */
export class Leaving {
  /** Whether it has been elsewhere since it last stood somewhere. */
  hasLeft = false
  private stood: number | null = null
  /** How many means the place where it stood is known by. */
  private means = 0
  private sum = 0
  private count = 0

  /** A sample; further from where it stood than `apart` it has left. */
  take(level: number, apart: number): void {
    this.sum += level
    if (++this.count < MEANT) return
    const mean = this.sum / MEANT
    this.sum = 0
    this.count = 0
    if (this.stood !== null && Math.abs(mean - this.stood) > apart) this.hasLeft = true
    this.stood ??= mean
    if (!this.hasLeft && this.means < MOST_MEANS) this.stood += (mean - this.stood) / ++this.means
  }

  /** It rests here, known by so many samples, and has given its answer. */
  standsAt(level: number, samples: number): void {
    this.stood = level
    this.means = Math.max(1, Math.round(samples / MEANT))
    this.hasLeft = false
    this.sum = 0
    this.count = 0
  }
}

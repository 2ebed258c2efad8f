/** How often is looked what is plugged in. */
const LOOK_MS = 800

/** Looks again and again while it is open; what one look cannot tell, the next one may. */
export class Looking {
  private timer: NodeJS.Timeout | null = null

  constructor(private readonly lookNow: () => Promise<void>) {}

  open(): void {
    const again = async () => {
      await this.lookNow().catch(() => {})
      if (this.timer) this.timer = setTimeout(again, LOOK_MS)
    }
    this.timer = setTimeout(again, 0)
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
  }
}

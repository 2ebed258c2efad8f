import type { Touched } from '../../core/elements/touch'
import { screenNamed } from '../../core/screens/content'
import type { Hub } from '../hub'

/** The fingers on one device: they reach the elements of its own screen, and let go when it goes. */
export class Fingers {
  private readonly pressed = new Set<string>()

  constructor(
    private readonly hub: Hub,
    private readonly name: string,
  ) {}

  /** A finger on an element; why that does nothing, or null. */
  touch(elementId: string, by: Touched): string | null {
    const { rig } = this.hub.engine
    const screen = screenNamed(rig, this.name)
    if (!screen || rig.element[elementId]?.screenId !== screen.id) return 'it does not lie on this screen'
    if ('press' in by) {
      if (by.press) this.pressed.add(elementId)
      else this.pressed.delete(elementId)
    }
    return this.hub.touch(elementId, by)
  }

  letGo(): void {
    for (const id of this.pressed) this.hub.touch(id, { press: false })
    this.pressed.clear()
  }
}

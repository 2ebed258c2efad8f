/** The regions of the page in the order in which F6 leads through them. */
const regions = [
  '#surface',
  'aside[aria-label="Drawer"], [data-region="drawer"]',
  'aside[aria-label="Inspector"]',
  '#strip',
  'header',
  'nav[aria-label="Views"]',
]

const isShown = (e: Element): boolean => e.getClientRects().length > 0

const first = (region: Element): HTMLElement | null =>
  [...region.querySelectorAll<HTMLElement>('button, a[href], input, select, textarea, [tabindex="0"]')].find(
    (e) => isShown(e) && !(e as HTMLButtonElement).disabled,
  ) ?? null

/** Leads the keyboard to the next region, or back to the one before: surface, drawer, inspector, strip, status, views. */
export const nextRegion = (by: 1 | -1): void => {
  const there = regions.flatMap((r) => {
    const found = [...document.querySelectorAll(r)].find(isShown)
    return found ? [found] : []
  })
  if (there.length === 0) return
  const { activeElement } = document
  // The innermost one that has the focus: a drawer lies within the surface.
  const now = there.reduce(
    (at, r, i) => (r.contains(activeElement) && (at < 0 || there[at]?.contains(r)) ? i : at),
    -1,
  )
  const next = there[(now + by + there.length) % there.length] as HTMLElement
  const target = first(next) ?? next
  target.focus()
}

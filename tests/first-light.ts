import type { Bench } from './browser'

export const LIGHT = 'section[aria-label="First light"]'
const PLATE = '[role="application"] svg[aria-label^="Panel"]'
/** What the lamp shows and the button changes. */
export const LIT_BY = 'elec.battery.switch'

/**
 * Goes where the steps to a first light lead, from an empty rig until it is armed, by what each offers: a button and a lamp
 * are put on a panel, wired, loaded and bound to the battery switch. `board` gets one, where there is none yet.
 */
export const followToLight = async (
  bench: Bench,
  board?: (next: (label: string) => Promise<void>) => Promise<void>,
): Promise<void> => {
  const next = async (label: string): Promise<void> => {
    await bench.sees(label, LIGHT)
    await bench.clickWords(label, `${LIGHT} button`)
  }
  const onPlate = async (share: number): Promise<void> => {
    await bench.sees('Click on the plate', LIGHT)
    await bench.page.waitForSelector(PLATE)
    const { x, y, width, height } = await bench.middleOf(PLATE)
    await bench.page.mouse.click(x + width * share, y - height * 0.1)
  }
  await next('New panel')
  await onPlate(-0.2)
  await next('Put a lamp down')
  await onPlate(0.1)
  await board?.(next)
  await next('Assign pins')
  await bench.clickWords('Take it')
  await next('Load the board')
  for (const what of ['control', 'lamp']) {
    await next(`Bind the ${what}`)
    await bench.click(`[role="option"][data-name="${LIT_BY}"]`)
  }
  await next('Arm, and work it in Mirror')
}

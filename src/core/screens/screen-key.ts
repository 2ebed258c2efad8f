import type { ElementProperty } from '../elements/element-kind'

/** A property of an element of a screen that follows a value; `page` of the screen itself stands for the page that is shown. */
export type ScreenProperty = ElementProperty | 'page'

/** By this a value of a screen is told: the element's id and the property, or an empty id for the screen's own page. */
export const screenKey = (elementId: string, property: ScreenProperty): string => `${elementId} ${property}`

export const PAGE_KEY = screenKey('', 'page')

/** A key taken apart again: ids may hold anything but what stands behind their last space. */
export const partsOfKey = (key: string): readonly [elementId: string, property: ScreenProperty] => {
  const end = key.lastIndexOf(' ')
  return [key.slice(0, end), key.slice(end + 1) as ScreenProperty]
}

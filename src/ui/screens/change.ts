import type { ElementProperty, Followed } from '@/core/elements/element-kind'
import type { ElementSettings } from '@/core/elements/elements'
import { type Change, changeRow } from '@/core/rig/edit'
import type { ElementRow, ScreenRow } from '@/core/rig/rows'
import { edit } from '../live/edits'

/** The change of an element's settings; what becomes undefined goes. */
export const withSettings = (row: ElementRow, to: object): Change | null => {
  const settings = Object.fromEntries(
    Object.entries({ ...row.settings, ...to }).filter(([, v]) => v !== undefined),
  ) as ElementSettings
  return changeRow('element', row, { ...row, settings })
}

export const changeElement = (row: ElementRow, sentence: string, to: object): void =>
  edit(sentence, [withSettings(row, to)])

export const changeScreen = (row: ScreenRow, sentence: string, to: Partial<ScreenRow>): void =>
  edit(sentence, [changeRow('screen', row, { ...row, ...to })])

export const changeScreenSettings = (
  row: ScreenRow,
  sentence: string,
  to: Partial<ScreenRow['settings']>,
): void => changeScreen(row, sentence, { settings: { ...row.settings, ...to } })

/** Lets a property follow something, or, with null, nothing any more. */
export const follow = (row: ElementRow, property: ElementProperty, followed: Followed | null): void => {
  const { [property]: _, ...others } = row.settings.follows
  changeElement(
    row,
    followed === null
      ? `“${row.name}”: ${property} follows nothing any more`
      : `“${row.name}”: ${property} follows ${followed.variable ?? 'an expression'}`,
    { follows: followed === null ? others : { ...others, [property]: followed } },
  )
}

const KEPT = 'clavik.theme'

/** Day or night, as it was left; day at first. */
export const restoreTheme = (): void => {
  document.documentElement.dataset.theme = localStorage.getItem(KEPT) === 'night' ? 'night' : 'day'
}

export const flipTheme = (): void => {
  const next = document.documentElement.dataset.theme === 'night' ? 'day' : 'night'
  document.documentElement.dataset.theme = next
  localStorage.setItem(KEPT, next)
}

/** What was typed is taken: keys are for the view again. */
export const leaveField = (): void => {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
}

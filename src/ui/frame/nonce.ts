import { setNonce } from 'get-nonce'

/** The nonce of this page, which its styles need as much as its scripts; empty where there is no page. */
export const pageNonce = (): string =>
  typeof document === 'undefined' ? '' : (document.querySelector<HTMLElement>('script[nonce]')?.nonce ?? '')

/** Tells it to the dialogs: while one is open they keep the page from scrolling by a style of their own. */
export const spreadNonce = (): void => setNonce(pageNonce())

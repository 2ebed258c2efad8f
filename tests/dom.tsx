import { act, type ReactNode } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, vi } from 'vitest'

/** A page of a DOM emulator for one component, and hands on it. */
export interface Drawn {
  readonly page: HTMLElement
  readonly draw: (children: ReactNode) => Promise<void>
  readonly type: (field: HTMLInputElement, text: string) => Promise<void>
  readonly press: (on: Element, key: string) => Promise<void>
  readonly click: (on: Element | null) => Promise<void>
}

/** Makes a fresh page before each test of a file, and takes it away afterwards. */
export const useDom = (): Drawn => {
  let root: Root
  const drawn = {
    page: null as unknown as HTMLElement,
    draw: async (children: ReactNode) => {
      await act(async () => root.render(children))
    },
    type: async (field: HTMLInputElement, text: string) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set
      await act(async () => {
        set?.call(field, text)
        field.dispatchEvent(new Event('input', { bubbles: true }))
      })
    },
    press: async (on: Element, key: string) => {
      await act(async () => {
        on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
      })
    },
    click: async (on: Element | null) => {
      await act(async () => (on as HTMLElement | null)?.click())
    },
  }
  beforeEach(() => {
    vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true)
    drawn.page = document.createElement('div')
    document.body.append(drawn.page)
    root = createRoot(drawn.page)
  })
  afterEach(() => {
    act(() => root.unmount())
    drawn.page.remove()
    vi.restoreAllMocks()
    vi.unstubAllGlobals()
  })
  return drawn
}

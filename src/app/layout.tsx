import type { Metadata } from 'next'
import type { ReactNode } from 'react'
import { Frame } from '@/ui/frame/frame'
import './globals.css'

export const metadata: Metadata = {
  title: 'Clavik',
  description: 'Panels, wires and bindings of a home cockpit, live.',
}

const Layout = ({ children }: { children: ReactNode }) => (
  <html lang="en" data-theme="day" suppressHydrationWarning>
    <body>
      <Frame>{children}</Frame>
    </body>
  </html>
)

export default Layout

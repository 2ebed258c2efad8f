import type { Metadata } from 'next'
import { connection } from 'next/server'
import type { ReactNode } from 'react'
import './globals.css'

export const metadata: Metadata = {
  title: 'Clavik',
  description: 'Panels, wires and bindings of a home cockpit, live.',
}

/** Made anew for each asking: its scripts carry a nonce that no other page has. */
const Layout = async ({ children }: { children: ReactNode }) => {
  await connection()
  return (
    <html lang="en" data-theme="day" suppressHydrationWarning>
      <body>{children}</body>
    </html>
  )
}

export default Layout

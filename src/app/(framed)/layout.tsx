import type { ReactNode } from 'react'
import { Frame } from '@/ui/frame/frame'

/** Views within the frame. Windows that stand alone lie beside this folder. */
const Layout = ({ children }: { children: ReactNode }) => <Frame>{children}</Frame>

export default Layout

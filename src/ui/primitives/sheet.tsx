import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

/** A sheet over everything else, in the middle near the top, until it is put away. */
export const Sheet = ({
  title,
  titleShown,
  className,
  open,
  setOpen,
  children,
}: {
  title: string
  titleShown: boolean
  className: string
  open: boolean
  setOpen: (open: boolean) => void
  children: ReactNode
}) => (
  <Dialog.Root open={open} onOpenChange={setOpen}>
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
      <Dialog.Content
        aria-describedby={undefined}
        className={`popover fixed top-[72px] left-1/2 -translate-x-1/2 ${className}`}
      >
        <Dialog.Title className={titleShown ? 'mb-2 text-[15px] font-bold' : 'sr-only'}>{title}</Dialog.Title>
        {children}
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
)

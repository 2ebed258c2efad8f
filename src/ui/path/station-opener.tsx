'use client'
import { Popover } from 'radix-ui'
import { type ReactNode, useCallback, useEffect, useState } from 'react'
import type { Station } from '@/core/engine/mistakes'
import type { TraceRow } from '@/core/engine/trace-row'
import type { PartRow } from '@/core/rig/rows'
import { StationEditor } from '../editors/station-editor'
import { useStore } from '../live/store'

/** Escape first puts away the names that are offered, and only then the editor. */
const keepWhileCompleting = (e: KeyboardEvent): void => {
  if (document.querySelector('.cm-tooltip-autocomplete')) e.preventDefault()
}

/** A station's button, given as the child, with its editor above it; also opened from elsewhere, by the station's name. */
export const StationOpener = ({
  part,
  row,
  station,
  answersTo,
  label,
  takesOpening,
  children,
}: {
  part: PartRow
  row: TraceRow
  station: Station
  /** The station that stands in this one's cell too. */
  answersTo?: Station
  label: string
  takesOpening: boolean
  children: ReactNode
}) => {
  const opening = useStore((s) => s.opening)
  const [open, setOpen] = useState(false)
  const close = useCallback(() => setOpen(false), [])
  useEffect(() => {
    if (!takesOpening || opening?.partId !== part.id) return
    if (opening.station !== station && opening.station !== answersTo) return
    setOpen(true)
    useStore.setState({ opening: null })
  }, [opening, part.id, station, answersTo, takesOpening])
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          sideOffset={4}
          collisionPadding={8}
          className="popover overflow-y-auto"
          style={{ maxHeight: 'var(--radix-popover-content-available-height)' }}
          aria-label={`Edit ${label}`}
          onEscapeKeyDown={keepWhileCompleting}
        >
          <StationEditor
            part={part}
            aspectId={row.aspectId}
            bindingId={row.bindingId}
            station={station}
            close={close}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

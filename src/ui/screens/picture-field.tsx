'use client'
import { readPicture } from '@/core/elements/picture-data'
import { addRow, changeRow } from '@/core/rig/edit'
import { rowsOf } from '@/core/rig/rig'
import type { ElementRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { withSettings } from './change'

/** The picture that an element shows: one of its screen, or one that is brought in. */
export const PictureField = ({ row }: { row: ElementRow }) => {
  const rig = useStore((s) => s.rig)
  if (row.settings.kind !== 'picture') return null
  const own = rowsOf(rig, 'picture').filter((p) => p.screenId === row.screenId)
  const bring = async (file: File) => {
    const read = readPicture(new Uint8Array(await file.arrayBuffer()))
    if ('problem' in read) {
      notify(`${file.name} is not taken: ${read.problem}. Nothing was changed.`)
      return
    }
    const id = crypto.randomUUID()
    const name = file.name.slice(0, 120) || 'Picture'
    // As large as it is, where that has room.
    const by = Math.min(1, 400 / Math.max(read.width, read.height))
    edit(`Brought the picture ${name} in`, [
      addRow('picture', { id, screenId: row.screenId, name, settings: read }),
      changeRow('element', row, {
        ...row,
        width: Math.max(1, Math.round(read.width * by)),
        height: Math.max(1, Math.round(read.height * by)),
        settings: { ...row.settings, picture: id } as ElementRow['settings'],
      }),
    ])
  }
  return (
    <div className="flex flex-col gap-1.5">
      {own.length > 0 && (
        <select
          aria-label="Picture"
          value={row.settings.picture ?? ''}
          onChange={(e) =>
            edit(`Changed the picture of “${row.name}”`, [
              withSettings(row, { picture: e.target.value || null }),
            ])
          }
        >
          <option value="">none</option>
          {own.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      )}
      <FileButton
        words="Bring a picture in …"
        label="SVG or PNG picture"
        accept=".svg,.png,image/svg+xml,image/png"
        take={(file) => void bring(file)}
      />
    </div>
  )
}

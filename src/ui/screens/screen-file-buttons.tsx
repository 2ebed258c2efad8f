'use client'
import type { Rig } from '@/core/rig/rig'
import type { ScreenRow } from '@/core/rig/rows'
import { contentOf } from '@/core/screens/content'
import { MOST_SCREEN_BYTES, readScreenFile, writeScreenFile } from '@/core/screens/screen-file'
import { edit } from '../live/edits'
import { notify } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { fileName, saveFile } from '../primitives/save-file'
import { useScreens } from './screens-store'

/** Brings a screen in from a file, under a name that is free. */
export const BringScreen = ({ rig }: { rig: Rig }) => (
  <FileButton
    words="Bring a screen in …"
    label="Screen file"
    accept=".json,application/json"
    mostBytes={MOST_SCREEN_BYTES}
    take={async (file) => {
      const read = readScreenFile(await file.text(), rig, () => crypto.randomUUID())
      if ('problem' in read) {
        notify(`${file.name}: ${read.problem}`)
        return
      }
      edit(`Brought a screen in from ${file.name}`, read.diff)
      useScreens.setState({ screenId: read.screenId, pageId: null })
    }}
  />
)

/** Takes a screen away as one file, with its pictures. */
export const TakeScreen = ({ rig, screen }: { rig: Rig; screen: ScreenRow }) => (
  <button
    type="button"
    className="btn"
    onClick={() => {
      const content = contentOf(rig, screen.id)
      if (content)
        saveFile(`${fileName(screen.name)}.screen.json`, writeScreenFile(content), 'application/json')
    }}
  >
    Save as a file
  </button>
)

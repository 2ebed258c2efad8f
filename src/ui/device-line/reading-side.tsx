'use client'
import { useMemo, useState } from 'react'
import { cppSketch } from '@/core/device-line/sketch-cpp'
import { pythonSketch } from '@/core/device-line/sketch-python'
import { notify } from '../live/store'
import { saveFile } from '../primitives/save-file'
import { Segments } from '../primitives/segments'
import type { WithDescription } from './device-edit'

/** The languages in which the reading side is written. */
const languages = {
  cpp: { words: 'C++', write: cppSketch, file: 'clavik_reader.h' },
  python: { words: 'Python', write: pythonSketch, file: 'clavik_reader.py' },
} as const
type Language = keyof typeof languages
const words = { cpp: languages.cpp.words, python: languages.python.words }

/** The program that reads at the device what goes out here, made of the same description. */
export const ReadingSide = ({ row }: { row: WithDescription }) => {
  const [language, setLanguage] = useState<Language>('cpp')
  const { description } = row.settings
  const { write, file } = languages[language]
  const text = useMemo(() => write(description, row.name), [write, description, row.name])
  const copy = () =>
    navigator.clipboard.writeText(text).then(
      () => notify('The reading side is on the clipboard.', 'plain'),
      () => notify('The browser does not give the clipboard away; save it instead.'),
    )
  const save = () => saveFile(file, text)
  return (
    <section aria-label="The reading side" className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-2 pb-1">
        <h3 className="font-bold">Reads it there</h3>
        <Segments label="Language" words={words} is={language} choose={setLanguage} />
        <span className="ml-auto flex gap-1.5">
          <button type="button" className="btn" onClick={() => void copy()}>
            Copy
          </button>
          <button type="button" className="btn" onClick={save}>
            Save as {file}
          </button>
        </span>
      </div>
      <pre
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
        tabIndex={0}
        className="mono min-h-0 flex-1 overflow-auto border border-line bg-sheet p-2 text-[11px] leading-[15px]"
      >
        {text}
      </pre>
    </section>
  )
}

'use client'
import { autocompletion, completionStatus, startCompletion } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { forceLinting, linter } from '@codemirror/lint'
import { EditorState, Prec } from '@codemirror/state'
import { EditorView, keymap, placeholder, tooltips } from '@codemirror/view'
import { useEffect, useId, useMemo, useRef, useState } from 'react'
import type { BindingRow } from '@/core/rig/rows'
import { type Mistake, mistakeIn, type Wanted } from '@/core/signal/expression/compile'
import { pageNonce } from '../frame/nonce'
import { watchAll } from '../live/connection'
import { useStore } from '../live/store'
import { completeFrom, completionsFor } from './complete-names'
import { placeOf, resultNow, type Use } from './expression-scope'

const EVERY_MS = 250
const EDGE_PX = 8

/** Where the names that are offered may lie. */
const windowInside = () => ({
  ...{ top: EDGE_PX, left: EDGE_PX },
  ...{ right: window.innerWidth - EDGE_PX, bottom: window.innerHeight - EDGE_PX },
})

/** One line, however it was pasted. */
const oneLine = EditorState.transactionFilter.of((tr) =>
  tr.newDoc.lines > 1
    ? [
        tr,
        {
          changes: { from: 0, to: tr.newDoc.length, insert: tr.newDoc.toString().replace(/\s*\n\s*/g, ' ') },
          sequential: true,
        },
      ]
    : tr,
)

/** An expression to be typed: names are completed, mistakes pointed at, the result shown live; taken with Enter. */
export const ExpressionField = ({
  binding,
  use,
  label,
  value,
  emptyMeans,
  focus = true,
  wanted,
  take,
}: {
  binding: BindingRow
  use: Use
  label: string
  value: string
  /** What an empty field stands for, or null when it may not be empty. */
  emptyMeans: string | null
  focus?: boolean
  /** What shaping has to give, where that is not for its binding to say. */
  wanted?: Wanted
  take: (text: string | null) => void
}) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const [text, setText] = useState(value)
  const box = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView | null>(null)
  const helpId = useId()
  useEffect(() => watchAll(), [])

  const mistakeOf = useMemo(() => {
    const place = placeOf(rig, index, binding, use, undefined, wanted)
    return (source: string): Mistake | null =>
      source.trim() === '' && emptyMeans !== null ? null : mistakeIn(source, place.scope, place.wanted)
  }, [rig, index, binding, use, emptyMeans, wanted])
  const mistake = mistakeOf(text)
  const changed = text !== value
  const ready = mistake === null && changed
  const takeNow = () => take(text.trim() === '' ? null : text.trim())

  // The editor outlives renders; what it calls is always the newest.
  const now = useRef({ mistakeOf, ready, takeNow, rig, index })
  now.current = { mistakeOf, ready, takeNow, rig, index }

  useEffect(() => {
    const parent = box.current
    if (!parent) return
    const editor = new EditorView({
      parent,
      state: EditorState.create({
        doc: value,
        extensions: [
          oneLine,
          history(),
          Prec.high(
            keymap.of([
              {
                key: 'Enter',
                run: (v) => {
                  if (completionStatus(v.state) === 'active') return false
                  if (now.current.ready) now.current.takeNow()
                  return true
                },
              },
            ]),
          ),
          keymap.of([...historyKeymap, ...defaultKeymap]),
          autocompletion({
            override: [
              completeFrom(() => completionsFor(now.current.rig, now.current.index, use === 'shaping')),
            ],
            icons: false,
          }),
          linter(
            (v) => {
              const found = now.current.mistakeOf(v.state.doc.toString())
              if (!found) return []
              const length = v.state.doc.length
              const from = Math.min(found.span.start, Math.max(0, length - 1))
              return [
                {
                  from,
                  to: Math.min(length, Math.max(from + 1, found.span.end)),
                  severity: 'error',
                  message: found.message,
                },
              ]
            },
            { delay: 60, tooltipFilter: () => [] },
          ),
          tooltips({ tooltipSpace: windowInside }),
          placeholder(emptyMeans ?? ''),
          EditorView.cspNonce.of(pageNonce()),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({
            'aria-label': label,
            'aria-describedby': helpId,
            spellcheck: 'false',
          }),
          EditorView.updateListener.of((u) => {
            if (u.docChanged) setText(u.state.doc.toString())
          }),
        ],
      }),
    })
    view.current = editor
    if (focus) {
      editor.focus()
      editor.dispatch({ selection: { anchor: editor.state.doc.length } })
    }
    return () => editor.destroy()
    // The editor keeps its own text; only another binding or use makes a new one.
  }, [binding.id, use, label, helpId, emptyMeans, focus])

  // A value changed elsewhere, by a step or another tab, replaces what stands here.
  useEffect(() => {
    const editor = view.current
    if (!editor || editor.state.doc.toString() === value) return
    editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } })
    forceLinting(editor)
  }, [value])

  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-start gap-1.5">
        <div
          ref={box}
          className="expression min-w-0 flex-1"
          data-expression={label}
          data-sound={mistake === null}
        />
        <button
          type="button"
          className="btn"
          title="Names that can stand here (Ctrl Space)"
          onClick={() => {
            view.current?.focus()
            if (view.current) startCompletion(view.current)
          }}
        >
          Names
        </button>
      </div>
      <div id={helpId} aria-live="polite" className="flex min-h-[24px] items-center gap-2 text-[12px]">
        {mistake ? (
          <span className="text-fault">{mistake.message}</span>
        ) : (
          <>
            {changed && (
              <button type="button" className="btn shrink-0" onClick={takeNow}>
                Take it <span className="key">Enter</span>
              </button>
            )}
            <LiveResult text={text} binding={binding} use={use} wanted={wanted} />
          </>
        )}
      </div>
    </div>
  )
}

/** What the expression gives with the values of this moment. */
const LiveResult = ({
  text,
  binding,
  use,
  wanted,
}: {
  text: string
  binding: BindingRow
  use: Use
  wanted: Wanted | undefined
}) => {
  const [, tick] = useState(0)
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), EVERY_MS)
    return () => clearInterval(timer)
  }, [])
  if (text.trim() === '') return null
  let result: string
  try {
    result = resultNow(text, binding, use, wanted)
  } catch {
    return null
  }
  return (
    <span className="min-w-0 truncate text-ink2">
      gives now{' '}
      <b className="mono font-medium text-live" data-result>
        {result}
      </b>
    </span>
  )
}

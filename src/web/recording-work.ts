import { parentPort } from 'node:worker_threads'
import { differences, Example } from '../core/recording/example'
import { FileRefused } from '../core/recording/files/file-refused'
import { type RecordingFormat, recordingFormats } from '../core/recording/files/formats'
import { passagesOf } from '../core/recording/files/passages'
import { RecordingFileReader } from '../core/recording/files/read-file'
import { writerOf } from '../core/recording/files/write'
import { packSeries } from '../core/recording/packed-series'
import { Scene } from '../core/recording/reel'
import { SeriesOf } from '../core/recording/series-of'
import type { AskedOfWork, SaidByWork } from '../core/recording/work'
import { type Database, databaseTrouble, openDatabase } from '../store/database'
import {
  blocksOf,
  importRecording,
  keepExpected,
  type OpenedRecording,
  openRecording,
} from '../store/recording-store'
import { loadRig } from '../store/rig-store'

/*
 * Runs beside the web process: recordings are read from files and written to them here, and played with a rig. Whatever
 * comes in pieces goes on when the next one is asked for.
 */

const say = (said: SaidByWork) => parentPort?.postMessage(said)
const db = openDatabase(process.env.CLAVIK_DATABASE_URL ?? '')

class Refused extends Error {}

/** Pieces that come in, each asked for; null is the end. */
const pieces = (): (() => Promise<Uint8Array | null>) => {
  const waiting: ((piece: Uint8Array | null) => void)[] = []
  parentPort?.on('message', (m: AskedOfWork) => {
    if (m.do === 'piece') waiting.shift()?.(m.bytes)
  })
  return () =>
    new Promise((resolve) => {
      waiting.push(resolve)
      say({ say: 'more' })
    })
}

const opened = async (id: string): Promise<OpenedRecording> => {
  const recording = await openRecording(db, id)
  if (!recording) throw new Refused('There is no such recording any more.')
  return recording
}

const take = async (id: string, rigId: string, name: string): Promise<SaidByWork> => {
  const next = pieces()
  const reader = new RecordingFileReader(name)
  const decoder = new TextDecoder()
  for (let piece = await next(); piece !== null; piece = await next())
    reader.push(decoder.decode(piece, { stream: true }))
  reader.push(decoder.decode())
  const file = reader.end()
  await importRecording(db, { id, rigId, name: file.name, sources: file.head.sources }, file)
  return { say: 'done', odd: file.odd }
}

const write = async (id: string, format: RecordingFormat): Promise<SaidByWork> => {
  const recording = await opened(id)
  const { name, head, from, until } = recording
  const { type, ending } = recordingFormats[format]
  const next = pieces()
  say({ say: 'file', type, name: `${name}.${ending}` })
  const scene = new Scene(head.sources)
  const { begin, passages, end } = writerOf(format, name, head)
  const give = async (text: string) => {
    if ((await next()) === null) throw new Refused('It was not wanted any more.')
    say({ say: 'text', text })
  }
  await give(begin())
  let isFirst = true
  for await (const block of blocksOf(db, recording)) {
    await give(passages(passagesOf(scene, block, from, until, isFirst)))
    isFirst = false
  }
  await give(end(until - from))
  return { say: 'done', odd: [] }
}

/** What the open rig shows with a recording. */
const played = async (recording: OpenedRecording) => {
  const loaded = await loadRig(db)
  if (!loaded) throw new Refused('There is no rig.')
  const example = new Example(recording.head, loaded.rig, recording.from, recording.until)
  for await (const block of blocksOf(db, recording)) example.play(block)
  return { example, revision: loaded.revision, rigId: loaded.id }
}

const keep = async (id: string): Promise<SaidByWork> => {
  const recording = await opened(id)
  const { example, revision, rigId } = await played(recording)
  if (rigId !== recording.rigId)
    throw new Refused('It was recorded with another rig than the one that is open.')
  await keepExpected(db, id, { shown: example.shown(), revision })
  return { say: 'done', odd: [] }
}

const compare = async (id: string): Promise<SaidByWork> => {
  const recording = await opened(id)
  if (!recording.expected) throw new Refused('It is not kept as an example.')
  const { example, revision } = await played(recording)
  const found = differences(recording.expected, example.shown(), example.engine)
  return { say: 'differences', differences: found, revision }
}

const series = async (id: string, names: readonly string[]): Promise<SaidByWork> => {
  const recording = await opened(id)
  const gathered = new SeriesOf(recording.head, names, recording.from, recording.until)
  for await (const block of blocksOf(db, recording)) gathered.play(block)
  return { say: 'series', packed: packSeries(gathered.done()) }
}

const work = (m: AskedOfWork): Promise<SaidByWork> | null => {
  switch (m.do) {
    case 'take':
      return take(m.id, m.rigId, m.name)
    case 'write':
      return write(m.id, m.format)
    case 'keep':
      return keep(m.id)
    case 'compare':
      return compare(m.id)
    case 'series':
      return series(m.id, m.names)
    case 'piece':
      return null
  }
}

const endWith = async (said: Promise<SaidByWork>, of: Database): Promise<void> => {
  try {
    say(await said)
  } catch (error) {
    const plain = error instanceof FileRefused || error instanceof Refused
    const trouble = databaseTrouble(error)
    const problem = plain
      ? error.message
      : trouble
        ? `${trouble}; nothing was changed.`
        : `It went wrong: ${(error as Error).message}.`
    say({ say: 'refused', problem })
  }
  await of.end()
}

parentPort?.once('message', (m: AskedOfWork) => {
  const said = work(m)
  if (said) void endWith(said, db)
})

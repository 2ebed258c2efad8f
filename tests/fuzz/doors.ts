import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { boardModel } from '../../src/core/catalogue/boards'
import { ownKindLike } from '../../src/core/catalogue/own-kind'
import { partKind } from '../../src/core/catalogue/parts'
import { readPicture } from '../../src/core/elements/picture-data'
import { Engine } from '../../src/core/engine/engine'
import { scopeFor } from '../../src/core/engine/scope'
import { wantedConfiguration } from '../../src/core/harness/configuration'
import { wireListCsv } from '../../src/core/harness/papers/csv'
import { readWireList } from '../../src/core/harness/papers/read-wire-list'
import { wireList } from '../../src/core/harness/papers/wire-list'
import { decodeConfiguration, encodeConfiguration } from '../../src/core/harness/slot'
import { parseOutside } from '../../src/core/plain-json'
import { decodeBlock, encodeBlock } from '../../src/core/recording/block'
import { FileRefused } from '../../src/core/recording/files/file-refused'
import { RecordingFileReader } from '../../src/core/recording/files/read-file'
import { Performance } from '../../src/core/recording/perform'
import { apply, conflicts, type Diff, invalidRows, invert, rebased } from '../../src/core/rig/edit'
import { diffSchema } from '../../src/core/rig/edit-schema'
import { readBoardFile, readPartFile, writeBoardFile, writePartFile } from '../../src/core/rig/own-file'
import { withWords } from '../../src/core/rig/own-words'
import { boardsOf } from '../../src/core/rig/rig'
import { readRigFile } from '../../src/core/rig/rig-file'
import { readWordsFile } from '../../src/core/rig/words-file'
import { contentOf, type ScreenContent } from '../../src/core/screens/content'
import { readScreenFile, writeScreenFile } from '../../src/core/screens/screen-file'
import { compile } from '../../src/core/signal/expression/compile'
import { ExpressionError } from '../../src/core/signal/expression/expression-error'
import { Doing } from '../../src/hub/doing'
import { Hub } from '../../src/hub/hub'
import { hearText } from '../../src/hub/live-server'
import { MemoryFile } from '../../src/hub/memory'
import { Tab } from '../../src/hub/tab'
import { boardEnd, hostEnd } from '../../src/links/board-link'
import { readerOfHands, readerOfPins } from '../../src/links/hand-link'
import { line, readerOfClavik, readerOfSimulator } from '../../src/links/simulator-link'
import { readCatalogue } from '../../src/links/told-catalogue'
import { MemoryShelf } from '../memory-shelf'
import { catalogue, craft, demoRig } from '../rigs'
import { damaged, damagedBytes, inPieces } from './damage'
import { readInThread } from './reader-thread'

/** Something that reads what comes from outside. `pass` throws, or breaks an expectation, when it is not up to it. */
export interface Door<T> {
  readonly name: string
  readonly input: fc.Arbitrary<T>
  readonly pass: (input: T) => void | Promise<void>
}

const door = <T>(d: Door<T>): Door<unknown> => d as unknown as Door<unknown>

const hold = (what: boolean, words: string): void => {
  if (!what) throw new Error(words)
}

const rig = demoRig()
const rigText = readFileSync(new URL('../../demo/skerry-12.rig.json', import.meta.url), 'utf8')
const screenText = writeScreenFile(contentOf(rig, 'fuel-page') as ScreenContent)
const json = (value: unknown) => JSON.stringify(value)
const part = Object.values(rig.part)[0]
const editSamples = [
  json([
    { op: 'change', table: 'part', id: part?.id, before: { name: part?.name }, after: { name: 'Other' } },
  ]),
  json([{ op: 'add', table: 'part', id: 'new', row: { ...part, id: 'new' } }]),
  json([
    { op: 'remove', table: 'binding', id: Object.keys(rig.binding)[0], row: Object.values(rig.binding)[0] },
  ]),
]

const recordingFiles = [
  [
    json({ clavik: 'recording', version: 1, name: 'A', armed: true, sources: [craft(catalogue)] }),
    json({
      t: 0,
      standing: { armed: true, up: [0], quiet: [], boards: [], controls: [] },
      values: { height: 1 },
    }),
    json({ t: 0.5, source: 0, told: 3, values: { height: 2, advice: 'Go' } }),
    json({ t: 0.6, is: 'report', partId: part?.id, aspectId: 'lever', value: 1 }),
    json({ t: 0.7, is: 'mark', words: 'Here', by: 'builder' }),
    json({ t: 12, source: 0, values: { height: null } }),
    json({ t: 13, end: true }),
    '',
  ].join('\n'),
  '{"t":1,"name":"a","value":2}\n{"time":2,"values":{"a":3,"b":true}}\n',
  'time (ms),height (ft),"a ""b"""\n0,1,on\n10,2.5,off\n20,,on\n',
  't;name;value;unit\n0;a;1,5;ft\n1:00;b;x;\n',
]
const keptBlock = ((): Uint8Array => {
  const reader = new RecordingFileReader('A')
  reader.push(recordingFiles[0] as string)
  const [block] = reader.end().blocks
  if (!block) throw new Error('there is a block')
  return encodeBlock(block)
})()

const own = partKind('button-10-grey')
const board = boardModel('atmega328p')
if (!own || !board) throw new Error('the catalogue has changed')

const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="60mm" viewBox="0 0 90 60">
<g id="cut" transform="translate(1 2) rotate(10)"><rect width="90" height="60" rx="3"/><circle cx="20" cy="20" r="4"/>
<path d="M10 10h5v5a2 2 0 0 1-2 2z"/><polygon points="1,1 5,1 5,5"/></g><text>no</text></svg>`
const dxf = [
  ...[
    '0',
    'SECTION',
    '2',
    'HEADER',
    '9',
    '$INSUNITS',
    '70',
    '4',
    '0',
    'ENDSEC',
    '0',
    'SECTION',
    '2',
    'ENTITIES',
  ],
  ...[
    '0',
    'LWPOLYLINE',
    '8',
    'cut',
    '90',
    '4',
    '70',
    '1',
    '10',
    '0',
    '20',
    '0',
    '10',
    '90',
    '20',
    '0',
    '42',
    '0.3',
  ],
  ...[
    '10',
    '90',
    '20',
    '60',
    '10',
    '0',
    '20',
    '60',
    '0',
    'CIRCLE',
    '8',
    'cut',
    '10',
    '20',
    '20',
    '20',
    '40',
    '4',
  ],
  ...[
    '0',
    'ARC',
    '8',
    'cut',
    '10',
    '5',
    '20',
    '5',
    '40',
    '2',
    '50',
    '0',
    '51',
    '90',
    '0',
    'ENDSEC',
    '0',
    'EOF',
    '',
  ],
].join('\n')

const lines = [
  line({ say: 'hello', link: 'clavik simulator', version: 1, craft: 'Test', rateHz: 30 }),
  line({ say: 'catalogue', variables: [...catalogue.variables], events: [...catalogue.events] }),
  line({ say: 'frame', t: 1, i: [0, 1, 2], v: [1, 'two', null] }),
  line({ say: 'set', id: 1, i: 0, v: 1.5 }) + line({ say: 'subscribe', i: 'all' }),
]

const flying = (): Engine => {
  const engine = new Engine()
  engine.step({ is: 'sources', sources: [craft(catalogue)] }, 0)
  engine.step({ is: 'rig', rig, diff: null }, 0)
  engine.step({ is: 'source', source: 'craft', up: true }, 0)
  engine.step({ is: 'arm', armed: true }, 0)
  return engine
}

const frames = [
  hostEnd().encode({ say: 'outputs', outputs: [{ slot: 1, state: 255 }] }).bytes,
  hostEnd().encode({ say: 'show', slot: 2, row: 0, text: 'HDG 270' }).bytes,
  hostEnd().encode({ say: 'probe', what: 'all contacts' }).bytes,
  boardEnd().encode({ say: 'probed', micros: 7, count: 2, notes: [{ after: 16, slot: 200, value: 1023 }] })
    .bytes,
  boardEnd().encode({ say: 'inputs', micros: 7, number: 3, inputs: [{ slot: 0, value: 1 }] }).bytes,
]
const configurations = boardsOf(rig).map((b) => encodeConfiguration(wantedConfiguration(rig, b.id)))

const engine = flying()
const scope = scopeFor(rig, engine.variables.index, undefined)
const names = catalogue.variables.slice(0, 6).map((v) => v.name)
const expression: fc.Arbitrary<string> = fc.letrec<{ e: string }>((tie) => ({
  e: fc.oneof(
    { maxDepth: 7, depthSize: 'medium' },
    fc.constantFrom(...names, '1', '0', '2.5', 'on', 'off', '"word"', 'pi', 'input', '-1'),
    fc
      .tuple(
        tie('e'),
        fc.constantFrom('+', '-', '*', '/', '%', '<', '>', '==', '!=', '&&', '||', '<=', '>='),
        tie('e'),
      )
      .map(([a, o, b]) => `(${a} ${o} ${b})`),
    fc.tuple(tie('e'), tie('e'), tie('e')).map(([a, b, c]) => `(${a} ? ${b} : ${c})`),
    fc
      .tuple(
        fc.constantFrom(
          'min',
          'max',
          'otherwise',
          'known',
          'fixed',
          'zeros',
          'pad',
          'join',
          'blink',
          'match',
          'wrap',
          'round',
          'clamp',
        ),
        fc.array(tie('e'), { minLength: 1, maxLength: 4 }),
      )
      .map(([f, args]) => `${f}(${args.join(', ')})`),
  ),
})).e

/** A hub without lines to anybody: nothing that it is told goes anywhere. */
const folder = mkdtempSync(join(tmpdir(), 'clavik-fuzz-hub-'))
const hub = new Hub(
  { hand: 1, secret: '', look: async () => [], shelf: new MemoryShelf() },
  new MemoryFile(folder),
  new Doing(folder),
)
hub.takeLoaded({ id: 'rig', rig, revision: 1, setAside: [] })
const said: readonly Record<string, unknown>[] = [
  { say: 'select', partId: part?.id },
  { say: 'watch', all: true },
  { say: 'show', subject: 'parts', parts: [part?.id] },
  { say: 'values', names: ['gear.lever'] },
  {
    say: 'operate',
    partId: 'wheel-lever',
    aspectId: 'position',
    movement: { to: 'position', position: 'up' },
  },
  { say: 'exercise', partIds: ['main-left'], how: { as: 'value', value: 1 } },
  { say: 'settle', partIds: ['wheel-lever'] },
  { say: 'simulate', identity: '00112233445566aa', model: 'atmega328p', on: true },
  { say: 'load', boardId: Object.keys(rig.board)[0] },
  { say: 'arm', armed: true },
  { say: 'screens', ids: ['fuel-page'] },
  { say: 'touch', element: 'fuel-page-01', by: { press: true } },
]

export const doors: readonly Door<unknown>[] = [
  door({
    name: 'edits',
    input: fc.oneof(damaged(editSamples), fc.json()),
    pass: (text: string) => {
      const parsed = parseOutside(text)
      const checked = diffSchema.safeParse('problem' in parsed ? null : parsed.value)
      if (!checked.success) {
        hold((checked.error.issues[0]?.message ?? '') !== '', 'refused without a word')
        return
      }
      const diff = checked.data as Diff
      if (conflicts(rig, diff).length > 0) return
      const based = rebased(rig, diff)
      const after = apply(rig, based)
      if (invalidRows(after, based).length > 0) return
      hold(json(apply(after, invert(based))) !== '', 'cannot be taken back')
    },
  }),
  door({
    name: 'rig files',
    input: fc.oneof(damaged([rigText.slice(0, 3000), rigText]), fc.string(), fc.json()),
    pass: (text: string) => {
      const read = readRigFile(text)
      if ('problem' in read) hold(read.problem.length > 5, 'refused without a word')
    },
  }),
  door({
    name: 'part and board files',
    input: damaged([writePartFile(ownKindLike(own)), writeBoardFile(board)]),
    pass: (text: string) => {
      for (const read of [readPartFile(text), readBoardFile(text)])
        if ('problem' in read) hold(read.problem.length > 5, 'refused without a word')
    },
  }),
  door({
    name: 'screen files',
    input: fc.oneof(damaged([screenText.slice(0, 3000), screenText]), fc.json()),
    pass: (text: string) => {
      let n = 0
      const read = readScreenFile(text, rig, () => `new-${n++}`)
      if ('problem' in read) hold(read.problem.endsWith('Nothing was changed.'), 'refused without a word')
      else hold(invalidRows(apply(rig, read.diff), read.diff).length === 0, 'gives rows that are none')
    },
  }),
  door({
    name: 'pictures',
    input: damaged([
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><use href="#a"/><path d="M0 0h9"/></svg>',
      '<svg width="9" height="9"><script>1</script><image href="data:image/png;base64,iVBORw0KGgo="/></svg>',
    ]),
    pass: (text: string) => {
      const read = readPicture(new TextEncoder().encode(text))
      if ('problem' in read) hold(read.problem.length > 5, 'refused without a word')
      else {
        hold(read.width > 0 && read.height > 0, 'has no size')
        hold(!/<\s*script\b/i.test(read.data), 'holds a script')
        for (const [, , place = ''] of read.data.matchAll(/href\s*=\s*(["'])(.*?)\1/gi))
          hold(place === '' || /^(?:#|data:image\/(?:png|jpeg);)/.test(place.trim()), `points at ${place}`)
      }
    },
  }),
  door({
    name: 'drawings',
    input: fc.record({ text: damaged([svg, dxf]), name: fc.constantFrom('a.svg', 'a.dxf', 'constructor') }),
    pass: async ({ text, name }: { text: string; name: string }) => {
      const answer = await readInThread({ text, name, choices: { unitMm: 1 } })
      hold(!answer.problem?.startsWith('thrown'), 'was thrown')
      if ('plate' in answer) {
        const { plate } = answer
        hold(
          plate === null || !/null|NaN/.test(json({ ...plate, outline: '' })),
          `holds what is no number: ${json(plate)}`,
        )
      }
    },
  }),
  door({
    name: 'wire lists',
    input: damaged([wireListCsv(wireList(rig)).slice(0, 4000)]),
    pass: (text: string) => {
      const read = readWireList(rig, text)
      if (!('problem' in read))
        hold(invalidRows(apply(rig, read.changes), read.changes).length === 0, 'gives rows that are none')
    },
  }),
  door({
    name: 'recordings from files',
    input: inPieces(damaged(recordingFiles)),
    pass: (pieces: string[]) => {
      const reader = new RecordingFileReader('A file')
      try {
        for (const piece of pieces) reader.push(piece)
        const file = reader.end()
        const performance = new Performance(file.head, rig, () => {})
        let until = 0
        for (const block of file.blocks) {
          hold(block.from >= until && block.until >= block.from, 'its blocks do not follow one another')
          until = block.until
          // What cannot be kept is found when it is kept.
          performance.play(decodeBlock(encodeBlock(block)))
        }
      } catch (error) {
        if (!(error instanceof FileRefused)) throw error
      }
    },
  }),
  door({
    name: 'kept blocks',
    input: damagedBytes([keptBlock]),
    pass: (bytes: Uint8Array) => {
      try {
        decodeBlock(bytes)
      } catch (error) {
        hold((error as Error).message !== '', 'says nothing')
        hold(!(error instanceof RangeError), 'makes room for what is not there')
      }
    },
  }),
  door({
    name: 'words of names',
    input: damaged([
      'name,called,unit,description\na.b,A,ft,"What, it is"\nc,C,,\n',
      '[{"name":"a","unit":"ft"}]',
    ]),
    pass: (text: string) => {
      const read = readWordsFile(text)
      if (!('problem' in read)) hold(withWords(catalogue, read.words).variables.length > 0, 'loses all names')
    },
  }),
  door({
    name: 'simulator link',
    input: inPieces(fc.oneof(damaged([lines.join('')]), damaged(lines))),
    pass: (pieces: string[]) => {
      const [ours, theirs] = [readerOfSimulator(), readerOfClavik()]
      for (const piece of pieces) {
        for (const m of ours.push(piece)) {
          if (m.say === 'catalogue') readCatalogue(m.variables, m.events)
          if (m.say === 'frame') engine.step({ is: 'frame', source: 'craft', indexes: m.i, values: m.v }, 1)
        }
        theirs.push(piece)
      }
      hold(
        engine.variables.numbers.every((n) => !Number.isFinite(n) === Number.isNaN(n)),
        'a value without end came in',
      )
    },
  }),
  door({
    name: 'hand link',
    input: inPieces(fc.oneof(fc.json(), damaged(['{"say":"move","identity":"a","contacts":[]}\n']))),
    pass: (pieces: string[]) => {
      const [hands, pins] = [readerOfHands(), readerOfPins()]
      for (const piece of pieces) {
        hands.push(piece)
        pins.push(piece)
      }
    },
  }),
  door({
    name: 'board link',
    input: fc.oneof(damagedBytes(frames), fc.uint8Array({ maxLength: 400 })),
    pass: (bytes: Uint8Array) => {
      hostEnd().decode(bytes)
      boardEnd().decode(bytes)
    },
  }),
  door({
    name: 'configurations',
    input: fc.oneof(damagedBytes(configurations), fc.uint8Array({ maxLength: 200 })),
    pass: (bytes: Uint8Array) => {
      const read = decodeConfiguration(bytes)
      if ('problem' in read) hold(read.problem.length > 5, 'refused without a word')
      else encodeConfiguration(read)
    },
  }),
  door({
    name: 'live feed',
    input: fc.oneof(
      damaged(said.map(json)),
      fc
        .constantFrom(...said)
        .chain((m) =>
          fc
            .tuple(
              fc.constantFrom(...Object.keys(m)),
              fc.oneof(fc.jsonValue(), fc.constantFrom('constructor', '')),
            )
            .map(([key, value]) => json({ ...m, [key]: value })),
        ),
    ),
    pass: (text: string) => {
      const told: string[] = []
      const tab = new Tab({ send: (t) => told.push(t), isFull: () => false })
      hub.join(tab)
      hearText(hub, tab, text)
      hub.leave(tab)
      hold(
        told.every((t) => typeof (JSON.parse(t) as { say?: unknown }).say === 'string'),
        'said what is nothing',
      )
      hold(hub.status().boards.length > 0, 'has lost its boards')
    },
  }),
  door({
    name: 'expressions',
    input: fc.oneof(
      expression,
      damaged(['otherwise(min(1, 2) + 3, 0) > 1 ? join("A ", fixed(2, 1)) : "off"']),
    ),
    pass: (source: string) => {
      const result = (makesCode: boolean): unknown => {
        try {
          const compiled = compile(source, scope, engine.variables, { as: 'any' }, makesCode)
          return compiled.evaluate(null)
        } catch (error) {
          if (error instanceof ExpressionError) return error.message
          throw error
        }
      }
      const [compiled, interpreted] = [result(true), result(false)]
      hold(
        Object.is(compiled, interpreted),
        `${String(compiled)} as code, ${String(interpreted)} step by step`,
      )
    },
  }),
]

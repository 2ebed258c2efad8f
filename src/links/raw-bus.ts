import { AdapterReader, type FromAdapter, statusWords } from '../core/bus/adapter-line'
import { idWords, keyOf } from '../core/bus/bus-frame'
import type { BusDatabase } from '../core/bus/database'
import { signalsOf } from '../core/bus/message-reader'
import { signalWords } from '../core/bus/signal-words'
import { cutAt, hexDigits, type RawPiece, type RawReaders, shortened } from './raw-reader'

/** The lines of an adapter for eyes, decoded as the database says. */
export const busReaders = (database: BusDatabase): RawReaders => {
  const known = new Map(
    database.messages.map((m) => [keyOf(m.id, m.extended), { name: m.name, signals: signalsOf(m) }]),
  )
  const wordsOf = (said: FromAdapter): string => {
    switch (said.is) {
      case 'done':
        return 'done'
      case 'refused':
        return 'the adapter refuses'
      case 'version':
        return `the adapter is ${said.text}`
      case 'status':
        return `status ${statusWords(said.flags).join('; ') || 'all is well'}`
      case 'strange':
        return `not understood: ${said.text}`
      case 'frame': {
        const { id, extended, data } = said.frame
        const m = known.get(keyOf(id, extended))
        const told = (m?.signals ?? []).flatMap(({ signal, read }) => {
          const value = read(data)
          return value === undefined ? [] : [`${signal.name} ${signalWords(signal, value)}`]
        })
        return `${idWords(id, extended)} ${m?.name ?? ''} · ${told.join(', ') || hexDigits(data)}`
      }
    }
  }
  const lines = () => {
    const reader = new AdapterReader()
    return cutAt(13, (piece): RawPiece => {
      const said = reader.push(piece)
      const raw = shortened(new TextDecoder('latin1').decode(piece).replace(/\r$/, ''))
      return {
        raw,
        words: shortened(said.map(wordsOf).join(' · ') || raw),
        sound: said.every((s) => s.is !== 'strange' && s.is !== 'refused'),
      }
    })
  }
  const commands = cutAt(13, (piece): RawPiece => {
    const text = new TextDecoder('latin1').decode(piece).replace(/\r$/, '')
    const [said] = new AdapterReader().push(piece)
    return {
      raw: text,
      words: shortened(said?.is === 'frame' ? wordsOf(said) : `command ${text}`),
      sound: true,
    }
  })
  return { in: lines(), out: commands }
}

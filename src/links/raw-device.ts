import type { DeviceDescription } from '../core/device-line/description'
import { readDeviceLine } from '../core/device-line/read-line'
import { cutAt, hexDigits, type RawReaders, shortened } from './raw-reader'

/** A byte that is no sign of its own, as one reads it. */
const visible = (text: string): string =>
  [...text]
    .map((c) => {
      const code = c.charCodeAt(0)
      if (c === '\r') return ''
      return code < 32 || code === 127 ? `\\x${code.toString(16).padStart(2, '0')}` : c
    })
    .join('')

/** What goes to a device of one's own and what it says back, for eyes. */
export const deviceReaders = (d: DeviceDescription): RawReaders => {
  const text = new TextDecoder()
  return {
    in: cutAt(10, (piece) => {
      const line = text.decode(piece).replace(/\r?\n$/, '')
      const heard = readDeviceLine(d, line)
      const words =
        heard.is === 'values'
          ? d.hear
              .flatMap(({ name }, i) =>
                heard.values[i] === undefined ? [] : `${name} ${heard.values[i] ?? 'absent'}`,
              )
              .join(', ')
          : heard.is === 'fingerprint'
            ? `made for the description ${heard.fingerprint}`
            : `${visible(line)} · ${heard.why}`
      return {
        raw: shortened(hexDigits(piece)),
        words: shortened(words),
        sound: heard.is !== 'strange' || d.hear.length === 0,
      }
    }),
    out: {
      push: (bytes) => [
        {
          raw: shortened(hexDigits(bytes)),
          words: shortened(
            d.form === 'line' ? visible(text.decode(bytes).replace(/[\r\n]+$/, '')) : hexDigits(bytes),
          ),
          sound: true,
        },
      ],
    },
  }
}

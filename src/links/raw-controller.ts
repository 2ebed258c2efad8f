import type { Capabilities } from '../core/controllers/capabilities'
import { EV_ABS, EV_KEY, EVENT_BYTES, EventReader } from '../core/controllers/event-reader'
import { Standing } from '../core/controllers/standing'
import { hexDigits, type RawPiece, type RawReader, type RawReaders, shortened } from './raw-reader'

/** The bytes of a controller for eyes: who it says it is, then what changed at one time, by the names of its inputs. */
export const controllerReaders = (known: Capabilities | null): RawReaders => {
  const events = (): RawReader => {
    const reader = new EventReader()
    let names = known ? namesOf(known) : new Map<string, string>()
    // Who looks in the middle of it knows already who speaks.
    if (known) reader.push(new TextEncoder().encode(`${JSON.stringify(known)}\n`))
    return {
      push: (bytes) =>
        reader.push(bytes).map((heard): RawPiece => {
          if (heard.is === 'hello') {
            names = namesOf(heard.hello)
            return {
              raw: shortened(JSON.stringify(heard.hello)),
              words: `it is ${heard.hello.name}`,
              sound: true,
            }
          }
          const words = heard.events.map(({ type, code, value }) => {
            const name = names.get(`${type} ${code}`) ?? `${type}/${code}`
            return type === EV_KEY ? `${name} ${value === 0 ? 'opens' : 'closes'}` : `${name} ${value}`
          })
          return {
            raw: `${(heard.events.length + 1) * EVENT_BYTES} bytes at ${(heard.atMicros / 1e6).toFixed(4)} s`,
            words: words.join(', ') || 'nothing new',
            sound: true,
          }
        }),
    }
  }
  const none: RawReader = {
    push: (bytes) => [{ raw: hexDigits(bytes), words: 'nothing is said to it', sound: true }],
  }
  return { in: events(), out: none }
}

const namesOf = (hello: Capabilities): Map<string, string> =>
  new Map(
    new Standing(hello).inputs.map((i) => [
      `${i.is === 'button' ? EV_KEY : EV_ABS} ${i.code}`,
      i.is === 'hat side' ? i.name.replace(/ \w+$/, '') : i.name,
    ]),
  )

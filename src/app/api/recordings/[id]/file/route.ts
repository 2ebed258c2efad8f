import { recordingFormatNames } from '@/core/recording/files/formats'
import { fileAnswer } from '../../../file-answer'
import { refused } from '../../../refused'
import { RecordingWork } from '../../work'

/** A recording as a file, written as fast as it is taken. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const { id } = await params
  const wanted = new URL(request.url).searchParams.get('as')
  const format = recordingFormatNames.find((f) => f === wanted)
  if (!format) return refused(`It can be had as ${recordingFormatNames.join(', ')}.`, 400)
  const work = await RecordingWork.begin({ do: 'write', id, format })
  const first = await work.next()
  if (first.say !== 'file') {
    work.end()
    return refused(first.say === 'refused' ? first.problem : 'It cannot be written.', 409)
  }
  const encoder = new TextEncoder()
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      for (let m = await work.next(); ; m = await work.next()) {
        if (m.say === 'more') work.give(new Uint8Array())
        else if (m.say === 'text') {
          controller.enqueue(encoder.encode(m.text))
          return
        } else {
          work.end()
          if (m.say === 'refused') controller.error(new Error(m.problem))
          else controller.close()
          return
        }
      }
    },
    cancel: () => work.end(),
  })
  return fileAnswer(body, `${first.type}; charset=utf-8`, first.name)
}

import type { z } from 'zod'
import { parseOutside } from '@/core/plain-json'

/** The largest edit: a whole rig with drawings in it. */
export const MOST_JSON_BYTES = 16_000_000

export type Read<T> = { readonly value: T } | { readonly problem: string; readonly status: number }

/** A body as text, measured as it comes: of one that is too long no more is read than that. */
const textOf = async (request: Request, mostBytes: number): Promise<Read<string>> => {
  const tooLong = { problem: `The file is larger than ${Math.round(mostBytes / 1e6)} MB.`, status: 413 }
  if (Number(request.headers.get('content-length') ?? 0) > mostBytes) return tooLong
  if (!request.body) return { value: '' }
  const decoder = new TextDecoder()
  let text = ''
  let bytes = 0
  for (const reader = request.body.getReader(); ; ) {
    const { done, value } = await reader.read()
    if (done) return { value: text + decoder.decode() }
    bytes += value.byteLength
    if (bytes > mostBytes) {
      await reader.cancel().catch(() => {})
      return tooLong
    }
    text += decoder.decode(value, { stream: true })
  }
}

/** A body as JSON, neither too long nor nested too deep. */
const jsonOf = async (request: Request, mostBytes = MOST_JSON_BYTES): Promise<Read<unknown>> => {
  const text = await textOf(request, mostBytes)
  if ('problem' in text) return text
  const parsed = parseOutside(text.value)
  return 'problem' in parsed ? { problem: `It is not understood: ${parsed.problem}.`, status: 400 } : parsed
}

/** A body as a door wants it: JSON that fits its schema; what does not is told by its place. */
export const bodyOf = async <T>(
  request: Request,
  schema: z.ZodType<T>,
  mostBytes = MOST_JSON_BYTES,
): Promise<Read<T>> => {
  if (!request.headers.get('content-type')?.startsWith('application/json'))
    return { problem: 'It has to come as application/json.', status: 415 }
  const read = await jsonOf(request, mostBytes)
  if ('problem' in read) return read
  const body = schema.safeParse(read.value)
  if (body.success) return { value: body.data }
  const issue = body.error.issues[0]
  return {
    problem: `It is not understood: ${issue?.path.join('.') || 'body'}: ${issue?.message}.`,
    status: 400,
  }
}

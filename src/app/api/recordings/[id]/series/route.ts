import { refused } from '../../../refused'
import { workOnce } from '../../work'

/** More lines than that no chart has. */
const MOST_NAMES = 40

/** What some values were over a recording, packed: ?name=… for each. */
export const GET = async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const names = new URL(request.url).searchParams.getAll('name').slice(0, MOST_NAMES)
  const said = await workOnce({ do: 'series', id: (await params).id, names })
  if (said.say !== 'series') return refused(said.say === 'refused' ? said.problem : 'It cannot be read.', 409)
  return new Response(said.packed as BodyInit, { headers: { 'content-type': 'application/octet-stream' } })
}

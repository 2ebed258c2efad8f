import { NextResponse } from 'next/server'
import { refused } from '../../../refused'
import { workOnce } from '../../work'

/** What the panel shows differently now than when this recording was kept as an example. */
export const GET = async (_: Request, { params }: { params: Promise<{ id: string }> }) => {
  const said = await workOnce({ do: 'compare', id: (await params).id })
  if (said.say !== 'differences')
    return refused(said.say === 'refused' ? said.problem : 'It was not compared.', 409)
  return NextResponse.json({ differences: said.differences, revision: said.revision })
}

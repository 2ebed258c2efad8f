import { NextResponse } from 'next/server'

/** What was not done, and why, in a sentence. */
export const refused = (reason: string, status: number): NextResponse =>
  NextResponse.json({ reasons: [reason] }, { status })

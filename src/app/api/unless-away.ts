import { isAway } from '@/store/database'
import { refused } from './refused'

/** Does what needs the database; while that is away the answer is a sentence, and the door may say what becomes of it. */
export const unlessAway = async (
  work: () => Promise<Response>,
  said = 'try again when it is back',
): Promise<Response> => {
  try {
    return await work()
  } catch (error) {
    if (isAway(error)) return refused(`The database is away; ${said}.`, 503)
    throw error
  }
}

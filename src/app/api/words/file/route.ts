import { writeWordsFile } from '@/core/rig/words-file'
import { webDatabase } from '@/store/web-database'
import { loadWords } from '@/store/word-store'
import { fileAnswer } from '../../file-answer'
import { refused } from '../../refused'
import { unlessAway } from '../../unless-away'

/** What is said of a craft's names, as a file for others: ?craft=its name. */
export const GET = (request: Request) =>
  unlessAway(async () => {
    const craft = new URL(request.url).searchParams.get('craft') ?? ''
    const words = (await loadWords(webDatabase()))[craft]
    if (!words) return refused(`Nothing is said of the names of “${craft}” yet.`, 404)
    return fileAnswer(writeWordsFile(words), 'text/csv; charset=utf-8', `${craft} words.csv`)
  })

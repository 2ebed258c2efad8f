/** What is told of parts, each under its id: how they are drawn, what panel and craft say, their paths, whether they agree. */
export const partSubjects = ['parts', 'says', 'paths', 'agreements'] as const
export type PartSubject = (typeof partSubjects)[number]

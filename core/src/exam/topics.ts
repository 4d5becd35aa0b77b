import type { ExamFormat } from '@climber/contract'

/** Finds a topic's id by its id or, however it is capitalised, its title. */
export function topicFinder({ topics }: Pick<ExamFormat, 'topics'>): (name: string) => string | undefined {
  const ids = new Map(
    topics.flatMap(({ id, title }) => [
      [id, id],
      [title.toLowerCase(), id],
    ]),
  )
  return (name) => ids.get(name) ?? ids.get(name.toLowerCase())
}

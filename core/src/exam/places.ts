import type { ExamFormat, Materials } from '@climber/contract'

/** Where a topic is treated, as a reader finds it. */
export interface Place {
  book: string
  chapter: string
  /** Pages, where they are known. */
  from?: number
  to?: number
}

/** Places of a topic: in the exam's own books, or else in those of the shelf, whose chapters follow each other from page 1. */
export function placesOf(
  { books = [] }: Pick<ExamFormat, 'books'>,
  { items }: Materials,
  topic: string,
): Place[] {
  const own = books.flatMap(({ title, chapters }) =>
    chapters
      .filter(({ topics }) => topics.includes(topic))
      .map(({ title: chapter, from, to }): Place => ({ book: title, chapter, from, to })),
  )
  if (own.length) return own
  return items.flatMap(({ title, kind, chapters = [] }) => {
    if (kind !== undefined && kind !== 'book') return []
    let before = 0
    return chapters.flatMap((chapter): Place[] => {
      const from = Math.floor(before) + 1
      before += chapter.pages
      return chapter.topics.includes(topic)
        ? [{ book: title, chapter: chapter.title, from, to: Math.ceil(before) }]
        : []
    })
  })
}

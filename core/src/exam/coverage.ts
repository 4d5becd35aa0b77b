import type { Book, ExamFormat } from '@climber/contract'
import { highestRaw } from '../scoring/raw'

/** A chapter as `book` and `chapter` ids. */
export interface ChapterRef {
  book: string
  chapter: string
}

export interface ChapterYield extends ChapterRef {
  title: string
  pages: number
  /** Share of the exam that the chapter's pages teach, 0 to 1, and the same for each page. */
  share: number
  sharePerPage: number
  /** Points still to be had from its topics, for each page; `values` weigh what is not yet known. */
  pointsPerPage: number
}

export interface Coverage {
  /** Pages chosen, each counted once however many chapters hold it. */
  pages: number
  /** Share of the exam that they teach, each topic counted once however many books hold it. */
  share: number
  topics: { topic: string; share: number; covered: number }[]
}

/** Share of the whole exam of each topic, in the exam's order: by the marks that its section carries. */
export function examShares(exam: ExamFormat): number[] {
  const marks = new Map(exam.sections.map((section) => [section.id, highestRaw(section)]))
  const all = [...marks.values()].reduce((a, b) => a + b, 0)
  return exam.topics.map(({ section, share }) => (share * (marks.get(section) ?? 0)) / all)
}

const pagesOf = ({ from, to }: Book['chapters'][number]): number[] =>
  Array.from({ length: to - from + 1 }, (_, at) => from + at)

/** Pages of a book that teach each topic, each page once. */
function pagesByTopic(book: Book): Map<string, Set<number>> {
  const pages = new Map<string, Set<number>>()
  for (const chapter of book.chapters)
    for (const topic of chapter.topics) {
      const own = pages.get(topic) ?? new Set<number>()
      for (const page of pagesOf(chapter)) own.add(page)
      pages.set(topic, own)
    }
  return pages
}

/**
 * What reading `chosen` chapters covers. A topic is covered by the share of its pages in a book that are read; two books
 * on one topic do not add up, the better one counts.
 */
export function coverage(exam: ExamFormat, chosen: ChapterRef[]): Coverage {
  const shares = examShares(exam)
  const covered = new Map<string, number>()
  let pages = 0
  for (const book of exam.books ?? []) {
    const read = new Set(
      book.chapters
        .filter(({ id }) => chosen.some((ref) => ref.book === book.id && ref.chapter === id))
        .flatMap(pagesOf),
    )
    pages += read.size
    for (const [topic, own] of pagesByTopic(book)) {
      let there = 0
      for (const page of own) if (read.has(page)) there += 1
      covered.set(topic, Math.max(covered.get(topic) ?? 0, there / own.size))
    }
  }
  const topics = exam.topics.map(({ id }, at) => ({
    topic: id,
    share: shares[at]!,
    covered: covered.get(id) ?? 0,
  }))
  return { pages, share: topics.reduce((sum, topic) => sum + topic.share * topic.covered, 0), topics }
}

/**
 * Each chapter's yield, best first. `toGain` are the points still to be had from each topic, in the exam's order (value x
 * share not known); a chapter gets them in proportion to how much of the topic's pages it holds.
 */
export function chapterYields(exam: ExamFormat, toGain?: number[]): ChapterYield[] {
  const shares = examShares(exam)
  const place = new Map(exam.topics.map(({ id }, at) => [id, at]))
  return (exam.books ?? [])
    .flatMap((book) => {
      const all = pagesByTopic(book)
      return book.chapters.map((chapter) => {
        const pages = chapter.to - chapter.from + 1
        let share = 0
        let points = 0
        for (const topic of new Set(chapter.topics)) {
          const held = pages / all.get(topic)!.size
          share += shares[place.get(topic)!]! * held
          points += (toGain?.[place.get(topic)!] ?? 0) * held
        }
        return {
          book: book.id,
          chapter: chapter.id,
          title: chapter.title,
          pages,
          share,
          sharePerPage: share / pages,
          pointsPerPage: points / pages,
        }
      })
    })
    .sort(
      (a, b) =>
        b.pointsPerPage - a.pointsPerPage ||
        b.sharePerPage - a.sharePerPage ||
        a.book.localeCompare(b.book) ||
        a.chapter.localeCompare(b.chapter),
    )
}

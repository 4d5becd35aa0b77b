import type { PlanSession } from '@climber/contract'
import type { Shelved } from '../../hours/shelf'
import { materialDone } from '../../sessions/rest'
import { isActive } from '../../sessions/session'

/** Pages of a book, by how many stand before them. */
interface Pages {
  from: number
  to: number
}

/** A chapter of the shelf and what of it is spoken for: read, or handed out. */
export class Chapter {
  private readonly taken: Pages[] = []

  constructor(
    readonly item: Shelved,
    readonly title: string,
    readonly topics: string[],
    private readonly whole: Pages,
  ) {}

  /** Takes note of pages that were read; those of other chapters are no matter. */
  take({ from, to }: Pages): void {
    const own = { from: Math.max(from, this.whole.from), to: Math.min(to, this.whole.to) }
    if (own.to <= own.from) return
    this.taken.push(own)
    this.taken.sort((a, b) => a.from - b.from)
  }

  /** The first pages that were not read, up to so many of them; undefined once all were. */
  next(most = Infinity): Pages | undefined {
    let { from } = this.whole
    for (const one of this.taken) {
      if (one.from > from) return { from, to: Math.min(one.from, from + most) }
      from = Math.max(from, one.to)
    }
    return from < this.whole.to ? { from, to: Math.min(this.whole.to, from + most) } : undefined
  }

  /** Pages that were not read. */
  left(): number {
    let { from } = this.whole
    let left = 0
    for (const one of this.taken) {
      left += Math.max(0, one.from - from)
      from = Math.max(from, one.to)
    }
    return left + Math.max(0, this.whole.to - from)
  }
  get pages(): Pages {
    return this.whole
  }
}

/** All chapters of the shelf, in order, with what the sessions given have read or will read of them. */
export function chaptersOf(shelf: readonly Shelved[], kept: readonly PlanSession[]): Chapter[] {
  const chapters = shelf
    .filter(({ kind }) => kind === 'book')
    .flatMap((item) => {
      let from = 0
      return (item.chapters ?? []).map(({ title, pages, topics }) => {
        const chapter = new Chapter(item, title, topics, { from, to: from + pages })
        from += pages
        return chapter
      })
    })
  /** Pages that earlier versions counted from the front of a book. */
  const fromFront = new Map<string, number>()
  for (const session of kept) {
    const material = materialDone(session)
    if (!material?.pages || !isActive(session)) continue
    const from = material.from ?? fromFront.get(material.id) ?? 0
    if (material.from === undefined) fromFront.set(material.id, from + material.pages)
    for (const chapter of chapters)
      if (chapter.item.id === material.id) chapter.take({ from, to: from + material.pages })
  }
  return chapters
}

/** Hours of reading that are left on each of some topics: a chapter's are shared between its topics. */
export function readingHours(chapters: Chapter[], topics: readonly { id: string }[]): number[] {
  const hours = new Map<string, number>()
  for (const chapter of chapters)
    for (const id of chapter.topics)
      hours.set(
        id,
        (hours.get(id) ?? 0) + (chapter.left() * chapter.item.minutesEach) / 60 / chapter.topics.length,
      )
  return topics.map(({ id }) => hours.get(id) ?? 0)
}

import type { ExamFormat, Form, Materials, PlanSession, ShelfItem } from '@climber/contract'
import { slugOf } from '../exam/slug'
import { materialDone } from '../sessions/rest'

/** Minutes a page and a question, before the log says otherwise. */
export const minutesPerPage = 3
export const minutesPerQuestion = 1.5
/** Minutes of logged work at which the own pace counts as much as the default. */
const paceTrust = 120
/** Time for questions on what was read, where a bank holds some, in times of the reading. */
const questionsShare = 0.5

export type Shelved = ShelfItem & { id: string; minutesEach: number }

/** Ids that are missing are made from titles, so that sessions can refer to them. */
export function identified(items: ShelfItem[]): (ShelfItem & { id: string })[] {
  const used = new Set(items.flatMap(({ id }) => id ?? []))
  return items.map((item) => {
    if (item.id) return { ...item, id: item.id }
    const id = slugOf(item.title, used)
    used.add(id)
    return { ...item, id }
  })
}

/**
 * The shelf with the candidate's own pace: minutes a page or question as set by hand, or else learned from the sessions
 * done with the material, drawn to the default while the record is thin.
 */
export function paced(materials: Materials, sessions: PlanSession[] = []): Shelved[] {
  const spent = new Map<string, { minutes: number; units: number }>()
  for (const session of sessions) {
    const { status, minutes, minutesDone } = session
    const material = materialDone(session)
    const units = material && (material.pages ?? material.questions)
    if (status !== 'done' || !units) continue
    const sum = spent.get(material.id) ?? { minutes: 0, units: 0 }
    spent.set(material.id, { minutes: sum.minutes + (minutesDone ?? minutes), units: sum.units + units })
  }
  return identified(materials.items).map((item) => {
    const usual = item.kind === 'bank' ? minutesPerQuestion : minutesPerPage
    const own = spent.get(item.id)
    const learned = own ? (own.minutes + paceTrust) / (own.units + paceTrust / usual) : usual
    return { ...item, minutesEach: item.minutesEach ?? learned }
  })
}

export const covers = (topics: string[] | undefined, id: string) => !topics?.length || topics.includes(id)

/**
 * Hours of one pass through what the shelf holds on each topic, half as long again where a bank has questions on it: the
 * topic's tau (docs/models.md, 3). Topics that no book or recording treats are not in the answer.
 */
export function shelfHours(exam: Pick<ExamFormat, 'topics'>, shelf: Shelved[]): Record<string, number> {
  const hours: Record<string, number> = {}
  const add = (id: string, minutes: number) => (hours[id] = (hours[id] ?? 0) + minutes / 60)
  for (const item of shelf) {
    if (item.kind === 'book')
      for (const { pages, topics } of item.chapters ?? [])
        for (const id of topics) add(id, (pages * item.minutesEach) / topics.length)
    if (item.kind === 'recording' && item.minutes && item.topics?.length)
      for (const id of item.topics) add(id, item.minutes / item.topics.length)
  }
  const known = new Set(exam.topics.map(({ id }) => id))
  return Object.fromEntries(
    Object.entries(hours)
      .filter(([id, own]) => known.has(id) && own > 0)
      .map(([id, own]) => {
        const bank = shelf.some(({ kind, topics }) => kind === 'bank' && covers(topics, id))
        return [id, Math.min(500, own * (bank ? 1 + questionsShare : 1))]
      }),
  )
}

/** The exam's forms, and the shelf's tests that it does not know. */
export function formsWith(
  exam: Pick<ExamFormat, 'forms'>,
  shelf: Pick<Shelved, 'id' | 'title' | 'kind' | 'form' | 'source'>[],
): Form[] {
  const ids = new Set(exam.forms.map(({ id }) => id))
  const more = shelf.filter(({ kind, form, id }) => kind === 'test' && !form && !ids.has(id))
  return [
    ...exam.forms,
    ...more.map(({ id, title, source = 'other' }): Form => ({ id, title, source, conversions: {} })),
  ]
}

/**
 * Topics with the prerequisites that books in order add: what earlier chapters treat comes first. An order that
 * contradicts the exam format's, or another book's, is left out where it would make a circle.
 */
export function inChapterOrder<T extends { id: string; prerequisites: string[] }>(
  topics: T[],
  shelf: Shelved[],
): T[] {
  const needs = new Map(topics.map(({ id, prerequisites }) => [id, [...prerequisites]]))
  const reaches = (from: string, to: string, seen = new Set<string>()): boolean =>
    from === to ||
    (!seen.has(from) &&
      Boolean(seen.add(from)) &&
      (needs.get(from) ?? []).some((next) => reaches(next, to, seen)))
  for (const { kind, inOrder, chapters = [] } of shelf) {
    if (kind !== 'book' || !inOrder) continue
    let last: string[] = []
    const met = new Set<string>()
    for (const chapter of chapters) {
      const fresh = chapter.topics.filter((id) => needs.has(id) && !met.has(id))
      for (const id of fresh)
        for (const before of last)
          if (!needs.get(id)!.includes(before) && !reaches(before, id)) needs.get(id)!.push(before)
      if (fresh.length) last = fresh
      fresh.forEach((id) => met.add(id))
    }
  }
  return topics.map((topic) => ({ ...topic, prerequisites: needs.get(topic.id)! }))
}

/** Minutes a day that the banks ask for with their daily number of questions. */
export const quotaMinutes = (shelf: Shelved[]): number =>
  Math.ceil(
    shelf.reduce(
      (sum, { kind, perDay, minutesEach }) => (kind === 'bank' && perDay ? sum + perDay * minutesEach : sum),
      0,
    ) / 5,
  ) * 5

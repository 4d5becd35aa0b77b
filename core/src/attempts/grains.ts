import type { AttemptCounts, Counts, ExamFormat } from '@climber/contract'
import { groupsMet, stageTaken } from '../scoring/raw'

/** How finely a test is counted. */
export type Grain = 'total' | 'sections' | 'groups' | 'topics'

const plus = (a: Counts, b: Counts): Counts => ({
  right: a.right + b.right,
  wrong: a.wrong + b.wrong,
  blank: a.blank + b.blank,
  notReached: a.notReached + b.notReached,
  ...(a.marks === undefined && b.marks === undefined ? {} : { marks: (a.marks ?? 0) + (b.marks ?? 0) }),
})
/** A written part's blanks are no items that are marked right or wrong, so a sum leaves them out. */
const summed = (counts: Counts, written: boolean): Counts =>
  written ? { ...counts, right: 0, wrong: 0, blank: 0, notReached: 0 } : counts

/** What counts come to for a section; undefined while an item group of it has none. */
export function countsOfSection(
  exam: ExamFormat,
  id: string,
  { groups, sections }: Pick<AttemptCounts, 'groups' | 'sections'>,
): Counts | undefined {
  const section = exam.sections.find((one) => one.id === id)!
  const met = groupsMet(section, groups)
  if (met.some((group) => !groups[group.id]) || (section.stages && !stageTaken(section, groups)))
    return sections?.[id]
  return met.map((group) => summed(groups[group.id]!, group.kind === 'written')).reduce(plus)
}

/** What counts come to in all; undefined while a section has none. */
export function countsInAll(exam: ExamFormat, counts: AttemptCounts): Counts | undefined {
  const sections = exam.sections.map(({ id }) => countsOfSection(exam, id, counts))
  return sections.every((one) => one !== undefined) ? sections.reduce(plus) : counts.total
}

/**
 * What is kept of all that was typed when it was last typed at one grain. What is finer than that was typed before and is
 * replaced; what is coarser stays only where nothing finer tells the same. Topics are counted beside all of them.
 */
export function countsAt(exam: ExamFormat, typed: AttemptCounts, grain: Grain): AttemptCounts {
  const { total, topics } = typed
  if (grain === 'topics') return typed
  if (grain === 'total') return { ...(total && { total }), groups: {}, topics }
  const groups = grain === 'groups' ? typed.groups : {}
  const sections = Object.fromEntries(
    Object.entries(typed.sections ?? {}).filter(
      ([id]) => countsOfSection(exam, id, { groups, sections: {} }) === undefined,
    ),
  )
  const open = exam.sections.some(({ id }) => !countsOfSection(exam, id, { groups, sections }))
  return {
    ...(total && open && { total }),
    ...(Object.keys(sections).length && { sections }),
    groups,
    topics,
  }
}

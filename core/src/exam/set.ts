import type { ExamFormat, ItemGroup, ItemSet, Section } from '@climber/contract'
import { itemsOf } from '../scoring/raw'
import { makeSum } from './shares'

/**
 * Items of each topic in a set: in proportion to what the topics are of the exam, every one at least one item; where there are
 * more topics than items, those with the largest shares. In the order of the exam's topics.
 */
export function shareOfSet(exam: ExamFormat, { items, topics }: ItemSet): { topic: string; items: number }[] {
  const sizes = new Map(exam.sections.map((section) => [section.id, itemsOf(section)]))
  const all = exam.topics
    .filter(({ id }) => topics.includes(id))
    .map(({ id, section, share }, place) => ({ id, place, expected: share * (sizes.get(section) ?? 0) }))
  const chosen = [...all]
    .sort((a, b) => b.expected - a.expected || a.place - b.place)
    .slice(0, items)
    .sort((a, b) => a.place - b.place)
  const shares = makeSum(
    chosen.map(({ expected }) => expected),
    1 / items,
  )
  return chosen.map(({ id }, at) => ({ topic: id, items: Math.round(shares[at]! * items) }))
}

/** Whose kind of item a topic's are: the first of its section. */
export const groupOf = (
  exam: ExamFormat,
  topic: string,
): { section: Section; group: ItemGroup } | undefined => {
  const section = exam.sections.find(({ id }) => id === exam.topics.find((one) => one.id === topic)?.section)
  const group = section?.groups[0]
  return section && group && { section, group }
}

/** Seconds of a set at the pace of the exam: each item has its share of its section's minutes. */
export const secondsOfSet = (exam: ExamFormat, set: ItemSet, timeFactor: number): number =>
  Math.max(
    1,
    Math.round(
      shareOfSet(exam, set).reduce((sum, { topic, items }) => {
        const section = groupOf(exam, topic)?.section
        return sum + (section ? (items * section.minutes * 60 * timeFactor) / itemsOf(section) : 0)
      }, 0),
    ),
  )

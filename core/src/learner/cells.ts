import type { Counts, ExamFormat, ItemGroup } from '@climber/contract'
import { choicesOf, groupsOf } from '../scoring/raw'
import type { DayNumber } from '../time/day'

/** Answers to items of some topics alike: of one, where it is known which; of a section or of all, where it is not. */
export interface Cell {
  /** Places in the exam's order, and the share of the items that each has. */
  topics: number[]
  shares: number[]
  /** Section that all of them are of; undefined of several. */
  section?: number
  /** Chance of an item that is guessed. */
  guess: number
  /** Counts, as heavy as they weigh; written answers as their share of marks. Blanks are those that were reached. */
  right: number
  wrong: number
  blank: number
  /** Logarithm of the odds by which these items are easier than the exam's. */
  easier: number
}

/** How far one got in the time, of a section or of all. */
export interface Reached {
  section?: number
  items: number
  notReached: number
}

/** What was answered at one time. */
export interface Answers {
  day: DayNumber
  /** Who wrote it, where that was not the publisher. */
  maker?: string
  /** Variance of its day and form, and by its age; none where nothing is shared by its items. */
  variance: number
  /** What sort of thing it was. */
  of: AnswersOf
  cells: Cell[]
  reached: Reached[]
}
export type AnswersOf = 'tests' | 'sets and drills' | 'retests' | 'memory'

/** What is worked out of an exam once for all that was sat of it. */
export interface Known {
  exam: ExamFormat
  topicAt: Map<string, number>
  sectionAt: Map<string, number>
  /** Topics of each section, by their places. */
  own: number[][]
  /** Chance of a guess in each section. */
  guess: number[]
}

export const knownOf = (exam: ExamFormat): Known => ({
  exam,
  topicAt: new Map(exam.topics.map(({ id }, at) => [id, at])),
  sectionAt: new Map(exam.sections.map(({ id }, at) => [id, at])),
  own: exam.sections.map(({ id }) => exam.topics.flatMap(({ section }, at) => (section === id ? [at] : []))),
  guess: exam.sections.map((section) => 1 / choicesOf(groupsOf(section))),
})

export const answered = ({ right, wrong, blank }: Pick<Cell, 'right' | 'wrong' | 'blank'>) =>
  right + wrong + blank

/** Counts as answers to items that are right, wrong or left; marks of written answers as their share of the items. */
export function tally(counts: Counts, group?: ItemGroup): Pick<Cell, 'right' | 'wrong' | 'blank'> {
  const { right, wrong, notReached } = counts
  const blank = Math.max(0, counts.blank - notReached)
  if (group?.kind !== 'written') return { right, wrong, blank }
  const marked = Math.min(group.items, (counts.marks ?? 0) / group.perRight)
  return { right: marked, wrong: Math.max(0, group.items - counts.blank - marked), blank }
}

export const scaled = <C extends Pick<Cell, 'right' | 'wrong' | 'blank'>>(cell: C, by: number): C => ({
  ...cell,
  right: cell.right * by,
  wrong: cell.wrong * by,
  blank: cell.blank * by,
})

export const ofTopic = (
  { exam, sectionAt, guess }: Known,
  at: number,
): Pick<Cell, 'topics' | 'shares' | 'section' | 'guess'> => {
  const section = sectionAt.get(exam.topics[at]!.section)!
  return { topics: [at], shares: [1], section, guess: guess[section]! }
}
export const ofSection = (
  { exam, own }: Known,
  section: number,
): Pick<Cell, 'topics' | 'shares' | 'section'> => ({
  topics: own[section]!,
  shares: own[section]!.map((at) => exam.topics[at]!.share),
  section,
})

/** What an answer says, against one of a paper: items that are met again, sets that were picked, single facts. */
export const weights = { picked: 0.7, met: 0.5, fact: 0.1 }

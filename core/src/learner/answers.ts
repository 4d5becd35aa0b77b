import type {
  Attempt,
  Counts,
  ExamFormat,
  ItemGroup,
  Materials,
  Ratings,
  Recalled,
  RecalledDay,
  Section,
} from '@climber/contract'
import { countResponses, judge } from '../attempts/responses'
import { examOfAttempt, formOf, isBaseline, sourceOf } from '../attempts/sat'
import { square } from '../exact/functions'
import { filledGroups } from '../scoring/fill'
import { choicesOf, groupsMet, groupsOf } from '../scoring/raw'
import { dayNumber, type DayNumber } from '../time/day'
import { halvings, newestBaseline } from './ageing'
import { type Measured, prior } from './prior'

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

/** What an answer says, against one of a paper: items that are met again, sets that were picked, single facts. */
export const weights = { picked: 0.7, met: 0.5, fact: 0.1 }
/** Logarithm of the odds of the first and the last item of a group that gets harder, against its middle. */
export const rise = 0.8

const hardening = ({ difficulty, items }: ItemGroup, at: number): number =>
  difficulty === 'rising' && items > 1 ? rise * (1 - (2 * at) / (items - 1)) : 0

/** What is worked out of an exam once for all that was sat of it. */
interface Known {
  exam: ExamFormat
  topicAt: Map<string, number>
  sectionAt: Map<string, number>
  /** Topics of each section, by their places. */
  own: number[][]
  /** Chance of a guess in each section. */
  guess: number[]
}

const knownOf = (exam: ExamFormat): Known => ({
  exam,
  topicAt: new Map(exam.topics.map(({ id }, at) => [id, at])),
  sectionAt: new Map(exam.sections.map(({ id }, at) => [id, at])),
  own: exam.sections.map(({ id }) => exam.topics.flatMap(({ section }, at) => (section === id ? [at] : []))),
  guess: exam.sections.map((section) => 1 / choicesOf(groupsOf(section))),
})

const guessIn = ({ kind, choices }: ItemGroup): number => (kind === 'choice' && choices ? 1 / choices : 0)
const answered = ({ right, wrong, blank }: Pick<Cell, 'right' | 'wrong' | 'blank'>) => right + wrong + blank

/** Counts as answers to items that are right, wrong or left; marks of written answers as their share of the items. */
function tally(counts: Counts, group?: ItemGroup): Pick<Cell, 'right' | 'wrong' | 'blank'> {
  const { right, wrong, notReached } = counts
  const blank = Math.max(0, counts.blank - notReached)
  if (group?.kind !== 'written') return { right, wrong, blank }
  const marked = Math.min(group.items, (counts.marks ?? 0) / group.perRight)
  return { right: marked, wrong: Math.max(0, group.items - counts.blank - marked), blank }
}

const scaled = <C extends Pick<Cell, 'right' | 'wrong' | 'blank'>>(cell: C, by: number): C => ({
  ...cell,
  right: cell.right * by,
  wrong: cell.wrong * by,
  blank: cell.blank * by,
})

const ofTopic = (
  { exam, sectionAt, guess }: Known,
  at: number,
): Pick<Cell, 'topics' | 'shares' | 'section' | 'guess'> => {
  const section = sectionAt.get(exam.topics[at]!.section)!
  return { topics: [at], shares: [1], section, guess: guess[section]! }
}
const ofSection = ({ exam, own }: Known, section: number): Pick<Cell, 'topics' | 'shares' | 'section'> => ({
  topics: own[section]!,
  shares: own[section]!.map((at) => exam.topics[at]!.share),
  section,
})

/** How much easier than all of a group what was reached of it is. */
const easierBy = ({ difficulty, items }: ItemGroup, { notReached }: Counts): number =>
  difficulty === 'rising' ? (rise * notReached) / items : 0

/** Cells of a paper that is known item by item: those of one topic and group together, a third of a rising group at a time. */
function cellsByItem(known: Known, attempt: Attempt, sat: ExamFormat): Map<number, Cell[]> {
  const form = formOf(known.exam, attempt)
  const items = attempt.items ?? []
  const byItem = new Map(items.map((response) => [response.item, response]))
  const { slots } = countResponses(sat, items, form)
  const found = new Map<number, Map<string, Cell>>()
  for (const { id } of sat.sections) {
    const section = known.sectionAt.get(id)!
    const own = slots.filter((slot) => slot.section === id)
    const results = own.map((slot) => judge(slot.group, byItem.get(slot.item)))
    const last = results.reduce<number>((end, result, at) => (result === 'blank' ? end : at), -1)
    const cells = new Map<string, Cell>()
    own.slice(0, last + 1).forEach((slot, place) => {
      const { group, at, item } = slot
      const topic = byItem.get(item)?.topic ?? form?.items?.[group.id]?.[at]?.topic
      const topicAt = topic === undefined ? undefined : known.topicAt.get(topic)
      const third = group.difficulty === 'rising' ? Math.floor((3 * at) / group.items) : 0
      const key = `${topicAt} ${group.id} ${third}`
      let cell = cells.get(key)
      if (!cell) {
        const of = topicAt === undefined ? ofSection(known, section) : ofTopic(known, topicAt)
        const middle = ((third + 0.5) * group.items) / 3 - 0.5
        cell = {
          ...of,
          guess: guessIn(group),
          right: 0,
          wrong: 0,
          blank: 0,
          easier: hardening(group, middle),
        }
        cells.set(key, cell)
      }
      const result = results[place]!
      if (typeof result !== 'number') cell[result] += 1
      else {
        cell.right += result / group.perRight
        cell.wrong += 1 - result / group.perRight
      }
    })
    if (last >= 0) found.set(section, cells)
  }
  return new Map([...found].map(([section, cells]) => [section, [...cells.values()]]))
}

/** Cells of a section from counts by topic and by group: what topics do not tell is of any of them. */
function cellsByCount(
  known: Known,
  section: number,
  topics: Record<string, Counts>,
  groups: ItemGroup[],
  counts: Record<string, Counts>,
): Cell[] {
  const byTopic = known.own[section]!.flatMap((at): Cell[] => {
    const own = topics[known.exam.topics[at]!.id]
    return own && own.right + own.wrong + own.blank > own.notReached
      ? [{ ...ofTopic(known, at), ...tally(own), easier: 0 }]
      : []
  })
  const byGroup = groups.flatMap((group): Cell[] => {
    const own = counts[group.id]
    return own
      ? [
          {
            ...ofSection(known, section),
            ...tally(own, group),
            guess: guessIn(group),
            easier: easierBy(group, own),
          },
        ]
      : []
  })
  const sum = (cells: Cell[], of: 'right' | 'wrong' | 'blank') =>
    cells.reduce((all, cell) => all + cell[of], 0)
  const left = (of: 'right' | 'wrong' | 'blank') => {
    const all = sum(byGroup, of)
    return all > 0 ? Math.max(0, all - sum(byTopic, of)) / all : 0
  }
  const [right, wrong, blank] = [left('right'), left('wrong'), left('blank')]
  const easier = byGroup.length ? byGroup.reduce((all, cell) => all + cell.easier, 0) / byGroup.length : 0
  return [
    ...byTopic.map((cell) => ({ ...cell, easier })),
    ...byGroup
      .map((cell) => ({
        ...cell,
        right: cell.right * right,
        wrong: cell.wrong * wrong,
        blank: cell.blank * blank,
      }))
      .filter((cell) => answered(cell) > 1e-9),
  ]
}

/** One cell of all sections of which only a total is known, and how far one got in them. */
function cellOfTotal(
  known: Known,
  sections: number[],
  counts: Record<string, Counts>,
): { cell: Cell; reached: Reached } | undefined {
  const met = sections.flatMap((at) =>
    groupsMet(known.exam.sections[at]!, counts).flatMap((group) => (counts[group.id] ? [{ at, group }] : [])),
  )
  const items = met.reduce((sum, { group }) => sum + group.items, 0)
  if (!items) return undefined
  const bySection = sections.map((at) =>
    met.filter((one) => one.at === at).reduce((sum, { group }) => sum + group.items, 0),
  )
  const told = met.map(({ group }) => tally(counts[group.id]!, group))
  const total = (of: 'right' | 'wrong' | 'blank') => told.reduce((sum, one) => sum + one[of], 0)
  return {
    cell: {
      topics: sections.flatMap((at) => known.own[at]!),
      shares: sections.flatMap((at, place) =>
        known.own[at]!.map((topic) => (known.exam.topics[topic]!.share * bySection[place]!) / items),
      ),
      ...(sections.length === 1 && { section: sections[0]! }),
      guess: met.reduce((sum, { group }) => sum + guessIn(group) * group.items, 0) / items,
      right: total('right'),
      wrong: total('wrong'),
      blank: total('blank'),
      easier: 0,
    },
    reached: {
      items,
      notReached: met.reduce((sum, { group }) => sum + counts[group.id]!.notReached, 0),
      ...(sections.length === 1 && { section: sections[0]! }),
    },
  }
}

const isTimed = (section: Section, { conditions }: Attempt) => section.timed !== false && !conditions?.untimed

/** Cells of a paper or of some of its sections, and how far one got. */
function ofPaper(known: Known, attempt: Attempt, sat: ExamFormat): Pick<Answers, 'cells' | 'reached'> {
  const { counts } = attempt
  const byItem = attempt.items?.length ? cellsByItem(known, attempt, sat) : new Map<number, Cell[]>()
  const { groups, shared } = filledGroups(sat, { ...counts, topics: {} })
  const cells: Cell[] = []
  const reached: Reached[] = []
  const open: number[] = []
  for (const section of sat.sections) {
    const at = known.sectionAt.get(section.id)!
    const met = groupsMet(section, groups)
    const own =
      byItem.get(at) ?? (shared.has(section.id) ? [] : cellsByCount(known, at, counts.topics, met, groups))
    cells.push(...own)
    const counted = met.filter(({ id }) => groups[id])
    if (shared.has(section.id)) open.push(at)
    else if (counted.length && isTimed(section, attempt))
      reached.push({
        section: at,
        items: counted.reduce((sum, { items }) => sum + items, 0),
        notReached: counted.reduce((sum, { id }) => sum + groups[id]!.notReached, 0),
      })
  }
  const total = open.length ? cellOfTotal(known, open, groups) : undefined
  if (total) {
    cells.push(total.cell)
    if (!attempt.conditions?.untimed) reached.push(total.reached)
  }
  return { cells, reached }
}

/** Cells of a set, a drill or a retest, by the topics that it counts. */
const ofLoose = (known: Known, { kind, counts }: Attempt): Cell[] =>
  Object.entries(counts.topics).flatMap(([id, own]): Cell[] => {
    const at = known.topicAt.get(id)
    if (at === undefined) return []
    const cell = scaled(
      { ...ofTopic(known, at), ...tally(own), easier: 0 },
      kind === 'retest' ? weights.met : weights.picked,
    )
    return answered(cell) > 0 ? [cell] : []
  })

/** Seconds of answers from memory on one day that count as having been at a topic: a choice. */
const atLeast = 120
/** Whether a day says anything: many a one has only answers that came out as those before, in less time than counts. */
export const tells = ({ seconds, cards, numbers, items }: RecalledDay): boolean =>
  seconds >= atLeast || Boolean(cards ?? numbers ?? items)
/** Whether a day of it counts as having been at the topic. */
export const touches = ({ seconds }: RecalledDay): boolean => seconds >= atLeast

/** What was brought back from memory, as it stands by `today`: of each topic on the day when it was last told. */
function ofMemory(known: Known, { days }: Recalled, today: DayNumber): Answers[] {
  const found = new Map<
    string,
    { at: number; day: DayNumber; kind: 'cards' | 'numbers' | 'items'; right: number; of: number }
  >()
  for (const one of days) {
    const at = known.topicAt.get(one.topic)
    if (at === undefined || one.day > today) continue
    for (const kind of ['cards', 'numbers', 'items'] as const) {
      const [right, of] = one[kind] ?? [0, 0]
      if (!right && !of) continue
      const key = `${kind} ${at}`
      const before = found.get(key) ?? { at, day: one.day, kind, right: 0, of: 0 }
      found.set(key, { ...before, day: one.day, right: before.right + right, of: before.of + of })
    }
  }
  return [...found.values()].map(({ at, day, kind, right, of }): Answers => {
    const own = ofTopic(known, at)
    const cell = {
      ...own,
      ...(kind !== 'items' && { guess: 0 }),
      right,
      wrong: Math.max(0, of - right),
      blank: 0,
      easier: 0,
    }
    return {
      day,
      variance: 0,
      of: 'memory',
      cells: [scaled(cell, kind === 'cards' ? weights.fact : weights.met)],
      reached: [],
    }
  })
}

/** Who wrote a paper, where that was not the publisher: of the exam itself nobody else, of a baseline only where that is said. */
export function makerOf(
  exam: ExamFormat,
  attempt: Pick<Attempt, 'kind' | 'form' | 'source' | 'maker'>,
  materials?: Materials,
): string | undefined {
  const source = isBaseline(attempt)
    ? (attempt.source ?? formOf(exam, attempt)?.source)
    : sourceOf(exam, attempt, materials)
  return attempt.kind !== 'exam' && source === 'other' ? (attempt.maker ?? 'other') : undefined
}

/** What an exam's attempts say, besides the attempts themselves. */
export interface Told {
  exam: ExamFormat
  attempts: readonly Attempt[]
  ratings: Ratings
  recalled: Recalled
  materials?: Materials
  /** By how much the questions of a form are known to be easier than the exam's, as the logarithm of their odds. */
  easier?: ReadonlyMap<string, number>
  today: DayNumber
}

/**
 * Everything that was answered, oldest first: papers and parts of them at the finest grain that is known, sets, drills, retests, and what
 * was brought back from memory. A form that had been sat before says nothing, and what has no date was sat before all else.
 */
export function answersOf({ exam, attempts, ratings, recalled, materials, easier, today }: Told): Answers[] {
  const known = knownOf(exam)
  const dated = attempts.filter(
    // Items that are tried again were seen, of course: that is what their weight says.
    ({ seen, kind, date }) => (!seen || kind === 'retest') && (!date || dayNumber(date) <= today),
  )
  const days = dated.flatMap(({ date }) => (date ? [dayNumber(date)] : []))
  const [first, newest] = [Math.min(today, ...days), Math.max(...days, -Infinity)]
  const baseline = newestBaseline(dated)
  const variance = square(prior.day.sd)
  const sat = dated.flatMap((attempt): Answers[] => {
    const own = examOfAttempt(exam, attempt)
    const day = attempt.date ? dayNumber(attempt.date) : first
    const { cells, reached } = own
      ? ofPaper(known, attempt, own)
      : { cells: ofLoose(known, attempt), reached: [] }
    if (!cells.length && !reached.length) return []
    const ageing = isBaseline(attempt) ? prior.ageing * halvings(day, baseline, ratings.halfWeightDays) : 0
    const eased = attempt.form === undefined ? 0 : (easier?.get(attempt.form) ?? 0)
    const maker = own && makerOf(exam, attempt, materials)
    return [
      {
        day,
        ...(maker !== undefined && { maker }),
        of: own ? 'tests' : attempt.kind === 'retest' ? 'retests' : 'sets and drills',
        variance: own ? variance + ageing + prior.walk * Math.max(0, newest - day) : 0,
        cells: eased ? cells.map((cell) => ({ ...cell, easier: cell.easier + eased })) : cells,
        reached,
      },
    ]
  })
  return [...sat, ...ofMemory(known, recalled, today)].sort((a, b) => a.day - b.day)
}

/** Which parts of the exam some answers measure by themselves. */
export function measuredBy(exam: ExamFormat, answers: Answers[]): Measured {
  const sections = new Set<string>()
  let whole = false
  for (const { cells, variance } of answers)
    if (variance > 0)
      for (const { section } of cells)
        if (section === undefined) whole = true
        else sections.add(exam.sections[section]!.id)
  return { sections, whole }
}

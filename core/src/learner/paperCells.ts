import type { Attempt, Counts, ExamFormat, ItemGroup, Section } from '@climber/contract'
import { countResponses, judge } from '../attempts/responses'
import { formOf } from '../attempts/sat'
import { filledGroups } from '../scoring/fill'
import { groupsMet, guessIn } from '../scoring/raw'
import { answered, type Cell, type Known, ofSection, ofTopic, type Reached, tally } from './cells'

/** Logarithm of the odds of the first and the last item of a group that gets harder, against its middle. */
export const rise = 0.8

const hardening = ({ difficulty, items }: ItemGroup, at: number): number =>
  difficulty === 'rising' && items > 1 ? rise * (1 - (2 * at) / (items - 1)) : 0

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
export function ofPaper(
  known: Known,
  attempt: Attempt,
  sat: ExamFormat,
): { cells: Cell[]; reached: Reached[] } {
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

import type {
  Attempt,
  Counts,
  ExamFormat,
  Form,
  Incoherence,
  ItemGroup,
  ItemResponse,
} from '@climber/contract'
import { stageTaken } from '../scoring/raw'
import { formOf, isPaper } from './sat'

/** One place on the paper. Items are numbered from 1 through the whole test. */
export interface Slot {
  item: number
  section: string
  group: ItemGroup
  /** Place in its group, from 0. */
  at: number
}

export interface CountedResponses {
  /** By item group. */
  sections: Record<string, Counts>
  topics: Record<string, Counts>
}

const empty = (): Counts => ({ right: 0, wrong: 0, blank: 0, notReached: 0 })
export const lettersOf = (choices: number): string => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.slice(0, choices)

const sameNumber = (a: string, b: string): boolean =>
  a !== '' && b !== '' && Number.isFinite(Number(a)) && Math.abs(Number(a) - Number(b)) < 1e-9

/** What became of one item, where only that is known; undefined where an answer is to be judged. */
export const outcomeOf = ({ right, answer }: ItemResponse): 'right' | 'wrong' | 'blank' | undefined =>
  right === undefined || answer ? undefined : right === null ? 'blank' : right ? 'right' : 'wrong'

/** Marks of one answer: right, wrong, blank, or the marks of a written one. */
export function judge(
  group: Pick<ItemGroup, 'kind' | 'perRight'>,
  response: ItemResponse | undefined,
): 'right' | 'wrong' | 'blank' | number {
  const known = response && outcomeOf(response)
  if (known) return known
  const answer = (response?.answer ?? '').trim()
  if (!answer) return 'blank'
  if (group.kind === 'written') return Math.min(group.perRight, Math.max(0, Number(answer) || 0))
  const key = (response?.key ?? '').trim()
  return answer.toUpperCase() === key.toUpperCase() || sameNumber(answer, key) ? 'right' : 'wrong'
}

/** How one item came out, a written answer too: it counts as right from half its marks. */
export function markedOutcome(
  group: Pick<ItemGroup, 'kind' | 'perRight'>,
  response: ItemResponse | undefined,
): 'right' | 'wrong' | 'blank' {
  const judged = judge(group, response)
  return typeof judged !== 'number' ? judged : judged * 2 >= group.perRight ? 'right' : 'wrong'
}

const slotsOf = (section: string, groups: ItemGroup[], first: number): Slot[] => {
  let item = first
  return groups.flatMap((group) =>
    Array.from({ length: group.items }, (_, at) => ({ item: item++, section, group, at })),
  )
}

/**
 * The paper as this candidate met it, and its counts. Which second stage of an adaptive section was sat follows from the
 * first stage's answers. Blanks after a section's last answer are not reached. A section without any answer is left out of
 * the counts; so are written groups' `right` and `wrong`, which stay 0 beside their `marks`.
 */
export function countResponses(
  exam: ExamFormat,
  responses: ItemResponse[],
  form?: Form,
): CountedResponses & { slots: Slot[] } {
  const byItem = new Map(responses.map((response) => [response.item, response]))
  const sections: Record<string, Counts> = {}
  const topics: Record<string, Counts> = {}
  const slots: Slot[] = []
  const answered = (slot: Slot) => judge(slot.group, byItem.get(slot.item)) !== 'blank'

  const count = (into: Counts, slot: Slot, reached: boolean, whole: boolean): void => {
    const result = judge(slot.group, byItem.get(slot.item))
    if (result === 'blank') {
      into.blank += 1
      if (!reached) into.notReached += 1
    } else if (typeof result !== 'number') into[result] += 1
    else if (whole) into.marks = (into.marks ?? 0) + result
    // A topic has no marks of its own: a written answer counts as right from half its marks.
    else if (result * 2 >= slot.group.perRight) into.right += 1
    else into.wrong += 1
  }
  const countAll = (own: Slot[]): Record<string, Counts> => {
    const last = own.reduce((found, slot, at) => (answered(slot) ? at : found), -1)
    const found: Record<string, Counts> = {}
    own.forEach((slot, at) => {
      const into = (found[slot.group.id] ??= empty())
      if (slot.group.kind === 'written') into.marks ??= 0
      count(into, slot, at < last, true)
    })
    return found
  }

  for (const section of exam.sections) {
    const next = () => slots.length + own.length + 1
    let own: Slot[] = []
    own = slotsOf(section.id, section.groups, next())
    const first = countAll(own)
    const stage = stageTaken(section, first)
    if (stage) own = [...own, ...slotsOf(section.id, stage.groups, next())]
    slots.push(...own)
    if (!own.some(answered)) continue
    Object.assign(sections, countAll(own))
    const last = own.reduce((found, slot, at) => (answered(slot) ? at : found), -1)
    own.forEach((slot, at) => {
      const topic = byItem.get(slot.item)?.topic ?? form?.items?.[slot.group.id]?.[slot.at]?.topic
      if (topic) count((topics[topic] ??= empty()), slot, at < last, false)
    })
  }
  return { sections, topics, slots }
}

const sameCounts = (a: Counts | undefined, b: Counts): boolean =>
  a !== undefined &&
  a.right === b.right &&
  a.wrong === b.wrong &&
  a.blank === b.blank &&
  a.notReached === b.notReached &&
  (a.marks ?? 0) === (b.marks ?? 0)

/** Where the counts of a whole paper are not what its items come to. */
export function countIssuesOfItems(exam: ExamFormat, attempt: Attempt): Incoherence[] {
  const { items = [], counts } = attempt
  if (!items.length || !isPaper(attempt)) return []
  const counted = countResponses(exam, items, formOf(exam, attempt)).sections
  return Object.entries(counted).flatMap(([group, own]) =>
    sameCounts(counts.groups[group], own)
      ? []
      : [{ path: ['items'], message: `the answers of ${group} come to other counts` }],
  )
}

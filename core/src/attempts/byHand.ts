import type { ExamFormat, Form, FormItem, ItemResponse } from '@climber/contract'
import { countResponses, type Slot } from './responses'

/** A written answer that is marked by what earns its marks. */
export interface WrittenItem {
  slot: Slot
  item: FormItem
  criteria: NonNullable<FormItem['criteria']>
}

/** The written items of a paper whose form says what earns their marks. */
export const writtenItems = (exam: ExamFormat, responses: ItemResponse[], form?: Form): WrittenItem[] =>
  countResponses(exam, responses, form).slots.flatMap((slot) => {
    const item = form?.items?.[slot.group.id]?.[slot.at]
    return slot.group.kind === 'written' && item?.criteria?.length
      ? [{ slot, item, criteria: item.criteria }]
      : []
  })

/** A response with marks for one of its criteria; its answer is what they come to, empty while none is given. */
export function withCriterion(
  { slot, criteria }: Pick<WrittenItem, 'slot' | 'criteria'>,
  before: ItemResponse | undefined,
  at: number,
  marks: number | undefined,
): ItemResponse {
  const given = criteria.map((_, place) => before?.criteria?.[place] ?? null)
  given[at] = marks === undefined ? null : Math.min(criteria[at]!.marks, Math.max(0, marks))
  const { criteria: _before, ...rest } = before ?? { item: slot.item }
  if (given.every((one) => one === null)) return { ...rest, answer: '' }
  // Halves and tenths come to what a person would write.
  const sum = Math.round(1000 * given.reduce<number>((all, one) => all + (one ?? 0), 0)) / 1000
  return { ...rest, answer: String(sum), criteria: given }
}

const range = /^(\d+)(?:\s*[-–]\s*(\d+))?$/

/** Items that a person lists, as numbers and ranges: "38 39, 41-43". */
export function readItemList(
  text: string,
  has: (item: number) => boolean,
): { items: number[]; problem?: string } {
  const items = new Set<number>()
  for (const part of text
    .replace(/\s*[-–]\s*/g, '-')
    .split(/[\s,;]+/)
    .filter(Boolean)) {
    const found = range.exec(part)
    const [from, to] = [Number(found?.[1]), Number(found?.[2] ?? found?.[1])]
    if (!found || to < from || to - from > 2000)
      return { items: [], problem: `"${part}" is no item and no range such as 41-43` }
    for (let item = from; item <= to; item++) {
      if (!has(item)) return { items: [], problem: `there is no item ${item}` }
      items.add(item)
    }
  }
  return { items: [...items].sort((a, b) => a - b) }
}

/** Responses with the answers of some items kept apart as given after the bell: they do not count. */
export const afterTheBell = (responses: ItemResponse[], late: readonly number[]): ItemResponse[] => {
  const out = new Set(late)
  return responses.map((response) => {
    const { answer } = response
    if (!out.has(response.item) || !answer) return response
    const { criteria: _criteria, ...rest } = response
    return { ...rest, answer: '', late: { ...response.late, answer } }
  })
}

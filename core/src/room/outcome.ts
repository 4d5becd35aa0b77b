import type { Confidence, ExamFormat, ItemResponse } from '@climber/contract'
import { keyOf, type ItemState, type Room, type RoomState } from './state'

/** Tenths of a second are enough of a clock that a person pressed. */
const tenths = (seconds: number): number => Math.round(seconds * 10) / 10
const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0)

/** One item of a room as an item response of an attempt. */
export function responseOf(room: Room, item: ItemState): ItemResponse {
  const { changes, visits, order, confidence, late } = item
  const key = keyOf(room.form, item)
  const given = changes.filter((answer, at) => answer !== '' || at > 0)
  const before = given.length > 1 ? given[given.length - 2] : undefined
  const topic = item.topic
  const sure: Confidence | undefined = confidence
  return {
    item: item.item,
    answer: item.answer,
    ...(key !== undefined && { key }),
    ...(topic && { topic }),
    ...(visits.length && { seconds: tenths(sum(visits)), visits: visits.slice(0, 200).map(tenths) }),
    ...(sure && { confidence: sure }),
    ...(before && { changedFrom: before }),
    ...(given.length > 1 && { changes: given.slice(-100) }),
    ...(order !== undefined && { order }),
    ...(late && { late: { answer: late.answer, seconds: tenths(late.seconds) } }),
  }
}

/** The item responses of a room, of every part that was begun. */
export const responsesOf = (room: Room, state: RoomState): ItemResponse[] =>
  state.parts.flatMap(({ items }) => items.map((item) => responseOf(room, item)))

/** The exam with only the sections of a room: what its items are numbered through. */
export const examOfRoom = (exam: ExamFormat, { setup }: Pick<Room, 'setup'>): ExamFormat => {
  const ids = new Set(setup.parts.map(({ id }) => id))
  return setup.whole ? exam : { ...exam, sections: exam.sections.filter(({ id }) => ids.has(id)) }
}

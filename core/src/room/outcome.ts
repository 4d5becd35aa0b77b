import type { Attempt, Confidence, Counts, ExamFormat, ItemResponse } from '@climber/contract'
import { countResponses } from '../attempts/responses'
import { examOfRoom } from './parts'
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

/** The exam with the parts of a room that were begun. */
export const examSat = (exam: ExamFormat, { setup }: Pick<Room, 'setup'>, state: RoomState): ExamFormat =>
  examOfRoom(exam, { ...setup, parts: state.parts.map(({ part }) => part) })

/** What a room becomes when it is marked: an attempt with the items of every part that was begun. */
export function attemptOf(exam: ExamFormat, room: Room, state: RoomState, items: ItemResponse[]): Attempt {
  const { setup, form } = room
  const { id, date, start, session, title, set, medium, seen, conditions } = setup
  // Who stops before the last section was begun has sat the sections until then, and no paper.
  const begun = state.parts.map(({ part }) => part.id)
  const whole = setup.whole && begun.length === room.parts.length
  const minutes = Math.round((state.over ?? 0) / 60)
  const paused = state.stops.length
    ? `Stopped ${state.stops.length === 1 ? 'once' : `${state.stops.length} times`}, ${Math.round(sum(state.stops.map((stop) => stop.seconds)) / 60)} min in all.`
    : undefined
  const counted = countResponses(examSat(exam, room, state), items, form)
  const groups = set ? {} : { ...unanswered(state), ...counted.sections }
  return {
    id,
    kind: whole ? 'practice' : set ? 'set' : 'section',
    date,
    start,
    minutes: Math.min(1440, minutes),
    ...(form ? { form: form.id } : { title: title ?? (set ? 'Set of items' : 'Own paper') }),
    ...(set ? { scope: { topics: set.topics } } : !whole && { scope: { sections: begun } }),
    medium,
    ...(session && { session }),
    seen,
    ...(conditions && { conditions }),
    counts: { groups, topics: counted.topics },
    items,
    ...(paused && { note: paused }),
  }
}

/** Counts of parts without any answer. */
const unanswered = ({ parts }: RoomState): Record<string, Counts> => {
  const counts: Record<string, Counts> = {}
  for (const { group } of parts.flatMap(({ items }) => items)) {
    const own = (counts[group.id] ??= {
      right: 0,
      wrong: 0,
      blank: 0,
      notReached: 0,
      ...(group.kind === 'written' && { marks: 0 }),
    })
    own.blank += 1
    own.notReached += 1
  }
  return counts
}

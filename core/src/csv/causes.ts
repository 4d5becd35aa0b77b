import type { ExamFormat } from '@climber/contract'
import { causeTitle } from '../review/causes'
import type { ReviewItem } from '../review/item'
import { writeTable } from './cells'

export const causeColumns = [
  'date',
  'test',
  'item',
  'topic',
  'outcome',
  'answer',
  'key',
  'reworked',
  'cause',
  'marks_lost',
  'next_time',
  'note',
  'minutes',
]

/** What was found in review as a table, an item a row. */
export function writeCauses(
  { topics }: Pick<ExamFormat, 'topics'>,
  noted: readonly (ReviewItem & { title: string; date?: string })[],
): string {
  const titles = new Map(topics.map(({ id, title }) => [id, title]))
  return writeTable(
    causeColumns,
    noted.map(({ date, title, item, topic, outcome, answer, key, lost, note }) => [
      date,
      title,
      item,
      topic && titles.get(topic),
      outcome,
      answer,
      key,
      note?.rework?.answer,
      note?.cause && causeTitle(note.cause),
      lost,
      note?.next,
      note?.text,
      note?.seconds && Math.round(note.seconds / 6) / 10,
    ]),
  )
}

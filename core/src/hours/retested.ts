import type { Attempt, ExamFormat } from '@climber/contract'
import { choicesOf, groupsOf } from '../scoring/raw'
import { dayNumber } from '../time/day'
import type { TopicAnswers } from './answered'
import type { Study } from './study'

/**
 * Retests as evidence, each on its day: what was answered of each topic, by the counts that it carries, which are there wherever a
 * record is read. Minutes are those of their sessions, elsewhere.
 */
export function answeredIn(exam: ExamFormat, attempts: readonly Attempt[]): Study[] {
  const choices = new Map(exam.sections.map((section) => [section.id, choicesOf(groupsOf(section))]))
  const choicesOfTopic = new Map(exam.topics.map(({ id, section }) => [id, choices.get(section)!]))
  return attempts.flatMap(({ kind, date, counts }): Study[] => {
    if (kind !== 'retest' || date === undefined) return []
    const found = Object.entries(counts.topics).flatMap(([topic, own]) => {
      const options = choicesOfTopic.get(topic)
      const of = own.right + own.wrong + own.blank
      const answers: TopicAnswers = { right: own.right, of, choices: options ?? Infinity }
      return options !== undefined && of ? [{ topic, answers }] : []
    })
    return found.length
      ? [
          {
            day: dayNumber(date),
            minutes: 0,
            topics: found.map(({ topic }) => topic),
            answers: found.map(({ answers }) => answers),
          },
        ]
      : []
  })
}

import type { Attempt, ExamFormat, Recalled, RecalledDay } from '@climber/contract'
import { choicesOf, groupsOf } from '../scoring/raw'
import { dayNumber } from '../time/day'
import { type TopicAnswers, weights } from './answered'
import type { Study } from './study'

/** Options of the items of each topic; infinite where guessing does not help. */
function choicesByTopic(exam: ExamFormat): Map<string, number> {
  const choices = new Map(exam.sections.map((section) => [section.id, choicesOf(groupsOf(section))]))
  return new Map(exam.topics.map(({ id, section }) => [id, choices.get(section)!]))
}

/**
 * Retests as evidence, each on its day: what was answered of each topic, by the counts that it carries, which are there wherever a
 * record is read. Minutes are those of their sessions, elsewhere.
 */
export function answeredIn(exam: ExamFormat, attempts: readonly Attempt[]): Study[] {
  const choicesOfTopic = choicesByTopic(exam)
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

/** Seconds of answers from memory on one day that count as having been at a topic: a choice. */
const atLeast = 120

/** Whether a day says anything: many a one has only answers that came out as those before, in less time than counts. */
export const tells = ({ seconds, cards, numbers, items }: RecalledDay): boolean =>
  seconds >= atLeast || Boolean(cards ?? numbers ?? items)

/**
 * What was brought back from memory as evidence, each topic on its days: questions with changed numbers and missed items like items that
 * are met again, cards and places as the small parts that they are. Of a card counts how it stands, once, however often it is asked; so its
 * days say what is new of it. The minutes are those of the sessions of the plan, elsewhere; what took two minutes keeps a topic from fading
 * as any work on it does.
 */
export function recalledIn(exam: ExamFormat, { days }: Recalled): Study[] {
  const choicesOfTopic = choicesByTopic(exam)
  const before = new Map<string, { cards: number; numbers: number }>()
  const none: [number, number] = [0, 0]
  return days.filter(tells).flatMap(({ topic, day, seconds, ...own }): Study[] => {
    const { cards = none, numbers = none, items = none } = own
    const choices = choicesOfTopic.get(topic)
    if (choices === undefined) return []
    const met = before.get(topic) ?? { cards: 0, numbers: 0 }
    before.set(topic, { cards: met.cards + cards[1], numbers: met.numbers + numbers[1] })
    const told = [
      { right: cards[0], of: cards[1], choices: Infinity, weight: weights.fact, before: met.cards },
      { right: numbers[0], of: numbers[1], choices: Infinity, before: met.numbers },
      { right: items[0], of: items[1], choices },
    ].filter(({ right, of }) => right || of)
    const brief = seconds < atLeast
    if (!told.length) return [{ day, minutes: 0, topics: [topic] }]
    return told.map((own: TopicAnswers, at) => ({
      day,
      minutes: 0,
      topics: [topic],
      answers: [own],
      // A day is one touch, however many kinds of things were asked on it.
      brief: brief || at > 0,
    }))
  })
}

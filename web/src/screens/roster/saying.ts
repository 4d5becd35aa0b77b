import type { CandidateRow } from '@climber/contract'
import { dayNumber } from '@climber/core'
import { dateWords, durationWords, scoreWords } from '../../manners/words'

/** What has become of a candidate lately, and what to say about it. */
export interface Saying {
  what: string
  say: string
}

const weekdays = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays']
/** Days without work after which it is quiet. */
const quietFrom = 8
/** Days for which a score is news. */
const newsFor = 21
/** Shares of a week's minutes: from the one on it was kept, below the other it was not. */
const kept = 0.9
const poor = 0.6
/** Odds below which something has to give, and from which all is well. */
const slim = 0.5
const good = 0.8
/** Days before the exam within which no other test has to be planned. */
const near = 10

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
/** Some clauses as one sentence. */
const sentence = (clauses: string[]): string => (clauses.length ? `${capital(clauses.join('; '))}.` : '')

/** How the last score lies to the one before, and what was worked on between them. */
function ofScore({ lastScore, lately: { before, topic } }: CandidateRow, today: string): string | undefined {
  if (!lastScore || dayNumber(today) - dayNumber(lastScore.date) > newsFor) return undefined
  const now = `${scoreWords(lastScore.scaled)} on ${dateWords(lastScore.date, today)}`
  if (!before) return `first test: ${now}`
  const by = Number((lastScore.scaled - before.scaled).toFixed(1))
  const against = by === 0 ? 'as before' : by > 0 ? `${by} higher than before` : `${-by} lower than before`
  const after =
    topic && topic.minutes >= 30 ? `, after ${durationWords(topic.minutes)} of ${topic.title}` : ''
  return `${now}, ${against}${after}`
}

/** How the last week was kept. */
function ofWeek({ lately: { week, lastWork } }: CandidateRow, today: string): string | undefined {
  const quiet = lastWork === null ? Infinity : dayNumber(today) - dayNumber(lastWork)
  if (quiet >= quietFrom && week.planned > 0)
    return lastWork === null ? 'nothing done yet' : `nothing done since ${dateWords(lastWork, today)}`
  if (!week.planned) return undefined
  return week.done >= week.planned
    ? `all ${durationWords(week.planned)} of the week done`
    : `${durationWords(week.done)} of ${durationWords(week.planned)} done in a week`
}

/** The one thing to bring up: what stands in the way first, praise where nothing does. */
function toSay(row: CandidateRow, today: string): string {
  const { week, weekday, lastWork, before } = row.lately
  const quiet = lastWork === null || dayNumber(today) - dayNumber(lastWork) >= quietFrom
  const days = row.examDate ? dayNumber(row.examDate) - dayNumber(today) : Infinity
  if (week.planned && quiet) return 'Ask what got in the way.'
  if (weekday)
    return `Ask about ${weekdays[weekday.weekday - 1]}: ${weekday.slipped} of ${weekday.of} slipped.`
  if (row.lastScore && before && row.lastScore.scaled < before.scaled)
    return 'Look at the last test together.'
  if (row.odds !== null && row.odds < slim) return 'Talk about hours, the target, or another sitting.'
  if (week.planned && week.done < poor * week.planned) return 'Ask whether the week has too many hours.'
  if (!row.nextTest && days > near) return 'Agree on a practice test: none is planned.'
  const isKept = week.planned > 0 && week.done >= kept * week.planned
  return isKept && (row.odds ?? 0) >= good ? 'On course: say so.' : ''
}

/** One sentence made of facts, and one of what to do about them. */
export function sayingOf(row: CandidateRow, today: string): Saying {
  if (row.examDate !== null && row.examDate < today)
    return {
      what: `The exam was on ${dateWords(row.examDate, today)}.`,
      say: 'Ask how it went, and for the result.',
    }
  if (row.target === null) return { what: 'There is no target yet.', say: 'Agree on a score and a sitting.' }
  if (row.odds === null)
    return { what: 'There is no plan yet.', say: 'Make it together, in a quarter of an hour.' }
  const clauses = [ofWeek(row, today), ofScore(row, today)]
  const none =
    row.lately.lastWork === null
      ? 'Just begun: nothing was to be done yet.'
      : 'Nothing was planned for the last seven days.'
  const what = sentence(clauses.flatMap((one) => one ?? [])) || none
  return { what, say: toSay(row, today) }
}

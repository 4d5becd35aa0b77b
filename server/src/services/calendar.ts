import ical, { ICalEventStatus } from 'ical-generator'
import {
  asSat,
  instantOf,
  isActive,
  materialOf,
  minuteOf,
  sessionsOf,
  sittingOf,
  timeOf,
  wordsOf,
} from '@climber/core'
import type { CandidateRow } from '../models'
import type { Context } from './context'
import { documentOf, load, momentOf, recordOf } from './record'

/** One line without anything that cannot be seen: what else stands in a name would be a line of the calendar's own. */

const line = (text: string): string =>
  text.replace(/[\s\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, ' ').trim()

/**
 * The plan as iCalendar (RFC 5545). Times are written as UTC instants worked out from the candidate's zone. A session's
 * UID is made of the candidate's and the session's id, and its SEQUENCE grows with its version, so that an edit moves
 * the event and never doubles it.
 */
export async function planCalendar(context: Context, candidate: CandidateRow): Promise<string> {
  const loaded = await load(context, candidate)
  const record = recordOf(loaded)
  const { zone } = record.availability
  const name = documentOf(loaded, 'candidate').name
  const calendar = ical({
    name: line(`${record.exam.title}: ${name}`),
    prodId: { company: 'climber', product: 'climber', language: 'EN' },
  })
  const stamp = new Date(context.clock.now())
  const { date: today } = momentOf(context, loaded)
  const words = wordsOf(record, today)
  const versions = new Map(
    [loaded.sessions, ...loaded.pastPlans.map(({ sessions }) => sessions)]
      .flat()
      .map(({ id, version }) => [id, version]),
  )
  // What slipped, was called off or lifted to the tray stands nowhere: a calendar that is subscribed to takes it out.
  for (const session of sessionsOf(record).filter(isActive)) {
    const end = minuteOf(session.start) + session.minutes
    calendar.createEvent({
      id: `${session.id}.${candidate.id}@climber`,
      sequence: versions.get(session.id) ?? 0,
      stamp,
      start: new Date(instantOf(session.date, session.start, zone)),
      end: new Date(instantOf(session.date, timeOf(Math.min(end, 1440)), zone)),
      summary: line(words.title(session)),
      description: [
        materialOf(session)?.text ?? '',
        words.why(session),
        session.status === 'done' ? `Done: ${session.minutesDone ?? session.minutes} minutes.` : '',
      ]
        .filter(Boolean)
        .map(line)
        .join('\n'),
      status: ICalEventStatus.CONFIRMED,
    })
  }
  const sitting = sittingOf(record, today)
  if (sitting) {
    const sat = asSat(record.exam, record.settings)
    const minutes = sat.exam.sections.reduce(
      (sum, section) => sum + section.minutes * sat.timeFactor + section.breakAfter,
      0,
    )
    const start = new Date(instantOf(sitting.date, sitting.start, zone))
    calendar.createEvent({
      id: `exam.${candidate.id}@climber`,
      stamp,
      start,
      end: new Date(start.getTime() + minutes * 60_000),
      summary: line(`Exam: ${record.exam.title}`),
      location: sitting.place && line(sitting.place),
    })
  }
  return calendar.toString()
}

import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { type Attempt, type CandidateRecord, parts } from '@climber/contract'
import { dateOf, dayNumber } from '../src/index'
import { today } from './arbitrary'
import { diagnostic, gardenBaseline, gardenExam, gardenRecord } from './fixture'
import { exams, paper } from './shipped'

/** One way to prepare, as it stands in ways/: what is set, for the garden exam. */
export interface Way {
  about: string
  days: number
  availability: object
  settings?: object
  materials?: object
  commitments?: [title: string, weekday: string, from: string, to: string][]
  sat?: { form: string; ago: number }
  measured?: boolean
  ratings?: 'covered' | 'mixed'
  adaptive?: boolean
  forms?: number
  travel?: number
  also?: number[]
}
const folder = path.join(process.cwd(), 'core/test/ways')
export const wayFiles = readdirSync(folder).sort()
export const readWay = (name: string) => JSON.parse(readFileSync(path.join(folder, name), 'utf8')) as Way
const day = (ahead: number) => dateOf(dayNumber(today) + ahead)

export function recordOfWay(way: Way, days = way.days): CandidateRecord {
  const plain = gardenRecord()
  const garden = { ...gardenExam, forms: gardenExam.forms.slice(0, way.forms) }
  const exam = {
    ...garden,
    sittings: [{ ...gardenExam.sittings[0]!, date: day(days), registerBy: day(Math.floor(days * 0.6)) }],
    ...(way.adaptive && {
      sections: garden.sections.map((section, at) =>
        at === 0
          ? {
              ...section,
              groups: [{ ...section.groups[0]!, items: 30 }],
              stages: [
                {
                  id: 'wide',
                  title: 'Wide',
                  from: -20,
                  groups: [{ ...section.groups[0]!, id: 'wide-items', items: 30 }],
                  conversion: section.conversion,
                },
                {
                  id: 'hard',
                  title: 'Hard',
                  from: 15,
                  groups: [{ ...section.groups[0]!, id: 'hard-items', items: 30 }],
                  conversion: section.conversion,
                },
              ],
            }
          : section,
      ),
    }),
  } as CandidateRecord['exam']
  const weekly = (way.commitments ?? []).map(([title, weekday, from, to]) => ({
    title,
    weekday: ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'].indexOf(weekday) + 1,
    from,
    to,
  }))
  const said = {
    covered: (at: number) => (at % 2 ? ('covered' as const) : ('weak' as const)),
    mixed: (at: number) => (at % 3 ? ('fair' as const) : ('weak' as const)),
  }
  const rated = way.ratings && said[way.ratings]
  const unmeasured = way.measured === false || way.adaptive
  const strong = { [gardenExam.topics[1]!.id]: { right: 19, wrong: 1, blank: 0, notReached: 0 } }
  const diagnostic: Attempt = {
    ...gardenBaseline,
    ...(way.sat && { form: way.sat.form, date: day(-way.sat.ago) }),
    counts: { ...gardenBaseline.counts, topics: way.ratings === 'covered' ? strong : {} },
  }
  return {
    ...plain,
    exam,
    availability: parts.availability.parse(way.availability),
    settings: parts.settings.parse(way.settings ?? {}),
    materials: parts.materials.parse(way.materials ?? {}),
    examDay: parts.examDay.parse({ travelMinutes: way.travel }),
    commitments: parts.commitments.parse({ weekly }),
    attempts: unmeasured ? [] : [diagnostic],
    ratings: unmeasured
      ? parts.ratings.parse({ topics: { 'names-2': 'weak' } })
      : {
          ...plain.ratings,
          ...(rated && {
            topics: Object.fromEntries(gardenExam.topics.map(({ id }, at) => [id, rated(at)])),
          }),
        },
  }
}

/** The second input of a way: another exam, another life, of which nothing but the settings is the first one's. */
interface Second {
  exam: string
  days: number
  /** Weekdays and hours: `1-5 18:00-20:00, 6 09:00-12:00`. */
  windows: string
  /** Share of the diagnostic's items that was right. */
  rate: number
  minutesPerDay?: number
  keepWarm?: boolean
  /** A book with a chapter of about so many pages for each topic. */
  pagesEach?: number
  /** A bank of so many questions, and how many of them are wanted a day. */
  bank?: number
  perDay?: number
  covered?: boolean
  travel?: number
}
const seconds = JSON.parse(
  readFileSync(path.join(process.cwd(), 'core/test/secondWays.json'), 'utf8'),
) as Record<string, Second>

const windowsOf = (said: string) =>
  said.split(', ').flatMap((part) => {
    const [days = '', hours = ''] = part.split(' ')
    const [from = '', to = ''] = hours.split('-')
    return days.split(',').flatMap((range) => {
      const [first = 1, last = first] = range.split('-').map(Number)
      return Array.from({ length: last - first + 1 }, (_, at) => ({ weekday: first + at, from, to }))
    })
  })

export function secondInputs(name: string): CandidateRecord {
  const way = readWay(name)
  const second = seconds[name.slice(0, 2)]!
  const [, format] = exams.find(([title]) => title === second.exam)!
  const exam = {
    ...format,
    sittings: [{ id: 'only', date: day(second.days), start: format.sittings[0]!.start }],
  } as CandidateRecord['exam']
  const book = second.pagesEach && {
    id: 'manual',
    title: 'The long manual',
    kind: 'book',
    chapters: exam.topics.map(({ id, title }, at) => ({
      title,
      pages: Math.round(second.pagesEach! * (0.6 + 0.2 * (at % 5))),
      topics: [id],
    })),
  }
  const bank = second.bank && {
    id: 'bank',
    title: 'Bank of questions',
    kind: 'bank',
    questions: second.bank,
    ...(second.perDay && { perDay: second.perDay }),
  }
  return gardenRecord({
    exam,
    availability: parts.availability.parse({
      windows: windowsOf(second.windows),
      ...(second.minutesPerDay && { minutesPerDay: second.minutesPerDay }),
      ...(second.keepWarm && { keepWarm: true }),
    }),
    settings: parts.settings.parse(way.settings ?? {}),
    materials: parts.materials.parse({ items: [book, bank].filter(Boolean) }),
    examDay: parts.examDay.parse({ travelMinutes: second.travel }),
    attempts: way.measured === false ? [] : [diagnostic(paper(exam, second.rate), { date: day(-3) })],
    ratings: parts.ratings.parse({
      topics: Object.fromEntries(
        exam.topics.flatMap(({ id }, at) =>
          second.covered && at % 3 === 0 ? [[id, 'covered']] : at % 4 === 1 ? [[id, 'weak']] : [],
        ),
      ),
    }),
    target: { kind: 'number', scaled: 200 },
    plan: undefined,
  })
}

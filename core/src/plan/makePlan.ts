import type { Plan, PlanNotice, PlanSession, PlanWeek } from '@climber/contract'
import { dateOf, dayNumber, type DayNumber, mondayOf, timeOf } from '../time/day'
import { Calendar } from './calendar'
import { type Filled, fillSlots, studySlots } from './fill'
import { improve } from './improve'
import type { PlanInput } from './input'
import { layStages, leadTimeOf, phasesOf, type PlacedStage } from './phases'
import { placeTests, testMinutes } from './tests'

/** Above this a day is too long, and a week has too few days off. */
const longDayMinutes = 360
const mostDaysPerWeek = 6
/** Nobody plans further ahead, and a mistyped year must not cost minutes of computing. */
const mostDaysAhead = 1100

export class PlanProblem extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message)
  }
}

interface Frame {
  first: DayNumber
  exam: DayNumber
  taper: DayNumber
  stages: PlacedStage[]
  calendar: Calendar
  tests: { sessions: PlanSession[]; notices: PlanNotice[] }
}

/** The calendar with tests and their reviews in it: what is left is for study. */
function frame(input: PlanInput, name = numbering(input.kept)): Frame {
  const first = dayNumber(input.today)
  const exam = Math.min(dayNumber(input.sitting.date), first + mostDaysAhead)
  if (exam <= first)
    throw new PlanProblem(
      'target.sitting',
      `the sitting on ${input.sitting.date} is not after today, ${input.today}; choose a later one`,
    )
  const { settings } = input
  const taper = Math.max(first, exam - settings.taperDays)
  const stages = layStages(leadTimeOf(exam - first), first, taper)
  const calendar = new Calendar(
    input.availability,
    first,
    exam,
    {
      nowMinute: input.nowMinute,
      breakMinutes: settings.breakMinutes,
      slackShare: settings.slackShare,
      longestBlock: testMinutes(input.exam.sections, settings.timeFactor),
    },
    input.kept,
  )
  return {
    first,
    exam,
    taper,
    stages,
    calendar,
    tests: placeTests(input, calendar, stages, first, taper, name),
  }
}

/** Hours that are left for topics once tests, their reviews and slack are taken out. */
export function studyHours(input: PlanInput): number {
  const { calendar, stages } = frame(input)
  return studySlots(calendar, stages, input.settings.sessionMinutes).reduce(
    (sum, { minutes }) => sum + minutes / 60,
    0,
  )
}

const percent = (share: number) => `${Math.round(share * 100)}%`
const points = (value: number) => value.toFixed(1)

function whyOf(input: PlanInput, session: Filled): PlanSession['why'] {
  const topic = input.topics[session.topics[0]!]!
  const { known, kept, daysSince } = session.figures
  const figures = {
    share: topic.share,
    known,
    yield: session.figures.yield,
    ...(daysSince >= 0 && { daysSince, kept }),
  }
  if (session.kind === 'mixed')
    return {
      text: `A mixed set of the topics that fade fastest: ${topic.title} was last touched ${days(daysSince)} ago, and about ${percent(kept)} of what was new is still at hand.`,
      figures,
    }
  const since = daysSince > 0 ? ` Last touched ${days(daysSince)} before.` : ''
  return {
    text: `${topic.title} is ${percent(topic.share)} of the exam and you will know about ${percent(known)} of it by then; an hour here is worth about ${points(session.figures.yield)} points.${since}`,
    figures,
  }
}
const days = (n: number) => (n === 1 ? '1 day' : `${n} days`)

const titles = { learn: 'Learn', drill: 'Drill', mixed: 'Mixed set' } as const

/** Numbers ids on from the sessions that stay, so that a session keeps its id when the plan is made again. */
function numbering(kept: PlanSession[]): (key: string) => string {
  const used = new Set(kept.map(({ id }) => id))
  const next = new Map<string, number>()
  return (key) => {
    let ordinal = (next.get(key) ?? 0) + 1
    while (used.has(`${key}.${ordinal}`)) ordinal++
    next.set(key, ordinal)
    return `${key}.${ordinal}`
  }
}

/** Light work before the exam: the pace card two days before, the kit the day before. */
function taperSessions(
  calendar: Calendar,
  taper: DayNumber,
  exam: DayNumber,
  kept: PlanSession[],
): PlanSession[] {
  const plan: { day: DayNumber; id: string; kind: 'light' | 'errand'; title: string; text: string }[] = [
    {
      day: exam - 2,
      id: 'light.pace-card.1',
      kind: 'light',
      title: 'Read the pace card and your own notes',
      text: 'Half an hour to bring the checkpoints to mind. New material this late costs more sleep than it earns marks.',
    },
    {
      day: exam - 1,
      id: 'errand.kit.1',
      kind: 'errand',
      title: 'Pack the kit and check the way there',
      text: 'Packed the day before, nothing is looked for on the morning.',
    },
  ]
  return plan.flatMap(({ day, id, kind, title, text }) => {
    if (day < taper || kept.some((session) => session.id === id)) return []
    const span = calendar.free(day).find(({ from, to }) => to - from >= 15)
    if (!span) return []
    const minutes = Math.min(30, span.to - span.from, calendar.dayRoom(day))
    if (minutes < 10) return []
    calendar.take(day, span.from, minutes)
    return {
      id,
      date: dateOf(day),
      start: timeOf(span.from),
      minutes,
      kind,
      title,
      topics: [],
      seen: false,
      why: { text, figures: { daysToExam: exam - day } },
      pinned: false,
      status: 'planned' as const,
    }
  })
}

function weeksOf(calendar: Calendar, sessions: PlanSession[], first: DayNumber, exam: DayNumber): PlanWeek[] {
  const weeks: PlanWeek[] = []
  for (let monday = mondayOf(first); monday <= exam; monday += 7) {
    const own = sessions.filter(({ date, status }) => {
      const day = dayNumber(date)
      return (
        day >= Math.max(monday, first) && day < monday + 7 && status !== 'skipped' && status !== 'slipped'
      )
    })
    const minutes = (kind?: string) =>
      own.reduce((sum, s) => (!kind || s.kind === kind ? sum + s.minutes : sum), 0)
    weeks.push({
      from: dateOf(monday),
      freeMinutes: calendar.weekFree.get(monday) ?? 0,
      plannedMinutes: minutes(),
      testMinutes: minutes('test'),
      reviewMinutes: minutes('review'),
    })
  }
  return weeks
}

function cautions(input: PlanInput, sessions: PlanSession[], hours: number): PlanNotice[] {
  const notices: PlanNotice[] = []
  const byDay = new Map<string, number>()
  for (const { date, minutes, status } of sessions)
    if (status === 'planned') byDay.set(date, (byDay.get(date) ?? 0) + minutes)
  const long = [...byDay].filter(([, minutes]) => minutes > longDayMinutes)
  if (long.length)
    notices.push({
      code: 'long-days',
      message: `${long.length === 1 ? `${long[0]![0]} has` : `${long.length} days have`} more than 6 hours. Long days cost sleep and tell little; a lower cap a day spreads the work.`,
    })
  if (input.availability.daysPerWeek > mostDaysPerWeek)
    notices.push({
      code: 'no-day-off',
      message: 'Seven days a week leave no day off. One free day a week keeps people going.',
    })
  if (hours === 0)
    notices.push({
      code: 'no-time',
      message:
        'There is no free hour left for any topic before the exam. Paint more free time, or choose a later sitting.',
    })
  return notices
}

/**
 * The whole plan: tests and reviews first, then the hours that remain by the exact allocation, placed topic by topic
 * with spacing and improved by local search. Same input and seed, same plan. Throws `PlanProblem` naming the field
 * where no plan can be made.
 */
export function makePlan(input: PlanInput): Plan {
  if (dayNumber(input.sitting.date) - dayNumber(input.today) > mostDaysAhead)
    throw new PlanProblem(
      'target.sitting',
      `the sitting on ${input.sitting.date} is more than three years away; choose a nearer one`,
    )
  const name = numbering(input.kept)
  const { first, exam, taper, stages, calendar, tests } = frame(input, name)
  const taperWork = taperSessions(calendar, taper, exam, input.kept)
  const slots = studySlots(calendar, stages, input.settings.sessionMinutes)
  const filled = input.topics.length ? fillSlots(input, slots) : []
  improve(input, filled, exam)
  const study = filled.map((session): PlanSession => {
    const ids = session.topics.map((at) => input.topics[at]!.id)
    const names = session.topics.map((at) => input.topics[at]!.title)
    return {
      id: name(session.kind === 'mixed' ? 'mixed' : `study.${ids[0]}`),
      date: dateOf(session.day),
      start: timeOf(session.from),
      minutes: session.minutes,
      kind: session.kind,
      title:
        session.kind === 'mixed'
          ? `${titles.mixed}: ${names.join(', ')}`
          : `${titles[session.kind]} ${names[0]}`,
      topics: ids,
      seen: false,
      why: whyOf(input, session),
      pinned: false,
      status: 'planned',
    }
  })
  const made = [...tests.sessions, ...taperWork, ...study]
  const sessions = [...input.kept, ...made].sort(
    (a, b) => a.date.localeCompare(b.date) || a.start.localeCompare(b.start) || a.id.localeCompare(b.id),
  )
  const hours = filled.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  return {
    madeOn: input.today,
    sitting: input.sitting.id,
    seed: input.seed,
    leadTime: leadTimeOf(exam - first),
    phases: phasesOf(stages, taper, exam),
    weeks: weeksOf(calendar, sessions, first, exam),
    notices: [...tests.notices, ...cautions(input, made, hours)],
    sessions,
  }
}

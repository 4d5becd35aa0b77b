import type {
  Availability,
  Form,
  Plan,
  PlanNotice,
  PlanSession,
  PlanWeek,
  Settings,
  Unplaced,
} from '@climber/contract'
import { dateOf, dayNumber, type DayNumber, minuteOf, mondayOf, timeOf } from '../time/day'
import { errands, lightWork, retests } from './around'
import { Calendar } from './calendar'
import { type Filled, fillSlots, studySlots } from './fill'
import { improve } from './improve'
import type { PlanInput } from './input'
import { layStages, leadTimeOf, phasesOf, type PlacedStage, stagesFor } from './phases'
import { byTime } from './session'
import { handOut, quotaMinutes } from './shelf'
import { type PlacedTests, placeTests, testMinutes } from './tests'

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
  tests: PlacedTests
  /** Retests and errands. */
  around: { sessions: PlanSession[]; notices: PlanNotice[] }
  quota: number
}

/** The days of a plan and its free time, before anything is placed. */
export function groundOf(
  input: PlanInput,
  kept: PlanSession[],
  prefer?: Set<DayNumber>,
): Pick<Frame, 'first' | 'exam' | 'taper' | 'stages' | 'calendar'> {
  const first = dayNumber(input.today)
  const exam = Math.min(dayNumber(input.sitting.date), first + mostDaysAhead)
  if (exam <= first)
    throw new PlanProblem(
      'target.sitting',
      `the sitting on ${input.sitting.date} is not after today, ${input.today}; choose a later one`,
    )
  const { settings } = input
  const taper = Math.max(first, exam - settings.taperDays)
  const stages = layStages(stagesFor(leadTimeOf(exam - first), settings), first, taper)
  const calendar = new Calendar(
    input.availability,
    first,
    exam,
    {
      nowMinute: input.nowMinute,
      breakMinutes: settings.breakMinutes,
      slackShare: settings.slackShare,
      sessionMinutes: settings.sessionMinutes,
      longestBlock: testMinutes(input.exam.sections, settings.timeFactor),
      prefer,
    },
    kept,
    input.busy,
  )
  return { first, exam, taper, stages, calendar }
}

/** The calendar with tests, their reviews, retests and errands in it: what is left is for study. */
function frame(input: PlanInput, name = numbering(input.kept)): Frame {
  const ground = groundOf(input, input.kept)
  const { first, exam, taper, stages, calendar } = ground
  const tests = placeTests(input, calendar, stages, first, taper, name)
  const again = retests(input, calendar, tests.sessions, taper, name)
  const out = errands(input, calendar, first, taper, exam)
  return {
    ...ground,
    tests,
    around: {
      sessions: [...again.sessions, ...out.sessions],
      notices: [...again.notices, ...out.notices],
    },
    quota: quotaMinutes(input.shelf),
  }
}

/** Hours that are left for topics once tests, their reviews and slack are taken out. */
export function studyHours(input: PlanInput): number {
  const { calendar, stages, quota } = frame(input)
  return studySlots(calendar, stages, input.settings.sessionMinutes, quota).reduce(
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
  const { instead } = session.figures
  const other =
    instead &&
    ` In its place ${input.topics[instead.topic]!.title} would give ${points(instead.yield)}${instead.yield > session.figures.yield ? '; it has sessions of its own' : ''}.`
  const since = daysSince > 0 ? ` Last touched ${days(daysSince)} before.` : ''
  return {
    text: `${topic.title} is ${percent(topic.share)} of the exam and you will know about ${percent(known)} of it by then; an hour here is worth about ${points(session.figures.yield)} points.${other ?? ''}${since}`,
    figures,
  }
}
const days = (n: number) => (n === 1 ? '1 day' : `${n} days`)

const titles = { learn: 'Learn', drill: 'Drill', mixed: 'Mixed set' } as const

/** Numbers ids on from the sessions that stay, so that a session keeps its id when the plan is made again. */
export function numbering(kept: PlanSession[]): (key: string) => string {
  const used = new Set(kept.map(({ id }) => id))
  const next = new Map<string, number>()
  return (key) => {
    let ordinal = (next.get(key) ?? 0) + 1
    while (used.has(`${key}.${ordinal}`)) ordinal++
    next.set(key, ordinal)
    return `${key}.${ordinal}`
  }
}

export function weeksOf(
  calendar: Calendar,
  sessions: PlanSession[],
  first: DayNumber,
  exam: DayNumber,
): PlanWeek[] {
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

export function cautions(input: PlanInput, sessions: PlanSession[], hours: number): PlanNotice[] {
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

/** Local search goes by yield alone, so it would undo an order that was asked for. */
export const mayImprove = ({ settings: { schools } }: PlanInput): boolean =>
  (schools?.order ?? 'yield') === 'yield' && (schools?.subjects ?? 'mixed') === 'mixed'

export const filledDays = (input: PlanInput, filled: Filled[]): { day: DayNumber; topics: string[] }[] =>
  filled.map(({ day, topics }) => ({ day, topics: topics.map((at) => input.topics[at]!.id) }))

/** Sessions from filled slots, with what of the shelf they work through and why they stand there. */
export function studySessions(
  input: PlanInput,
  filled: Filled[],
  name: (key: string) => string,
): PlanSession[] {
  const materials = handOut(input.shelf, input.topics, filled, input.kept)
  const staged = new Set(input.exam.sections.flatMap(({ id, stages }) => (stages?.length ? [id] : [])))
  return filled.map((session, index): PlanSession => {
    const lead = input.topics[session.topics[0]!]!
    const ids = session.topics.map((at) => input.topics[at]!.id)
    const names = session.topics.map((at) => input.topics[at]!.title)
    const material = materials[index]
    const adaptive =
      session.kind !== 'learn' && staged.has(lead.section)
        ? session.stage.rehearsal
          ? ', second stages'
          : ', first stage'
        : ''
    return {
      id: name(session.kind === 'mixed' ? 'mixed' : `study.${ids[0]}`),
      date: dateOf(session.day),
      start: timeOf(session.from),
      minutes: session.minutes,
      kind: session.kind,
      title:
        session.kind === 'mixed'
          ? `${titles.mixed}: ${names.join(', ')}${adaptive}`.slice(0, 300)
          : `${titles[session.kind]} ${names[0]}${adaptive}`,
      topics: ids,
      seen: false,
      ...(material && { material }),
      why: whyOf(input, session),
      pinned: false,
      status: 'planned',
    }
  })
}

const trayTest = (input: PlanInput, form: Form): Unplaced => ({
  id: `test.${form.id}.tray`,
  minutes: testMinutes(input.exam.sections, input.settings.timeFactor),
  kind: 'test',
  title: form.title,
  topics: [],
  form: form.id,
  seen: false,
  why: {
    text: 'A test that found no place of its own. Placed by hand, it wants its review too.',
    figures: {},
  },
  pinned: false,
  status: 'planned',
})

/** Changes of one thing that may make room, smallest first; each is tried out. */
function changesToTry(input: PlanInput): { words: string; changed: PlanInput }[] {
  const { availability, settings } = input
  const full = testMinutes(input.exam.sections, settings.timeFactor)
  const time = (change: Partial<Availability>) => ({ ...input, availability: { ...availability, ...change } })
  const habit = (change: Partial<Settings>) => ({ ...input, settings: { ...settings, ...change } })
  const tries: { words: string; changed: PlanInput }[] = []
  if (settings.reviewRatio > 1)
    tries.push({ words: 'a review as long as the test', changed: habit({ reviewRatio: 1 }) })
  if (availability.daysPerWeek < 6)
    tries.push({
      words: `${availability.daysPerWeek + 1} days a week`,
      changed: time({ daysPerWeek: availability.daysPerWeek + 1 }),
    })
  const cap = Math.min(900, Math.ceil((Math.max(full, availability.minutesPerDay) + 60) / 30) * 30)
  tries.push({ words: `a cap of ${cap} minutes a day`, changed: time({ minutesPerDay: cap }) })
  const from = Math.min(minuteOf(input.sitting.start), 1380 - full)
  if (from >= 360) {
    const block = { from: timeOf(from), to: timeOf(from + full) }
    for (const [weekday, words] of [
      [6, 'Saturdays'],
      [7, 'Sundays'],
    ] as const) {
      const windows = [
        ...availability.windows.filter((one) => one.weekday !== weekday),
        { weekday, ...block },
      ]
      tries.push({ words: `${words} free from ${block.from} to ${block.to}`, changed: time({ windows }) })
    }
  }
  tries.push({
    words: 'ten per cent less slack',
    changed: habit({ slackShare: Math.max(0, settings.slackShare - 0.1) }),
  })
  return tries
}

/** Each notice with the one change that, tried out, removes it; none where no single change of those tried does. */
function withRemedies(input: PlanInput, notices: PlanNotice[]): PlanNotice[] {
  const open = notices.filter(
    ({ code }) => code === 'test-no-room' || code === 'tests-thinned' || code === 'retest-no-room',
  )
  if (!open.length) return notices
  const found = new Map<string, string>()
  for (const { words, changed } of changesToTry(input)) {
    if (found.size === open.length) break
    const { tests, around } = frame(changed)
    const still = new Set([...tests.notices, ...around.notices].map(({ code }) => code))
    for (const { code } of open)
      if (!still.has(code) && !found.has(code)) found.set(code, `Tried out: ${words} would make it fit.`)
  }
  return notices.map((notice) => {
    if (!open.includes(notice)) return notice
    return {
      ...notice,
      remedy: found.get(notice.code) ?? 'No single change of those tried makes it all fit.',
    }
  })
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
  const { first, exam, taper, stages, calendar, tests, around, quota } = frame(input, name)
  const slots = studySlots(calendar, stages, input.settings.sessionMinutes, quota)
  const filled = input.topics.length ? fillSlots(input, slots) : []
  if (mayImprove(input)) improve(input, filled, exam)
  const study = studySessions(input, filled, name)
  const light = lightWork(input, calendar, filledDays(input, filled), taper, name)
  const made = [...tests.sessions, ...around.sessions, ...study, ...light]
  const sessions = [...input.kept, ...made].sort(byTime)
  const hours = filled.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  return {
    madeOn: input.today,
    sitting: input.sitting.id,
    seed: input.seed,
    leadTime: leadTimeOf(exam - first),
    phases: phasesOf(stages, taper, exam),
    weeks: weeksOf(calendar, sessions, first, exam),
    notices: [...withRemedies(input, [...tests.notices, ...around.notices]), ...cautions(input, made, hours)],
    ...(tests.unplaced.length && { unplaced: tests.unplaced.map((form) => trayTest(input, form)) }),
    sessions,
  }
}

import type { Plan, PlanSession, TestSession } from '@climber/contract'
import { at, begins, type CheckInput, clock, ends, sumOf, weekday, weekOf } from './facts'

/** What a grader knows beyond what the checker does: what there is to learn, and from what. */
export interface GradeInput extends CheckInput {
  topics: { id: string; share: number; known: number; met: boolean }[]
  /** Chapters of the books, pages counted from the front of each. */
  chapters: { book: string; from: number; to: number; topics: string[] }[]
}

export type Mark = 'good' | 'fair' | 'poor'
/** One thing that a tutor looks for in a plan; what was found where it is not as good as can be. */
export interface Grade {
  of: string
  mark: Mark
  found?: string
}

interface Seen {
  input: GradeInput
  plan: Plan
  /** What the plan placed, in order of time. */
  made: PlanSession[]
  today: number
  exam: number
  taper: number
  said: (code: string) => boolean
}
type Look = (seen: Seen) => Grade | undefined

const fairly = 0.5
const strongly = 0.7
const lastDays = 10
const shortest = 25
const quiet = 90

const isStudy = ({ kind }: PlanSession) => kind === 'learn' || kind === 'drill' || kind === 'mixed'
const isLight = ({ kind }: PlanSession) => kind === 'light' || kind === 'errand'
const isTest = (session: PlanSession): session is TestSession => session.kind === 'test'
const isWhole = (session: PlanSession): session is TestSession => isTest(session) && !session.sections
const topicsIn = (session: PlanSession): string[] => ('topics' in session ? session.topics : [])
const grade = (of: string, faults: string[], mark: Mark = 'poor'): Grade =>
  faults.length ? { of, mark, found: faults.slice(0, 3).join('; ') } : { of, mark: 'good' }

/** Every full week of study has a test, a section or a timed set. */
const weeklyTimedWork: Look = ({ made, today, taper }) => {
  const without: string[] = []
  for (let monday = weekOf(today + 6); monday + 7 <= taper; monday += 7) {
    const own = made.filter(({ date }) => at(date) >= monday && at(date) < monday + 7)
    const works = own.some((session) => isStudy(session) && session.minutes >= shortest)
    if (works && !own.some((one) => isTest(one) || ('timed' in one && one.timed)))
      without.push(`nothing timed in the week of ${own[0]?.date}`)
  }
  return grade('weekly timed work', without, without.length > 1 ? 'poor' : 'fair')
}

const lastRehearsal: Look = ({ made, input, exam, taper, said }) => {
  const free = [...Array(lastDays).keys()].some((back) =>
    made.some(({ date }) => at(date) === exam - 1 - back),
  )
  const there = [...made, ...input.kept].some(
    (one) => isWhole(one) && at(one.date) >= exam - lastDays && at(one.date) < exam,
  )
  if (there || !free || taper <= at(input.today)) return grade('last rehearsal', [])
  return grade('last rehearsal', ['none in the last ten days'], said('no-rehearsal') ? 'fair' : 'poor')
}

/**
 * Unseen papers are used, whole or for their questions, but for one in reserve that the tray holds; or it is said that they are not. None is
 * idle while none is said to be left.
 */
const papersUsed: Look = ({ input, plan, made, said }) => {
  const worked = [...input.kept, ...made].map((one) => ('material' in one ? one.material?.form : undefined))
  const used = new Set([
    ...[...input.sat, ...input.kept.filter(isTest), ...made.filter(isTest)].map(({ form }) => form),
    ...worked,
  ])
  const idle = input.exam.forms.filter(({ id }) => !used.has(id))
  const inTray = plan.unplaced?.some((piece) => 'form' in piece && piece.form === idle[0]?.id)
  if (idle.length === 1 && inTray && !said('no-form')) return grade('papers used', [])
  const honest = said('forms-unused') && !said('no-form')
  return grade(
    'papers used',
    idle.length ? [`${idle.length} of ${input.exam.forms.length} idle`] : [],
    honest ? 'fair' : 'poor',
  )
}

/** Chapters that are begun are finished. */
const pagesFinished: Look = ({ input, made, said }) => {
  if (!input.chapters.length) return undefined
  const read = [...made, ...input.kept].flatMap((session) => {
    const material = 'material' in session ? session.material : undefined
    return material?.pages
      ? [{ book: material.id, from: material.from ?? 0, to: (material.from ?? 0) + material.pages }]
      : []
  })
  const half = input.chapters.filter(({ book, from, to }) => {
    const pages = read
      .filter((one) => one.book === book)
      .reduce((sum, one) => sum + Math.max(0, Math.min(one.to, to) - Math.max(one.from, from)), 0)
    return pages > 0 && pages < to - from - 0.01
  })
  return grade(
    'pages finished',
    half.length ? [`${half.length} chapters half read`] : [],
    said('books-unfinished') ? 'fair' : 'poor',
  )
}

const noLargeTopicUntouched: Look = ({ input, made, said }) => {
  const met = new Set([...made, ...input.kept].flatMap(topicsIn))
  const left = input.topics.filter(
    ({ id, share, known, met: before }) => share > 0.02 && known < fairly && !before && !met.has(id),
  )
  return grade(
    'large topics touched',
    left.map(({ id }) => `${id} untouched`),
    said('topics-left-out') ? 'fair' : 'poor',
  )
}

/** Free windows of a day. */
function windowsOn(
  { availability }: GradeInput,
  date: string,
): { from: string; to: string; light?: boolean }[] {
  if (availability.daysOff.includes(date)) return []
  const dated = availability.exceptions.find((one) => one.date === date)
  return dated?.windows ?? availability.windows.filter((one) => one.weekday === weekday(at(date)))
}

/** No session is too short to get into something, but in a window that holds no longer one; a test is as long as the exam is. */
const noCrumb: Look = ({ input, made }) => {
  const least = Math.min(shortest, input.settings.sessionMinutes)
  const crumbs = made.filter(
    (one) =>
      !isLight(one) &&
      one.kind !== 'test' &&
      one.minutes < least &&
      !windowsOn(input, one.date).some(
        ({ from, to }) =>
          clock(from) <= clock(one.start) && clock(one.start) < clock(to) && clock(to) - clock(from) < least,
      ),
  )
  return grade(
    'no crumb',
    crumbs.map(({ id, minutes }) => `${id} of ${minutes} min`),
    crumbs.length > 1 ? 'poor' : 'fair',
  )
}

const restDay: Look = ({ input, made }) => {
  if (input.availability.daysPerWeek > 6) return undefined
  const weeks = new Map<number, Set<string>>()
  for (const session of made) {
    const week = weeks.get(weekOf(at(session.date))) ?? new Set()
    if (!isLight(session)) weeks.set(weekOf(at(session.date)), week.add(session.date))
  }
  return grade(
    'a day of rest',
    [...weeks].filter(([, days]) => days.size > 6).map(([monday]) => `none in the week of day ${monday}`),
  )
}

/** Each test has all of its review, begun within some days, before the next test. */
const reviewsWithTests: Look = ({ input, made, said }) => {
  const faults: string[] = []
  const tests = made.filter(isTest)
  for (const test of tests) {
    if (test.split && test.split.number < test.split.of) continue
    const reviews = made.filter((one) => one.kind === 'review' && one.of === test.id)
    const whole = test.split?.wholeMinutes ?? test.minutes
    const [first] = reviews
    if (sumOf(reviews) < whole * input.settings.reviewRatio - 2.5 && !said('short-review'))
      faults.push(`${test.id} lacks review`)
    else if (first && at(first.date) - at(test.date) > 7)
      faults.push(`${test.id} is reviewed only on ${first.date}`)
  }
  return grade('reviews with their tests', faults)
}

const firstFortnight: Look = ({ input, made, today }) => {
  const faults: string[] = []
  const early = made.filter(({ date }) => at(date) < today + 14)
  const known = new Map(input.topics.map((topic) => [topic.id, topic.known]))
  const opening = made.find(isStudy)
  const [lead = ''] = opening ? topicsIn(opening) : []
  const weaker = input.topics.some((topic) => topic.known < strongly - 0.1 && topic.share > 0.02)
  if (opening && !('remedy' in opening && opening.remedy) && known.get(lead)! >= strongly && weaker)
    faults.push(`opens with ${lead}, which is strong`)
  if (!early.length && made.length) faults.push('nothing in the first fortnight')
  return grade('first fortnight', faults, 'fair')
}

/** Nothing is met for the first time in the last three days, and the taper is light. */
const lastFortnight: Look = ({ input, made, exam, taper }) => {
  const met = new Set(input.topics.flatMap(({ id, met: before }) => (before ? [id] : [])))
  const faults: string[] = []
  for (const session of made) {
    const day = at(session.date)
    if (day >= taper && !isLight(session)) faults.push(`${session.kind} in the taper`)
    if (session.kind === 'learn' && day >= exam - 3 && day > at(input.today) + 3)
      for (const id of topicsIn(session))
        if (!met.has(id)) faults.push(`${id} is new ${exam - day} days before`)
    topicsIn(session).forEach((id) => met.add(id))
  }
  return grade('last fortnight', faults, 'fair')
}

const quietBeforeTests: Look = ({ made }) => {
  const faults = made
    .filter(isWhole)
    .flatMap((test) =>
      made.filter((one) => isStudy(one) && begins(one) < begins(test) && ends(one) > begins(test) - quiet),
    )
  return grade(
    'quiet before a test',
    faults.map(({ id }) => `${id} right before one`),
  )
}

const noFirstMeetingMixed: Look = ({ input, made }) => {
  const met = new Set([
    ...input.topics.flatMap(({ id, met: before }) => (before ? [id] : [])),
    ...input.kept.flatMap(topicsIn),
  ])
  const faults: string[] = []
  for (const session of made) {
    if (session.kind === 'mixed')
      for (const id of topicsIn(session)) if (!met.has(id)) faults.push(`${id} is met first in ${session.id}`)
    if (session.kind !== 'light') topicsIn(session).forEach((id) => met.add(id))
  }
  return grade('no first meeting in a mixed set', faults)
}

/** Of the painted time within the caps, less slack, so much is used, breaks between sessions counted as used. */
const timeUsed: Look = ({ input, made, today, taper }) => {
  const { availability, settings } = input
  const lightless = made.filter((one) => !isLight(one))
  const weeks = new Map<number, number[]>()
  for (let day = Math.max(today + 1, weekOf(today + 6)); day < taper; day++) {
    const date = new Date(day * 86_400_000).toISOString().slice(0, 10)
    const free = windowsOn(input, date)
      .filter(({ light }) => !light)
      .reduce((sum, { from, to }) => sum + clock(to) - clock(from), 0)
    const own = Math.min(free, availability.minutesPerDay)
    weeks.set(weekOf(day), [...(weeks.get(weekOf(day)) ?? []), own])
  }
  let painted = 0
  for (const days of weeks.values()) {
    const best = [...days].sort((a, b) => b - a).slice(0, availability.daysPerWeek)
    painted += Math.min(
      availability.minutesPerWeek ?? Infinity,
      best.reduce((a, b) => a + b, 0),
    )
  }
  const from = Math.max(today + 1, weekOf(today + 6))
  let used = 0
  for (const session of lightless) {
    if (at(session.date) < from) continue
    const next = lightless.find(
      (one) =>
        one.date === session.date &&
        begins(one) >= ends(session) &&
        begins(one) - ends(session) <= settings.breakMinutes + 5,
    )
    used += session.minutes + (next ? begins(next) - ends(session) : 0)
  }
  if (painted < 600 || input.busy.length) return undefined
  const share = used / (painted * (1 - settings.slackShare))
  const words = [`${Math.round(100 * share)}% of the time is used`]
  return grade('time used', share < 0.85 ? words : [], share < 0.7 ? 'poor' : 'fair')
}

const looks: Look[] = [
  weeklyTimedWork,
  lastRehearsal,
  papersUsed,
  pagesFinished,
  noLargeTopicUntouched,
  noCrumb,
  restDay,
  reviewsWithTests,
  firstFortnight,
  lastFortnight,
  quietBeforeTests,
  noFirstMeetingMixed,
  timeUsed,
]

/**
 * A plan just made, graded as a tutor would look it over before handing it on: what is not as good as can be is fair where the plan says so
 * itself or it hardly matters, and poor else. What there is nothing to say of is not in the answer. It shares no code with the planner.
 */
export function gradePlan(input: GradeInput, plan: Plan): Grade[] {
  const kept = new Set(input.kept.map(({ id }) => id))
  const exam = at(input.sitting.date)
  const seen: Seen = {
    input,
    plan,
    made: plan.sessions
      .filter(({ id, status }) => !kept.has(id) && status === 'planned')
      .sort((a, b) => begins(a) - begins(b)),
    today: at(input.today),
    exam,
    taper: exam - input.settings.taperDays,
    said: (code) => plan.notices.some((notice) => notice.code === code),
  }
  return looks.flatMap((look) => look(seen) ?? [])
}

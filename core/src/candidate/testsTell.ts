import type { TestSession } from '@climber/contract'
import { attemptTitle, formOf } from '../attempts/sat'
import { makerOf } from '../learner/answers'
import { type Estimate, weightedMean } from '../learner/estimate'
import { isOpen, isTest } from '../sessions/session'
import { dayNumber } from '../time/day'
import { type Assessment, assess, expectedOf, exposureOn, scoresOn } from './assessment'
import type { CandidateRecord, Moment } from './moment'
import { planOdds } from './odds'

/** A figure without a test, and with it. */
interface Moved {
  before: number
  after: number
}

/** What the newest test that counts changed, and why. */
export interface LastTest {
  id: string
  title: string
  date: string
  score: number
  /** What was to be expected of it by everything else. */
  expected: Estimate
  /** What a paper of the publisher's would score today. */
  today: Moved
  odds?: Moved
  forecast?: Moved
  /** Points by which this maker's papers are thought to run above the exam; only of another maker's. */
  maker?: Moved
  /** Points of the surprise that are put down to the day and the luck of its items. */
  luck: number
  /** Of the items of the exam, the share that is got to. */
  reach: Moved
  /** The topics that moved most, the most moved first. */
  topics: ({ id: string } & Moved)[]
}

/** The next test of the plan: what to expect of it, and what would call for another look at the plan. */
export interface NextTest {
  session: string
  date: string
  title?: string
  expected: Estimate
}

export interface TestsTell {
  last?: LastTest
  next?: NextTest
}

/** Topics that are told. */
const mostTopics = 3

/** What a paper of a maker would score on a day. */
const ofMaker = (assessment: Assessment, day: number, maker?: string): Estimate =>
  expectedOf(assessment, scoresOn(assessment, day, 'kept', maker))

/** Mean share of the paper that is got to today, over the sections by their items. */
function reachOf(assessment: Assessment): number {
  const { learner, record } = assessment
  const reach = learner.reach(exposureOn(assessment, assessment.today))
  return reach.reduce((sum, own) => sum + weightedMean(own, learner.weights), 0) / record.exam.sections.length
}

function lastTest(assessment: Assessment): LastTest | undefined {
  const { record, now, scored, today } = assessment
  const last = scored.filter(({ test }) => !test.seen).at(-1)
  if (!last) return undefined
  const { test, score } = last
  const without = assess({ ...record, attempts: record.attempts.filter(({ id }) => id !== test.id) }, now)
  const maker = makerOf(record.exam, test, record.materials)
  const expected = ofMaker(without, dayNumber(test.date), maker)
  const level = (of: Assessment) => expectedOf(of, scoresOn(of, today)).mean
  const moved = (of: (one: Assessment) => number): Moved => ({ before: of(without), after: of(assessment) })
  const levels = moved(level)
  const makers =
    maker === undefined ? undefined : moved((one) => ofMaker(one, today, maker).mean - level(one))
  const odds = [without, assessment].map(planOdds)
  const topics = record.exam.topics
    .map(({ id }, at) => ({ id, before: without.known[at]!, after: assessment.known[at]! }))
    .sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before))
  return {
    id: test.id,
    title: attemptTitle(record.exam, test),
    date: test.date,
    score: score.composite,
    expected,
    today: levels,
    ...(odds[0]?.odds !== undefined && {
      odds: { before: odds[0].odds, after: odds[1]!.odds! },
      forecast: { before: odds[0].forecast.mean, after: odds[1]!.forecast.mean },
    }),
    ...(makers && { maker: makers }),
    luck:
      score.composite -
      expected.mean -
      (levels.after - levels.before) -
      (makers ? makers.after - makers.before : 0),
    reach: moved(reachOf),
    topics: topics.slice(0, mostTopics),
  }
}

function nextTest(assessment: Assessment): NextTest | undefined {
  const { record, now } = assessment
  if (!assessment.learner.measured) return undefined
  const session = (record.plan?.sessions ?? [])
    .filter((one): one is TestSession => isTest(one) && isOpen(one, now.date) && !one.seen)
    .sort((a, b) => a.date.localeCompare(b.date))[0]
  if (!session) return undefined
  const form = formOf(record.exam, session)
  const maker =
    form?.source === 'publisher' ? undefined : makerOf(record.exam, asSat(session), record.materials)
  return {
    session: session.id,
    date: session.date,
    ...(form && { title: form.title }),
    expected: ofMaker(assessment, dayNumber(session.date), maker),
  }
}

/** What the form of a session says of who wrote it, as of something that was sat. */
const asSat = ({ form }: TestSession) => ({ kind: 'practice' as const, ...(form !== undefined && { form }) })

/** What the newest test changed and why, and what to expect of the next. */
export function testsTell(record: CandidateRecord, now: Moment): TestsTell {
  const assessment = assess(record, now)
  const [last, next] = [lastTest(assessment), nextTest(assessment)]
  return { ...(last && { last }), ...(next && { next }) }
}

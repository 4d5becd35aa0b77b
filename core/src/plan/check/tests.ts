import type { PlanSession, TestSession } from '@climber/contract'
import { at, begins, clock, ends, type Fail, type Facts, type Rule, sumOf } from './facts'

/** A test that was placed, in one part or in several; or sections by themselves. */
interface Whole {
  parts: TestSession[]
  first: TestSession
  last: TestSession
}

const isTest = (session: PlanSession): session is TestSession => session.kind === 'test'
const sectionsIn = (test: TestSession): string[] | undefined => test.split?.sections ?? test.sections
const overlap = (one: string[] | undefined, other: string[] | undefined): boolean =>
  !one || !other || one.some((id) => other.includes(id))

/** Tests in order of time, the parts of one together. */
function wholeTests({ live }: Facts): Whole[] {
  const tests = live.filter(isTest)
  const byId = new Map(tests.map((test) => [test.id, test]))
  const met = new Set<string>()
  const whole: Whole[] = []
  for (const test of tests) {
    if (met.has(test.id)) continue
    const parts = [test]
    for (let next = byId.get(test.split?.other ?? ''); next && !parts.includes(next);) {
      parts.push(next)
      next = byId.get(next.split?.other ?? '')
    }
    parts.forEach(({ id }) => met.add(id))
    parts.sort((a, b) => begins(a) - begins(b))
    whole.push({ parts, first: parts[0] ?? test, last: parts[parts.length - 1] ?? test })
  }
  return whole
}

/** Sections that are sat in a test as it stands: one that is split may have lost a part. Undefined for all. */
const covers = ({ parts, first }: Whole): string[] | undefined =>
  first.split ? parts.flatMap((part) => part.split?.sections ?? []) : first.sections

/** Minutes of the whole exam, or of some of its sections, with their breaks. */
function lengthOf({ input: { exam, settings } }: Facts, ids?: string[]): number {
  const sections = exam.sections.filter(({ id }) => !ids || ids.includes(id))
  return sections.reduce(
    (sum, section, place) =>
      sum +
      Math.ceil(section.minutes * settings.timeFactor) +
      (place + 1 < sections.length ? Math.ceil(section.breakAfter) : 0),
    0,
  )
}

function lengthAndHour(facts: Facts, { parts, first }: Whole, fail: Fail): void {
  const { exam, sitting } = facts.input
  for (const part of parts) {
    const due = lengthOf(facts, sectionsIn(part))
    if (part.minutes !== due) fail('test-length', `${part.id} is ${part.minutes} minutes, not ${due}`)
  }
  if (first.sections) return
  const covered = parts.flatMap(({ split }) => split?.sections ?? exam.sections.map(({ id }) => id))
  if (covered.length !== exam.sections.length || new Set(covered).size !== exam.sections.length)
    fail('test-length', `${first.id} does not cover every section once`)
  if (parts.length > 1 && !parts.every(({ split, hour }) => split && hour))
    fail('test-said', `${first.id} is split and not marked so`)
  if (parts.some(({ split }, place) => split && (split.number !== place + 1 || split.of !== parts.length)))
    fail('test-said', `the parts of ${first.id} are not sat in their order`)
  if (clock(first.start) !== clock(sitting.start) && !first.hour)
    fail('test-said', `${first.id} is not at the exam's time of day and does not say why`)
}

const lastDays = 10
/** A whole test in the last days before the exam. */
const isLastRehearsal = ({ examDay }: Facts, { first, last }: Whole): boolean =>
  !first.sections && at(last.date) >= examDay - lastDays

function reviewed(facts: Facts, test: Whole, next: TestSession | undefined, fail: Fail): void {
  const { input, plan, live, keptIds } = facts
  const { last, first } = test
  const due = lengthOf(facts, first.sections) * input.settings.reviewRatio
  const nextStart = next && !keptIds.has(next.id) ? begins(next) : Infinity
  const reviews = live.filter((session) => session.kind === 'review' && session.of === last.id)
  const minutes = sumOf(reviews)
  const mayBeShort = isLastRehearsal(facts, test) && plan.notices.some(({ code }) => code === 'short-review')
  if (Math.abs(minutes - due) > 2.5 && !(mayBeShort && minutes < due))
    fail('review', `${last.id} has ${minutes} minutes of review; ${due} are due`)
  for (const review of reviews) {
    if (begins(review) < ends(last)) fail('review', `${review.id} comes before its test has ended`)
    if (ends(review) > nextStart) fail('review', `${review.id} is not finished before the next test`)
  }
}

/** Whether a day is one of those for rehearsing, by the names of their phases. */
function inRehearsal({ input: { settings }, plan }: Facts, date: string): boolean {
  const names = settings.stages
    ? settings.stages.filter((stage) => stage.rehearsal).map(({ name }) => name)
    : ['Rehearse', 'Sprint']
  return plan.phases.some(({ name, from, to }) => names.includes(name) && from <= date && date <= to)
}

/** Whether a form is the publisher's, or kept for rehearsal all the same. */
const isKept = ({ exam, reserved }: Facts['input'], id: string | undefined): boolean =>
  exam.forms.some((form) => form.id === id && (form.source === 'publisher' || reserved?.includes(form.id)))

/** The publisher's forms, and those kept, are for the end: nothing but these is sat after one. */
function keptForTheEnd(facts: Facts, tests: Whole[], { first, last }: Whole, fail: Fail): void {
  const { input, examDay, keptIds } = facts
  const { settings } = input
  const inPhase = inRehearsal(facts, first.date)
  const asked = (settings.rehearsals ?? []).some((days) => Math.abs(examDay - days - at(first.date)) <= 3)
  const lately = at(last.date) >= examDay - lastDays
  const later = tests.filter(
    (other) =>
      begins(other.first) > begins(first) &&
      !other.first.sections &&
      !other.first.seen &&
      !keptIds.has(other.first.id),
  )
  if (
    first.sections ||
    (!inPhase && !asked && !lately && !later.every((other) => isKept(input, other.first.form)))
  )
    fail('reserved', `${first.id} uses ${first.form}, which is kept for rehearsal, before that`)
}

function formIsFree(facts: Facts, tests: Whole[], place: number, fail: Fail): void {
  const { input, live } = facts
  const test = tests[place]
  if (!test) return
  const { first } = test
  if (first.sections && first.form === undefined) return
  const form = input.exam.forms.find(({ id }) => id === first.form)
  if (!form) return fail('resit', `${first.id} has no form of this exam`)
  const before = tests.slice(0, place)
  const isBaseline =
    !input.measured &&
    !live.some((other) => isTest(other) && !other.sections && begins(other) < begins(first))
  if (form.source === 'publisher' && !first.seen && !isBaseline) keptForTheEnd(facts, tests, test, fail)
  const own = first.sections
  const earlier = [
    ...input.sat
      .filter((one) => one.form === form.id && overlap(one.sections, own))
      .map(({ date }) => at(date)),
    ...before
      .filter((other) => other.first.form === form.id && overlap(covers(other), own))
      .map(({ last }) => at(last.date)),
  ]
  if (earlier.length && !first.seen) fail('resit', `${first.id} was sat before and is not marked seen`)
  if (earlier.some((day) => at(first.date) - day < 21))
    fail('resit', `${first.id} comes less than 21 days after the same form`)
}

/** Each test placed: its length and parts, its hour, its review, the form it uses. */
export const testsInOrder: Rule = (facts, fail) => {
  const whole = wholeTests(facts)
  whole.forEach((test, place) => {
    if (facts.keptIds.has(test.first.id)) return
    lengthAndHour(facts, test, fail)
    reviewed(facts, test, whole[place + 1]?.first, fail)
    formIsFree(facts, whole, place, fail)
  })
}

/** A timed set fits into its session, and is of something. */
export const timedSetsFit: Rule = ({ made }, fail) => {
  for (const session of made) {
    const timed = 'timed' in session ? session.timed : undefined
    if (!timed || !('topics' in session)) continue
    if (timed.seconds > session.minutes * 60 || timed.items < 1 || !session.topics.length)
      fail('timed', `${session.id} has ${timed.items} items in ${timed.seconds} s and ${session.minutes} min`)
  }
}

/** Questions of a paper are worked once on each topic, of one that is kept for rehearsal only then, and of none that is sat unseen. */
export const questionsOnce: Rule = (facts, fail) => {
  const { input, live, keptIds } = facts
  const taken = new Set<string>()
  for (const session of live) {
    const form = 'material' in session ? session.material?.form : undefined
    if (form === undefined || !('topics' in session) || session.rest) continue
    const pairs = session.topics.map((topic) => `${form} ${topic}`)
    if (!keptIds.has(session.id)) {
      const takes = `${session.id} takes questions of ${form}`
      const known = input.exam.forms.some(({ id }) => id === form)
      if ((isKept(input, form) || !known) && !inRehearsal(facts, session.date))
        fail('reserved', `${takes}, which is kept for rehearsal`)
      if (live.some((test) => isTest(test) && test.form === form && !test.seen))
        fail('resit', `${takes}, which is sat unseen`)
      if (pairs.some((pair) => taken.has(pair))) fail('resit', `${takes} that were worked`)
    }
    for (const pair of pairs) taken.add(pair)
  }
}

/** A retest comes its days after the review. */
export const retestsWait: Rule = ({ input, made, live }, fail) => {
  const days = input.settings.retestDays ?? 7
  for (const retest of made) {
    if (retest.kind !== 'retest') continue
    const reviews = live.flatMap((session) =>
      session.kind === 'review' && session.of === retest.of ? [at(session.date)] : [],
    )
    const waited = at(retest.date) - Math.max(...reviews)
    if (reviews.length && waited < days) fail('retest', `${retest.id} comes ${waited} days after its review`)
  }
}

import type { PlanSession, TestSession } from '@climber/contract'
import { at, begins, clock, ends, type Fail, type Facts, type Rule, sumOf } from './facts'

/** A test that was placed, in one part or in two. */
interface Whole {
  parts: TestSession[]
  first: TestSession
  last: TestSession
}

const daysApart = 17
const isTest = (session: PlanSession): session is TestSession => session.kind === 'test'

/** Tests in order of time, the parts of a split one together. */
function wholeTests({ live }: Facts): Whole[] {
  const whole: Whole[] = []
  for (const test of live.filter(isTest)) {
    const before = whole[whole.length - 1]
    const own = test.split?.sections
    const other = before?.first.split?.sections
    if (
      before &&
      own &&
      other &&
      before.first.form === test.form &&
      before.parts.length === 1 &&
      at(test.date) - at(before.first.date) < daysApart &&
      !own.some((id) => other.includes(id))
    ) {
      before.parts.push(test)
      before.last = test
    } else whole.push({ parts: [test], first: test, last: test })
  }
  return whole
}

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
    const due = lengthOf(facts, part.split?.sections)
    if (part.minutes !== due) fail('test-length', `${part.id} is ${part.minutes} minutes, not ${due}`)
  }
  const covered = parts.flatMap(({ split }) => split?.sections ?? exam.sections.map(({ id }) => id))
  if (covered.length !== exam.sections.length || new Set(covered).size !== exam.sections.length)
    fail('test-length', `${first.id} does not cover every section once`)
  if (parts.length > 1 && !parts.every(({ split, hour }) => split && hour))
    fail('test-said', `${first.id} is split and not marked so`)
  const [one, two] = parts
  if (one && two && (one.split?.other !== two.id || two.split?.other !== one.id))
    fail('test-said', `${one.id} and ${two.id} do not know of each other`)
  if (clock(first.start) !== clock(sitting.start) && !first.hour)
    fail('test-said', `${first.id} is not at the exam's time of day and does not say why`)
}

function reviewed(facts: Facts, { last }: Whole, next: TestSession | undefined, fail: Fail): void {
  const { input, live, keptIds } = facts
  const due = lengthOf(facts) * input.settings.reviewRatio
  const nextStart = next && !keptIds.has(next.id) ? begins(next) : Infinity
  const reviews = live.filter((session) => session.kind === 'review' && session.of === last.id)
  const minutes = sumOf(reviews)
  if (Math.abs(minutes - due) > 2.5)
    fail('review', `${last.id} has ${minutes} minutes of review; ${due} are due`)
  for (const review of reviews) {
    if (begins(review) < ends(last)) fail('review', `${review.id} comes before its test has ended`)
    if (ends(review) > nextStart) fail('review', `${review.id} is not finished before the next test`)
  }
}

function formIsFree(facts: Facts, earlierTests: Whole[], { first }: Whole, fail: Fail): void {
  const { input, plan, examDay } = facts
  const { settings } = input
  const form = input.exam.forms.find(({ id }) => id === first.form)
  if (!form) return fail('resit', `${first.id} has no form of this exam`)
  const names = settings.stages
    ? settings.stages.filter((stage) => stage.rehearsal).map(({ name }) => name)
    : ['Rehearse', 'Sprint']
  const inPhase = plan.phases.some(
    ({ name, from, to }) => names.includes(name) && from <= first.date && first.date <= to,
  )
  const asked = (settings.rehearsals ?? []).some((days) => Math.abs(examDay - days - at(first.date)) <= 3)
  const baseline = !earlierTests.length && !input.measured
  if (form.source === 'publisher' && !first.seen && !inPhase && !asked && !baseline)
    fail('reserved', `${first.id} uses the publisher's ${form.id} before rehearsal`)
  const earlier = [
    ...input.sat.filter((sitting) => sitting.form === form.id).map(({ date }) => at(date)),
    ...earlierTests.filter((other) => other.first.form === form.id).map(({ last }) => at(last.date)),
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
    formIsFree(facts, whole.slice(0, place), test, fail)
  })
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

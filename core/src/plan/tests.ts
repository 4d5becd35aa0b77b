import type { Form, PlanNotice, PlanSession, Section } from '@climber/contract'
import { dateOf, dayNumber, type DayNumber, minuteOf, timeOf } from '../time/day'
import type { Calendar } from './calendar'
import type { PlanInput } from './input'
import type { PlacedStage } from './phases'

/** Days between two sittings of the same form. */
export const resitAfterDays = 21
const shortestReview = 20
const reviewScope = {
  'misses, doubtful and lucky': 'Missed, doubtful and lucky items',
  misses: 'The missed items',
  'every question': 'Every question',
} as const
export interface PlacedTests {
  sessions: PlanSession[]
  notices: PlanNotice[]
  /** Unseen forms that tests which found no place would have used. */
  unplaced: Form[]
}
/** How far from its wished day a test may move. */
const reach = 3
/** Days before the taper of the last rehearsal: time to review it. */
const lastRehearsalGap = 4

interface Block {
  day: DayNumber
  from: number
  minutes: number
  sections?: string[]
}
interface PlacedTest {
  rehearsalAt?: number
  wished: DayNumber
  stage: PlacedStage
  blocks: Block[]
  reviews: Block[]
  /** Why it does not start when the exam does. */
  fallback?: string
  baseline: boolean
}

export const sectionMinutes = (section: Section, timeFactor: number): number =>
  Math.ceil(section.minutes * timeFactor)

/** Length of a test with its breaks, in minutes. */
export function testMinutes(sections: Section[], timeFactor: number): number {
  return sections.reduce(
    (sum, section, at) =>
      sum +
      sectionMinutes(section, timeFactor) +
      (at < sections.length - 1 ? Math.ceil(section.breakAfter) : 0),
    0,
  )
}

interface Wish {
  day: DayNumber
  stage: PlacedStage
  baseline: boolean
  /** Days before the exam that the settings ask a full rehearsal at. */
  rehearsalAt?: number
}

export const testEveryOf = (input: PlanInput, stage: PlacedStage): number =>
  stage.testEvery && (input.settings.testEveryDays ?? stage.testEvery)

/**
 * The days on which tests are wished for: rehearsals at the distances asked for, the rest backwards from the last
 * rehearsal at each stage's rhythm, and a baseline, at once or when the first quarter has been read through.
 */
function wishedDays(input: PlanInput, stages: PlacedStage[], first: DayNumber, taper: DayNumber): Wish[] {
  const lastStage = stages[stages.length - 1]
  if (!lastStage) return []
  const exam = dayNumber(input.sitting.date)
  const wantsBaseline = !input.measured
  const late = input.settings.schools?.firstTest === 'after the first read'
  const baselineDay = late ? first + Math.round((taper - first) / 4) : first
  const floor = wantsBaseline ? baselineDay + 4 : late ? baselineDay : first + 2
  const stageAt = (day: DayNumber) => stages.find(({ from, to }) => day >= from && day < to) ?? lastStage
  const wishes: Wish[] = (input.settings.rehearsals ?? [])
    .map((rehearsalAt) => ({ day: exam - rehearsalAt, baseline: false, rehearsalAt }))
    .filter(({ day }) => day >= floor && day < taper)
    .map((wish) => ({ ...wish, stage: stageAt(wish.day) }))
  const last = wishes.length
    ? Math.max(...wishes.map(({ day }) => day))
    : Math.max(first + 1, taper - lastRehearsalGap)
  for (let day = last; day >= floor && day < taper;) {
    const stage = stageAt(day)
    const every = testEveryOf(input, stage)
    if (!every) {
      day = stage.from - 1
      continue
    }
    if (!wishes.some((wish) => Math.abs(wish.day - day) < every / 2))
      wishes.push({ day, stage, baseline: false })
    day -= every
  }
  if (wantsBaseline) wishes.push({ day: baselineDay, stage: stageAt(baselineDay), baseline: true })
  return wishes.sort((a, b) => a.day - b.day || Number(b.baseline) - Number(a.baseline))
}

/**
 * Places practice tests and the review after each, and takes their time from the calendar. A test goes where the whole
 * of it fits, at the exam's time of day if it can; its review is complete before the next test. Where review cannot
 * keep up, tests are left out, never review.
 */
export function placeTests(
  input: PlanInput,
  calendar: Calendar,
  stages: PlacedStage[],
  first: DayNumber,
  taper: DayNumber,
  name: (key: string) => string,
): PlacedTests {
  const { exam, settings, sitting } = input
  const full = testMinutes(exam.sections, settings.timeFactor)
  const examStart = minuteOf(sitting.start)
  const reviewMinutes = Math.round((full * settings.reviewRatio) / 5) * 5
  const wishes = wishedDays(input, stages, first, taper)
  const usableDays = calendar.days().filter((day) => day < taper)
  const placed: PlacedTest[] = []
  const left = { noRoom: 0, review: 0, form: 0 }

  const wholeOn = (day: DayNumber): { from: number; late: boolean } | undefined => {
    if (calendar.dayRoom(day) < full) return undefined
    const spans = calendar.free(day).filter(({ from, to }) => to - from >= full)
    if (spans.some(({ from, to }) => from <= examStart && examStart + full <= to))
      return { from: examStart, late: false }
    const starts = spans.map(({ from, to }) => Math.min(Math.max(from, examStart), to - full))
    starts.sort((a, b) => Math.abs(a - examStart) - Math.abs(b - examStart) || a - b)
    return starts.length ? { from: starts[0]!, late: true } : undefined
  }
  const holdsWhole = new Set(usableDays.filter((day) => wholeOn(day)))
  const stageAt = (day: DayNumber) => stages.find(({ from, to }) => day >= from && day < to)
  const partOn = (day: DayNumber, sections: Section[]): Block | undefined => {
    const minutes = testMinutes(sections, settings.timeFactor)
    if (calendar.dayRoom(day) < minutes) return undefined
    const span = calendar.free(day).find(({ from, to }) => to - from >= minutes)
    return span && { day, from: span.from, minutes, sections: sections.map(({ id }) => id) }
  }
  const take = (block: Block) => calendar.take(block.day, block.from, block.minutes)
  const give = (block: Block) => calendar.give(block.day, block.from, block.minutes)
  const splitOn = (day: DayNumber, until: DayNumber): Block[] | undefined => {
    for (let cut = exam.sections.length - 1; cut >= 1; cut--) {
      const one = partOn(day, exam.sections.slice(0, cut))
      if (!one) continue
      // Taken for the moment, since a cap on the week counts both parts.
      take(one)
      const rest = exam.sections.slice(cut)
      const next = usableDays.find(
        (other) => other > day && other <= day + 3 && other < until && partOn(other, rest),
      )
      const two = next === undefined ? undefined : partOn(next, rest)
      give(one)
      if (two) return [one, two]
    }
    return undefined
  }
  /** Review in session-sized pieces, from the day after the test, all of it before `until`; undefined if it does not fit. */
  const reviewAfter = (test: Block, until: DayNumber): Block[] | undefined => {
    const pieces: Block[] = []
    let rest = reviewMinutes
    for (const day of usableDays) {
      if (day <= test.day) continue
      if (day >= until || rest <= 0) break
      for (;;) {
        const span = calendar.free(day).find(({ from, to }) => to - from >= Math.min(shortestReview, rest))
        if (!span || rest <= 0) break
        const room = Math.min(
          span.to - span.from,
          calendar.dayRoom(day),
          calendar.weekRoom(day),
          settings.sessionMinutes,
          rest,
        )
        const minutes =
          rest - room > 0 && rest - room < shortestReview ? Math.min(room, rest - shortestReview) : room
        const whole = Math.floor(minutes / 5) * 5
        if (whole < Math.min(shortestReview, rest)) break
        calendar.take(day, span.from, whole)
        pieces.push({ day, from: span.from, minutes: whole })
        rest -= whole
      }
    }
    if (rest <= 0) return pieces
    for (const piece of pieces) calendar.give(piece.day, piece.from, piece.minutes)
    return undefined
  }
  const openMinutes = (from: DayNumber, to: DayNumber): number =>
    usableDays.reduce((sum, day) => (day >= from && day < to ? sum + calendar.roomOn(day) : sum), 0)

  const tryPlace = (
    wish: (typeof wishes)[number],
    after: DayNumber,
    until: DayNumber,
  ): PlacedTest | undefined => {
    const within = wish.baseline ? 6 : reach
    const days = usableDays.filter((day) => Math.abs(day - wish.day) <= within && day > after && day < until)
    // Splitting is the last resort: only where no day near the wish could hold a whole test, even an empty one.
    const maySplit =
      exam.sections.length > 1 &&
      !usableDays.some((day) => Math.abs(day - wish.day) <= reach && holdsWhole.has(day))
    const options: { cost: number; blocks: Block[]; fallback?: string }[] = []
    for (const day of days) {
      const whole = wholeOn(day)
      const distance = Math.abs(day - wish.day)
      if (whole)
        options.push({
          cost: distance * 0.4 + (whole.late ? 3 : 0),
          blocks: [{ day, from: whole.from, minutes: full }],
          fallback: whole.late
            ? `It starts at ${timeOf(whole.from)}: no free time that day holds the whole test from ${sitting.start}, when the exam starts.`
            : undefined,
        })
      else if (maySplit) {
        const blocks = splitOn(day, until)
        if (blocks)
          options.push({
            cost: distance * 0.4 + 8,
            blocks,
            fallback: `Split over two days: no free time near here holds the whole ${full} minutes in one block.`,
          })
      }
    }
    if (!options.length) {
      if (maySplit) left.noRoom++
      else left.review++
      return undefined
    }
    options.sort((a, b) => a.cost - b.cost || a.blocks[0]!.day - b.blocks[0]!.day)
    const before = placed.filter(({ blocks }) => blocks[0]!.day < wish.day)
    const spent = before.length * (full + reviewMinutes)
    for (const option of options.slice(0, 4)) {
      const end = option.blocks[option.blocks.length - 1]!
      const horizon = Math.min(until, end.day + (testEveryOf(input, wish.stage) || 7))
      const room = openMinutes(first, horizon) + spent
      const withinShare =
        wish.baseline ||
        wish.rehearsalAt !== undefined ||
        spent + full + reviewMinutes <= wish.stage.testShare * room
      if (!withinShare) continue
      option.blocks.forEach(take)
      const reviews = reviewAfter(end, until)
      if (reviews)
        return {
          wished: wish.day,
          stage: wish.stage,
          blocks: option.blocks,
          reviews,
          fallback: option.fallback,
          baseline: wish.baseline,
          rehearsalAt: wish.rehearsalAt,
        }
      option.blocks.forEach(give)
    }
    left.review++
    return undefined
  }

  // The last rehearsal first, so that nothing before it takes its room; then the rest in order of time.
  const pinnedTests = input.kept
    .filter(
      ({ kind, status, date }) =>
        kind === 'test' && status !== 'slipped' && status !== 'skipped' && dayNumber(date) >= first,
    )
    .map(({ date }) => dayNumber(date))
  const final = wishes.length > 1 || !wishes[0]?.baseline ? wishes[wishes.length - 1] : undefined
  const finalTest = final && tryPlace(final, first - 1, taper)
  const finalDay = finalTest ? finalTest.blocks[0]!.day : taper
  let busyUntil = first - 1
  for (const wish of wishes) {
    if (wish === final) continue
    if (pinnedTests.some((day) => Math.abs(day - wish.day) < Math.max(2, testEveryOf(input, wish.stage) / 2)))
      continue
    const test = tryPlace(wish, busyUntil, finalDay)
    if (!test) continue
    placed.push(test)
    busyUntil = test.reviews[test.reviews.length - 1]?.day ?? test.blocks[test.blocks.length - 1]!.day
  }
  if (finalTest) placed.push(finalTest)

  // Forms: the publisher's go to the rehearsals nearest the exam, and one to the baseline.
  const satAt = new Map<string, DayNumber>()
  for (const { form, date } of [
    ...input.sat,
    ...input.kept.flatMap(({ form, date }) => (form ? [{ form, date }] : [])),
  ])
    satAt.set(form, Math.max(satAt.get(form) ?? -Infinity, dayNumber(date)))
  // The publisher's are kept for rehearsal, and so is whatever the shelf says is to be kept.
  const reserved = new Set(input.shelf.flatMap(({ form, id, reserved }) => (reserved ? [form ?? id] : [])))
  const isKept = (form: Form) => form.source === 'publisher' || reserved.has(form.id)
  const fresh = exam.forms.filter((form) => !satAt.has(form.id))
  const publisher = fresh.filter(isKept)
  const other = fresh.filter((form) => !isKept(form))
  const assigned = new Map<PlacedTest, { form: Form; seen: boolean }>()
  const baseline = placed.find((test) => test.baseline)
  if (baseline) {
    const form = publisher.length > 1 ? publisher.shift() : (other.shift() ?? publisher.shift())
    if (form) assigned.set(baseline, { form, seen: false })
  }
  let resat: PlacedTest | undefined
  if (settings.resitFirst) {
    // The first test sat again, as the last but one, so that the last rehearsal is on an unseen form.
    const oldest = [...input.sat].sort((a, b) => a.date.localeCompare(b.date))[0]?.form
    const form = exam.forms.find(({ id }) => id === (oldest ?? assigned.get(baseline!)?.form.id))
    const own =
      baseline && assigned.get(baseline)?.form === form
        ? baseline.blocks[baseline.blocks.length - 1]!.day
        : -Infinity
    const since = form && Math.max(satAt.get(form.id) ?? -Infinity, own)
    resat = [...placed]
      .reverse()
      .slice(1)
      .find((test) => !assigned.has(test) && test.blocks[0]!.day >= since! + resitAfterDays)
    if (form && resat) assigned.set(resat, { form, seen: true })
  }
  for (const test of [...placed].reverse()) {
    if (assigned.has(test) || !(stageAt(test.blocks[0]!.day)?.rehearsal || test.rehearsalAt)) continue
    const form = publisher.pop()
    if (form) assigned.set(test, { form, seen: false })
  }
  for (const test of placed) {
    if (assigned.has(test)) continue
    const form = other.shift()
    if (form) assigned.set(test, { form, seen: false })
  }
  for (const test of placed) {
    if (assigned.has(test)) continue
    const day = test.blocks[0]!.day
    const lastSat = (id: string) =>
      Math.max(
        satAt.get(id) ?? -Infinity,
        ...[...assigned]
          .filter(([, { form }]) => form.id === id)
          .map(([{ blocks }]) => blocks[blocks.length - 1]!.day),
      )
    const form = exam.forms
      .filter(({ id }) => lastSat(id) <= day - resitAfterDays && lastSat(id) > -Infinity)
      .sort((a, b) => lastSat(a.id) - lastSat(b.id))[0]
    if (form) assigned.set(test, { form, seen: true })
    else {
      left.form++
      for (const block of [...test.blocks, ...test.reviews]) give(block)
    }
  }

  const sessions: PlanSession[] = []
  for (const test of placed) {
    const use = assigned.get(test)
    if (!use) continue
    const testIds = test.blocks.map(() => name(`test.${use.form.id}`))
    const kindOfTest = use.form.source === 'publisher' ? "one of the publisher's" : "another maker's"
    const purpose = test.baseline
      ? 'The baseline: a plan needs to know where you stand.'
      : test === resat
        ? 'The first test once more, to see how far you have come; its score stays out of the forecast.'
        : use.seen
          ? `You have seen this form; no unseen one is left, so its score stays out of the forecast.`
          : test.stage.rehearsal || test.rehearsalAt
            ? `A rehearsal with ${kindOfTest} tests, ${dayNumber(sitting.date) - test.blocks[0]!.day} days before the exam.`
            : `A test about every ${testEveryOf(input, test.stage)} days shows what the work is worth; this is ${kindOfTest}.`
    test.blocks.forEach((block, part) => {
      sessions.push({
        id: testIds[part]!,
        date: dateOf(block.day),
        start: timeOf(block.from),
        minutes: block.minutes,
        kind: 'test',
        title: use.form.title + (test.blocks.length > 1 ? `, split: part ${part + 1} of 2` : ''),
        topics: [],
        form: use.form.id,
        sections: block.sections,
        seen: use.seen,
        why: {
          text: [purpose, test.fallback].filter(Boolean).join(' '),
          figures: { minutes: block.minutes, daysToExam: dayNumber(sitting.date) - block.day },
        },
        pinned: false,
        status: 'planned',
      })
    })
    test.reviews.forEach((piece, part) => {
      sessions.push({
        id: name(`review.${use.form.id}`),
        date: dateOf(piece.day),
        start: timeOf(piece.from),
        minutes: piece.minutes,
        kind: 'review',
        title: `Review ${use.form.title}`,
        topics: [],
        form: use.form.id,
        seen: false,
        of: testIds[testIds.length - 1]!,
        why: {
          text: `Part ${part + 1} of ${test.reviews.length} of the ${reviewMinutes} minutes of review that this test is worth: ${settings.reviewRatio} times its own length. ${reviewScope[settings.schools?.review ?? 'misses, doubtful and lucky']}; rework before you look.${settings.schools?.mistakes === 'full note' ? ' Write a full note on each miss.' : ''}`,
          figures: { reviewMinutes, ratio: settings.reviewRatio },
        },
        pinned: false,
        status: 'planned',
      })
    })
  }
  const notices: PlanNotice[] = []
  const count = (n: number) => (n === 1 ? 'One test was' : `${n} tests were`)
  if (left.noRoom)
    notices.push({
      code: 'test-no-room',
      message: `${count(left.noRoom)} left out: a test takes ${full} minutes, and no free block near its day is that long${full > calendar.availability.minutesPerDay ? `, and the cap of ${calendar.availability.minutesPerDay} minutes a day is shorter` : ''}. A free window of ${full} minutes a week would hold it.`,
    })
  if (left.review)
    notices.push({
      code: 'tests-thinned',
      message: `${count(left.review)} left out so that review keeps up: each test asks for ${full} minutes and ${reviewMinutes} of review, and learning needs its share of the week.`,
    })
  if (left.form)
    notices.push({
      code: 'no-form',
      message: `${count(left.form)} left out: no unseen form is left, and none was sat ${resitAfterDays} days before. Add a form to the exam format to have more.`,
    })
  const unused = exam.forms.filter(
    ({ id }) => !satAt.has(id) && ![...assigned.values()].some(({ form }) => form.id === id),
  )
  return { sessions, notices, unplaced: unused.slice(0, left.noRoom + left.review) }
}

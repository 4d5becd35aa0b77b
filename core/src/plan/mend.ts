import type { Plan, PlanNotice, PlanSession } from '@climber/contract'
import { dateOf, dayNumber, type DayNumber, minuteOf, mondayOf, timeOf } from '../time/day'
import { TopicOrder } from './board'
import type { Span } from './calendar'
import { type FixedStudy, fillSlots, studySlots } from './fill'
import type { PlanInput } from './input'
import { cautions, groundOf, numbering, studySessions, weeksOf } from './makePlan'
import { byTime, endOf, isActive, isEasy, lengthOf, startOf } from './session'
import { quotaMinutes } from './shelf'
import { resitAfterDays } from './tests'
import { usualRetestDays } from './around'

/** What a re-plan would change. Sessions before and after share their id. */
export interface PlanDiff {
  moved: { before: PlanSession; after: PlanSession }[]
  added: PlanSession[]
  dropped: { session: PlanSession; why: string }[]
  /** Planned sessions that stay as they are. */
  kept: number
}

/** Days from today that are left alone where they can be. */
const nearDays = 2
/** Slipped work older than this, in days, is history. */
const longestAgo = 14
/** How far, in days, study and tests may move. */
const studyReach = 21
const testReach = 6
const shortestPiece = 20
/** A displaced session takes another's place only if an hour of it is worth so many times as much. */
const worthBumping = 1.3
/** Free minutes by which a week must have grown before work is added to it. */
const grownBy = 20

/** Days between the two parts of a test that is split. */
const splitDays = 4
/** The other part of a split test among `sessions`. */
const partnerOf = (test: PlanSession, sessions: PlanSession[]): PlanSession | undefined =>
  test.sections &&
  sessions.find(
    ({ id, kind, form, sections, date }) =>
      kind === 'test' &&
      id !== test.id &&
      form === test.form &&
      sections !== undefined &&
      !sections.some((one) => test.sections!.includes(one)) &&
      Math.abs(dayNumber(date) - dayNumber(test.date)) < resitAfterDays - splitDays,
  )

const yieldIn = ({ why }: PlanSession): number => why.figures['yield'] ?? 0
const isStudy = ({ kind }: PlanSession) => kind === 'learn' || kind === 'drill' || kind === 'mixed'

/** What differs between two plans, session by session. */
export function diffPlans(
  before: PlanSession[],
  after: PlanSession[],
  reasons = new Map<string, string>(),
): PlanDiff {
  const waiting = new Map(before.map((session) => [session.id, session]))
  const diff: PlanDiff = { moved: [], added: [], dropped: [], kept: 0 }
  const open = ({ status }: PlanSession) => status === 'planned' || status === 'slipped'
  for (const session of after) {
    const old = waiting.get(session.id)
    waiting.delete(session.id)
    if (!old) diff.added.push(session)
    else if (open(old) && session.status === 'skipped')
      diff.dropped.push({ session: old, why: reasons.get(old.id) ?? 'No place was left for it.' })
    else if (old.status !== session.status && session.status === 'slipped') continue
    else if (
      session.status === 'planned' &&
      (old.date !== session.date || old.start !== session.start || old.minutes !== session.minutes)
    )
      diff.moved.push({ before: old, after: session })
    else if (session.status === 'planned') diff.kept++
  }
  for (const old of waiting.values())
    diff.dropped.push({
      session: old,
      why: reasons.get(old.id) ?? 'The plan holds something else in its place.',
    })
  return diff
}

/**
 * Mends a plan after something fell through, with the least disturbance: what is done, pinned or still possible stays;
 * what slipped or no longer fits goes to the nearest place there is, slack first; a session worth clearly more takes the
 * place of the one worth least; what finds no place is dropped, and said. Weeks that gained free time get more work.
 */
export function mend(input: PlanInput, previous: Plan): { plan: Plan; diff: PlanDiff } {
  const today = dayNumber(input.today)
  const keptIds = new Set(input.kept.map(({ id }) => id))
  const movable = previous.sessions.filter(({ id, date }) => !keptIds.has(id) && dayNumber(date) >= today)
  const bound = input.kept.filter(isActive)
  const slipped = input.kept.filter(
    ({ status, date, kind }) =>
      status === 'slipped' && dayNumber(date) >= today - longestAgo && kind !== 'light' && kind !== 'errand',
  )
  const ground = groundOf(input, bound, new Set(movable.map(({ date }) => dayNumber(date))))
  const { calendar, taper, exam, stages, first } = ground
  const days = calendar.days()
  const name = numbering(previous.sessions)
  const order = new TopicOrder(input.topics)
  const placed = new Map<string, PlanSession>()
  const reasons = new Map<string, string>()
  const dropped: PlanSession[] = []
  const active = () => [...bound, ...placed.values()]
  const take = (session: PlanSession) => {
    calendar.take(dayNumber(session.date), minuteOf(session.start), session.minutes)
    placed.set(session.id, session)
  }
  const lift = (session: PlanSession) => {
    calendar.give(dayNumber(session.date), minuteOf(session.start), session.minutes)
    placed.delete(session.id)
  }
  const drop = (session: PlanSession, why: string) => {
    dropped.push(session)
    reasons.set(session.id, why)
  }

  // What can stay, stays.
  const displaced: PlanSession[] = []
  for (const session of [...movable].sort(byTime)) {
    const day = dayNumber(session.date)
    const from = minuteOf(session.start)
    const wrongLength = session.kind === 'test' && session.minutes !== lengthOf(input, session)
    const stays =
      !wrongLength &&
      day < exam &&
      (day < taper || isEasy(session)) &&
      calendar.holds(day, from, session.minutes, isEasy(session)) &&
      calendar.dayRoom(day) >= session.minutes
    if (stays) take(session)
    else displaced.push(wrongLength ? { ...session, minutes: lengthOf(input, session) } : session)
  }

  const gaps = (day: DayNumber, minutes: number): Span[] =>
    calendar.dayRoom(day) >= minutes ? calendar.free(day).filter(({ from, to }) => to - from >= minutes) : []
  /** Usable days, nearest to `wished` first. */
  const near = (wished: DayNumber, reach: number, until = taper): DayNumber[] =>
    days
      .filter((day) => day >= today && day < until && Math.abs(day - Math.max(wished, today)) <= reach)
      .sort((a, b) => Math.abs(a - wished) - Math.abs(b - wished) || a - b)
  const at = (
    session: PlanSession,
    day: DayNumber,
    from: number,
    minutes = session.minutes,
  ): PlanSession => ({
    ...session,
    date: dateOf(day),
    start: timeOf(from),
    minutes,
    status: 'planned',
  })
  const testsNow = () => active().filter(({ kind }) => kind === 'test')
  const reviewsOf = (test: PlanSession) =>
    active().filter(({ kind, of }) => kind === 'review' && of === test.id)

  /** Places minutes of review in pieces between two moments; true if all found room. */
  function placeReview(pieces: PlanSession[], after: number, before: number): boolean {
    const taken: PlanSession[] = []
    const queue = pieces.map((piece) => ({ piece, rest: piece.minutes, fresh: false }))
    for (const day of days) {
      if (day * 1440 + 1440 <= after || day < today || day >= taper) continue
      if (day * 1440 >= before || !queue.length) break
      for (;;) {
        const job = queue[0]
        if (!job) break
        const wish = Math.min(job.rest, shortestPiece)
        const gap = calendar
          .free(day)
          .map(({ from, to }) => ({
            from: Math.max(from, Math.ceil((after - day * 1440) / 5) * 5),
            to: Math.min(to, before - day * 1440),
          }))
          .find(({ from, to }) => Math.min(to - from, calendar.dayRoom(day)) >= wish)
        if (!gap) break
        let minutes = Math.min(job.rest, gap.to - gap.from, calendar.dayRoom(day))
        if (job.rest - minutes > 0 && job.rest - minutes < shortestPiece) minutes = job.rest - shortestPiece
        if (minutes < wish) break
        const session = at(
          job.fresh ? { ...job.piece, id: name(`review.${job.piece.form}`) } : job.piece,
          day,
          gap.from,
          minutes,
        )
        take(session)
        taken.push(session)
        job.rest -= minutes
        job.fresh = true
        if (job.rest <= 0) queue.shift()
      }
    }
    if (!queue.length) return true
    taken.forEach(lift)
    return false
  }

  function placeTest(test: PlanSession): void {
    const followers = [...placed.values(), ...displaced, ...slipped].filter(
      ({ kind, of }) => (kind === 'review' || kind === 'retest') && of === test.id,
    )
    const reviews = followers.filter(({ kind }) => kind === 'review')
    const stood = reviews.filter(({ id }) => placed.has(id))
    const minutes = reviews.reduce((sum, review) => sum + review.minutes, 0)
    const wished = dayNumber(test.date)
    const others = testsNow().filter((other) => other.id !== test.id && other !== partnerOf(test, [other]))
    for (const day of near(wished, testReach)) {
      const spans = gaps(day, test.minutes)
      const exact = minuteOf(input.sitting.start)
      const span =
        spans.find(({ from, to }) => from <= exact && exact + test.minutes <= to) ??
        spans.sort((a, b) => Math.abs(a.from - exact) - Math.abs(b.from - exact))[0]
      if (!span) continue
      const from = Math.min(Math.max(span.from, exact), span.to - test.minutes)
      const start = day * 1440 + from
      const sameForm = [...input.sat, ...others.flatMap(({ form, date }) => (form ? [{ form, date }] : []))]
      if (
        sameForm.some(
          ({ form, date }) => form === test.form && Math.abs(dayNumber(date) - day) < resitAfterDays,
        )
      )
        continue
      const earlier = others.filter((other) => startOf(other) < start)
      if (
        earlier.some(
          (other) => endOf(other) > start || reviewsOf(other).some((review) => endOf(review) > start),
        )
      )
        continue
      const partner = partnerOf(test, active())
      if (partner) {
        const second = partner.sections!.includes(input.exam.sections[0]!.id)
        const apart = Math.abs(dayNumber(partner.date) - day) > splitDays
        if (apart || (second ? start < endOf(partner) : start + test.minutes > startOf(partner))) continue
      }
      const next = Math.min(...others.filter((other) => startOf(other) > start).map(startOf), taper * 1440)
      const said = from === exact || /starts at|Split/.test(test.why.text)
      const moved = at(
        said
          ? test
          : {
              ...test,
              why: {
                ...test.why,
                text: `${test.why.text} It starts at ${timeOf(from)}: there was no other place left.`.slice(
                  0,
                  1000,
                ),
              },
            },
        day,
        from,
      )
      take(moved)
      stood.forEach(lift)
      const inPlace = stood.filter((review) => startOf(review) >= endOf(moved) && endOf(review) <= next)
      inPlace.forEach(take)
      const rest = reviews.filter(({ id }) => !inPlace.some((review) => review.id === id))
      if (placeReview(rest, endOf(moved), next) || !minutes) {
        for (const id of rest.map((review) => review.id)) settled.add(id)
        return
      }
      inPlace.forEach(lift)
      stood.forEach(take)
      lift(moved)
    }
    drop(
      test,
      `No free block of ${test.minutes} minutes within ${testReach} days has room for the review after it too.`,
    )
    // Half a test is none: the other part goes too, with what follows from it.
    const everyone = [...placed.values(), ...displaced, ...slipped]
    const half = partnerOf(test, everyone)
    const more = half ? [half, ...everyone.filter(({ of }) => of === half.id)] : []
    for (const follower of [...followers, ...more]) {
      if (settled.has(follower.id)) continue
      if (placed.has(follower.id)) lift(follower)
      settled.add(follower.id)
      drop(follower, 'Its test found no place.')
    }
  }

  const beside = (session: PlanSession, day: DayNumber, from: number): boolean => {
    if (session.topics.length !== 1) return false
    const here = [...placed.values()].filter(({ date }) => date === dateOf(day)).sort(byTime)
    const after = here.findIndex((other) => minuteOf(other.start) > from)
    const around = after < 0 ? [here[here.length - 1]] : [here[after - 1], here[after]]
    return around.some((other) => other?.topics.length === 1 && other.topics[0] === session.topics[0])
  }
  /** The first day on which a retest may stand. */
  const retestFrom = ({ of: test }: PlanSession): number => {
    const { retestDays = usualRetestDays } = input.settings
    const reviews = active().filter(({ kind, of }) => kind === 'review' && of === test)
    return retestDays === null
      ? -Infinity
      : Math.max(-Infinity, ...reviews.map(({ date }) => dayNumber(date) + retestDays))
  }
  function placeStudy(session: PlanSession): void {
    const earliest = session.kind === 'retest' ? retestFrom(session) : -Infinity
    const met = TopicOrder.firsts(active())
    const inOrder = (minute: number) => !order.broken(session.topics, minute, met)
    const choice = near(dayNumber(session.date), studyReach).filter((day) => day >= earliest)
    const least = Math.max(shortestPiece, Math.ceil((0.6 * session.minutes) / 5) * 5)
    for (const [minutes, strict] of [
      [session.minutes, true],
      [Math.min(session.minutes, least), true],
      [Math.min(session.minutes, least), false],
    ] as const)
      for (const day of choice)
        for (const { from, to } of gaps(day, minutes)) {
          if (!inOrder(day * 1440 + from) || (strict && beside(session, day, from))) continue
          return take(at(session, day, from, Math.min(session.minutes, to - from, calendar.dayRoom(day))))
        }
    const victim = [...placed.values()]
      .filter(
        (other) =>
          isStudy(other) &&
          !other.pinned &&
          dayNumber(other.date) > today + nearDays &&
          dayNumber(other.date) <= Math.max(today, dayNumber(session.date)) + longestAgo &&
          dayNumber(other.date) >= earliest &&
          other.minutes >= least &&
          yieldIn(session) > worthBumping * yieldIn(other) &&
          inOrder(startOf(other)) &&
          !order.faults(TopicOrder.firsts(active().filter(({ id }) => id !== other.id))).length,
      )
      .sort((a, b) => yieldIn(a) - yieldIn(b) || byTime(a, b))[0]
    if (!victim)
      return drop(session, 'No free time near it is left, and nothing that stands there is worth less.')
    lift(victim)
    take(
      at(session, dayNumber(victim.date), minuteOf(victim.start), Math.min(session.minutes, victim.minutes)),
    )
    drop(victim, `${session.title} takes its time: an hour of it is worth more.`)
  }

  /** Followers of a test that were dealt with along with it. */
  const settled = new Set<string>()
  const waiting = [...displaced, ...slipped].filter((session) => !isEasy(session))
  for (const session of displaced.filter(isEasy)) {
    const home = near(dayNumber(session.date), session.kind === 'errand' ? 5 : 0, exam).find(
      (day) => gaps(day, session.minutes).length,
    )
    if (home !== undefined) take(at(session, home, gaps(home, session.minutes)[0]!.from))
    else drop(session, 'That day has no time for it any more.')
  }
  for (const test of waiting.filter(({ kind }) => kind === 'test').sort(byTime))
    if (!settled.has(test.id)) placeTest(test)
  for (const review of waiting.filter(({ kind, id }) => kind === 'review' && !settled.has(id)).sort(byTime)) {
    const test = active().find(({ id }) => id === review.of)
    const after = Math.max(test ? endOf(test) : -Infinity, today * 1440 + input.nowMinute)
    const later = testsNow().filter(
      (other) => !test || (startOf(other) > startOf(test) && other.form !== test.form),
    )
    const next = Math.min(...later.map(startOf), taper * 1440)
    if (placeReview([review], after, next)) continue
    if (!test || !placed.has(test.id)) {
      drop(review, 'No free time is left before the next test.')
      continue
    }
    // A planned test without its whole review is no use: it looks for another day with all of it.
    lift(test)
    displaced.push(review)
    placeTest(test)
  }
  // A retest that now comes too soon after its review waits its days again.
  for (const retest of [...placed.values()].filter(({ kind }) => kind === 'retest'))
    if (dayNumber(retest.date) < retestFrom(retest)) {
      lift(retest)
      displaced.push(retest)
    }
  const rest = [...displaced, ...slipped].filter(
    (session) =>
      (isStudy(session) || session.kind === 'retest') &&
      !placed.has(session.id) &&
      !settled.has(session.id) &&
      !reasons.has(session.id),
  )
  // In order of time, so that what others build on is placed first.
  const once = [...new Map(rest.map((session) => [session.id, session])).values()]
  for (const session of once.sort(byTime)) placeStudy(session)
  keepOrder()

  /** What is begun before what it builds on loses its place, unless it was pinned there. */
  function keepOrder(): void {
    for (;;) {
      const first = TopicOrder.firsts(active())
      const early = order
        .faults(first)
        .map(([topic]) =>
          [...placed.values()].find((one) => one.topics.includes(topic) && startOf(one) === first.get(topic)),
        )
        .find((one) => one !== undefined)
      if (!early) return
      lift(early)
      drop(early, 'What it builds on lost its place.')
    }
  }

  // Weeks that gained free time take more work, up to their slack.
  const before = new Map(previous.weeks.map(({ from, freeMinutes }) => [from, freeMinutes]))
  const grown = (day: DayNumber): boolean => {
    const monday = mondayOf(day)
    const old = before.get(dateOf(monday))
    return monday > today && old !== undefined && (calendar.weekFree.get(monday) ?? 0) > old + grownBy
  }
  const added: PlanSession[] = []
  const grownStages = stages.filter(({ from, to }) =>
    days.some((day) => day >= from && day < to && grown(day)),
  )
  if (grownStages.length && input.topics.length) {
    const slots = studySlots(
      calendar,
      stages,
      input.settings.sessionMinutes,
      quotaMinutes(input.shelf),
      grown,
    )
    const place = new Map(input.topics.map(({ id }, index) => [id, index]))
    const fixed = active()
      .filter(({ topics, date }) => topics.length && dayNumber(date) >= today)
      .map((session): FixedStudy => ({
        day: dayNumber(session.date),
        from: minuteOf(session.start),
        minutes: session.minutes,
        topics: session.topics.flatMap((id) => place.get(id) ?? []),
      }))
    const filled = fillSlots(input, slots, fixed)
    const found = studySessions({ ...input, kept: [...input.kept, ...placed.values()] }, filled, name)
    // Filled slots see what stands before them; what stands after may build on them and be begun already.
    for (const session of found) {
      if (order.broken(session.topics, startOf(session), TopicOrder.firsts([...active(), ...added]))) continue
      added.push(session)
    }
  }

  const outcome = new Map([
    ...placed,
    ...added.map((session): [string, PlanSession] => [session.id, session]),
  ])
  const gone = new Map(dropped.map((session) => [session.id, session]))
  const sessions = [
    ...input.kept.filter(({ id }) => !outcome.has(id) && !gone.has(id)),
    ...outcome.values(),
    // Dropped work stays in the record as skipped, if it was ever due; what was still to come is simply gone.
    ...[...gone.values()]
      .filter(({ id, status }) => !outcome.has(id) && (keptIds.has(id) || status === 'slipped'))
      .map((session) => ({ ...session, status: 'skipped' as const })),
  ].sort(byTime)
  const notices: PlanNotice[] = [...gone.values()].some(({ kind }) => kind === 'test')
    ? [
        {
          code: 'test-dropped',
          message:
            'A test found no place any more and was left out. Make the plan anew to spread the tests again.',
        },
      ]
    : []
  const old = previous.notices.filter(
    ({ code }) => !['long-days', 'no-day-off', 'no-time', 'test-dropped'].includes(code),
  )
  const weeks = weeksOf(calendar, sessions, mondayOf(first), exam)
  const monday = dateOf(mondayOf(today))
  const plan: Plan = {
    ...previous,
    sitting: input.sitting.id,
    weeks: [
      ...previous.weeks.filter(({ from }) => from < monday),
      ...weeks.map((week) =>
        week.from === monday
          ? { ...week, freeMinutes: Math.max(week.freeMinutes, before.get(monday) ?? 0) }
          : week,
      ),
    ],
    notices: [...old, ...notices, ...cautions(input, [...outcome.values()], 1)],
    sessions,
  }
  return { plan, diff: diffPlans(previous.sessions, sessions, reasons) }
}

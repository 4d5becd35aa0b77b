import type { Plan, PlanNotice, PlanSession } from '@climber/contract'
import { byTime, isStudy, isTest, startOf, topicsOf } from '../../sessions/session'
import { dateOf, dayNumber, type DayNumber, mondayOf } from '../../time/day'
import { asItStands } from '../asItStands'
import { TopicOrder } from '../board/order'
import { complete, type Completed } from '../complete'
import { frameOf } from '../frame'
import type { PlanInput } from '../input'
import { withPapers } from '../papers'
import { weeksOf } from '../weeks'
import { beliefsOf } from './beliefs'
import { diffPlans, type PlanDiff } from './diff'
import { placeEasy } from './easy'
import { handAnew } from './hand'
import { Mending } from './mending'
import { mixedAfterMeeting } from './mixed'
import { callRemedies } from './remedial'
import { callRests } from './rests'
import { fillReviews, followTests, placeReviews, waitingReviews } from './reviews'
import { seenAsItIs } from './seen'
import { shiftBudgets } from './shift'
import { lastChance, placeAllStudy } from './study'
import { placeTests } from './tests'
import { thinTests } from './thin'

/**
 * The sessions of a mended plan. Dropped work stays in the record as skipped, if it was ever due; what was still to come is
 * simply gone.
 */
function sessionsMended(
  { input, keptIds, dropped }: Mending,
  outcome: Map<string, PlanSession>,
): PlanSession[] {
  const gone = [...dropped.values()].filter(({ id }) => !outcome.has(id))
  return [
    ...input.kept.filter(({ id }) => !outcome.has(id) && !dropped.has(id)),
    ...outcome.values(),
    ...gone
      .filter(({ id, status }) => keptIds.has(id) || status === 'slipped')
      .map((session): PlanSession => ({ ...session, status: 'skipped' })),
  ].sort(byTime)
}

function weeksAfter({ previous, today, ground }: Mending, sessions: PlanSession[]): Plan['weeks'] {
  const { calendar, first, exam } = ground
  const monday = dateOf(mondayOf(today))
  const old = previous.weeks.find(({ from }) => from === monday)
  return [
    ...previous.weeks.filter(({ from }) => from < monday),
    ...weeksOf(calendar, sessions, mondayOf(first), exam).map((week) =>
      week.from === monday
        ? { ...week, freeMinutes: Math.max(week.freeMinutes, old?.freeMinutes ?? 0) }
        : week,
    ),
  ]
}

/** Free minutes of a week that are left open for less than this are no hole. */
const leastHole = 20

/**
 * Days whose free time is filled: those of the weeks to come, and of this week those on which something gave up its place. The rest of
 * this week is its slack.
 */
function daysToFill(mending: Mending): (day: DayNumber) => boolean {
  const { today, ground, previous } = mending
  const gone = new Set<DayNumber>()
  for (const { date } of mending.dropped.values()) gone.add(dayNumber(date))
  for (const { date } of mending.displaced) gone.add(dayNumber(date))
  const open = new Map<DayNumber, boolean>()
  return (day) => {
    if (day <= today) return false
    const monday = mondayOf(day)
    if (monday <= today) return gone.has(day)
    const known = open.get(monday)
    if (known !== undefined) return known
    const before = previous.weeks.find(({ from }) => from === dateOf(monday))
    const planned = before?.plannedMinutes ?? 0
    const used = ground.calendar.weekTaken(monday)
    const grown = (ground.calendar.weekFree.get(monday) ?? 0) > (before?.freeMinutes ?? 0) + leastHole
    const wants = grown || used + leastHole < planned
    open.set(monday, wants)
    return wants
  }
}

/** There is a reason to look for tests again: one fell through or was sat on another day, the exam was moved, or free time has grown. */
function testsMoved({ displaced, slipped, dropped, previous, ground }: Mending): boolean {
  const last = previous.phases[previous.phases.length - 1]
  const grown = previous.weeks.some(
    ({ from, freeMinutes }) =>
      dayNumber(from) > ground.first &&
      (ground.calendar.weekFree.get(dayNumber(from)) ?? 0) > freeMinutes + leastHole,
  )
  const examMoved = last !== undefined && dayNumber(last.to) !== ground.exam
  return grown || examMoved || [...displaced, ...slipped, ...dropped.values()].some(isTest)
}

/** Sessions that were added beside what stands, less those that would begin a topic before what it builds on. */
function inOrder(mending: Mending, made: PlanSession[]): PlanSession[] {
  const added: PlanSession[] = []
  for (const session of [...made].sort(byTime)) {
    const met = TopicOrder.firsts([...mending.active(), ...added])
    const broken = isStudy(session) && mending.order.broken(topicsOf(session), startOf(session), met)
    if (!broken) added.push(session)
  }
  return added
}

/** What the planner is told of a plan on the way: what stands is kept. */
function around({ input, placed, dropped }: Mending): PlanInput {
  const kept = input.kept.filter(({ id }) => !placed.has(id) && !dropped.has(id))
  return { ...input, kept: [...kept, ...placed.values()], owed: [] }
}

const testDropped: PlanNotice = {
  code: 'test-dropped',
  message: 'A test found no place any more near its day and was left out.',
}

/**
 * Mends a plan after something fell through or came to light, with the least disturbance: what is done, pinned or still possible stays;
 * what slipped or no longer fits goes to the nearest place there is, slack first; a session worth clearly more takes the place of the one
 * worth least; where budgets have moved, later sessions take other topics; what finds no place is dropped, and said. Then the plan is
 * completed around what stands as a new one would be.
 */
export function mend(input: PlanInput, previous: Plan): { plan: Plan; diff: PlanDiff } {
  const mending = new Mending(input, previous)
  placeEasy(mending)
  placeTests(mending)
  followTests(mending)
  callRests(mending)
  fillReviews(mending)
  placeReviews(mending, waitingReviews(mending))
  thinTests(mending)
  seenAsItIs(mending)
  callRemedies(mending)
  // Tests that are wished for and do not stand find room as they would in a new plan: before study.
  const stands = around(mending)
  const frame = mending.clearing(() =>
    frameOf(stands, mending.ground, mending.name, testsMoved(mending) ? 'all' : 'what is missing'),
  )
  const fellThrough = placeAllStudy(mending)
  const { freed, moved } = shiftBudgets(mending, fellThrough)
  const standing = [...mending.placed.values()]
  const { made, ...said }: Completed = complete(around(mending), frame, mending.name, {
    wanted: daysToFill(mending),
    places: freed,
    said: previous.notices,
  })
  const outcome = new Map(
    [...standing, ...inOrder(mending, made)].map((session): [string, PlanSession] => [session.id, session]),
  )
  for (const one of lastChance(mending, sessionsMended(mending, outcome))) outcome.set(one.id, one)
  const placed = mixedAfterMeeting(input, sessionsMended(mending, outcome))
  const first = diffPlans(previous.sessions, placed, mending.reasons)
  const lost = [...mending.dropped.values(), ...mending.slipped]
  const papers = withPapers(input, handAnew(input, placed, first, lost), said.phases)
  const sessions = asItStands(input, papers.sessions)
  const { unplaced: _u, ...before } = previous
  const plan: Plan = {
    ...before,
    sitting: input.sitting.id,
    weeks: weeksAfter(mending, sessions),
    ...said,
    ...papers,
    notices: [
      ...([...mending.dropped.values()].some(({ kind }) => kind === 'test') ? [testDropped] : []),
      ...said.notices,
      ...papers.notices,
    ],
    beliefs: moved || !previous.beliefs ? beliefsOf(input) : previous.beliefs,
    sessions,
  }
  return { plan, diff: diffPlans(previous.sessions, sessions, mending.reasons) }
}

import type { Plan, PlanNotice, PlanSession } from '@climber/contract'
import { byTime } from '../../sessions/session'
import { dateOf, mondayOf } from '../../time/day'
import type { PlanInput } from '../input'
import { cautions, weeksOf } from '../weeks'
import { leftOut } from '../fill/left'
import { diffPlans, type PlanDiff } from './diff'
import { placeEasy } from './easy'
import { growWeeks } from './grow'
import { Mending } from './mending'
import { callRemedies } from './remedial'
import { placeReviews, waitingReviews } from './reviews'
import { placeAllStudy } from './study'
import { placeTests } from './tests'

/** Notices that are found anew each time. */
const fleeting = ['long-days', 'no-day-off', 'no-time', 'test-dropped', 'topics-left-out', 'books-unfinished']

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
  const old = previous.weeks.find(({ from }) => from === monday)?.freeMinutes ?? 0
  return [
    ...previous.weeks.filter(({ from }) => from < monday),
    ...weeksOf(calendar, sessions, mondayOf(first), exam).map((week) =>
      week.from === monday ? { ...week, freeMinutes: Math.max(week.freeMinutes, old) } : week,
    ),
  ]
}

/**
 * Mends a plan after something fell through, with the least disturbance: what is done, pinned or still possible stays;
 * what slipped or no longer fits goes to the nearest place there is, slack first; a session worth clearly more takes the
 * place of the one worth least; what finds no place is dropped, and said. Weeks that gained free time get more work.
 */
export function mend(input: PlanInput, previous: Plan): { plan: Plan; diff: PlanDiff } {
  const mending = new Mending(input, previous)
  placeEasy(mending)
  placeTests(mending)
  placeReviews(mending, waitingReviews(mending))
  callRemedies(mending)
  placeAllStudy(mending)
  const added = growWeeks(mending)
  const outcome = new Map([
    ...mending.placed,
    ...added.map((session): [string, PlanSession] => [session.id, session]),
  ])
  const sessions = sessionsMended(mending, outcome)
  const notices: PlanNotice[] = [...mending.dropped.values()].some(({ kind }) => kind === 'test')
    ? [
        {
          code: 'test-dropped',
          message:
            'A test found no place any more and was left out. Make the plan anew to spread the tests again.',
        },
      ]
    : []
  const plan: Plan = {
    ...previous,
    sitting: input.sitting.id,
    weeks: weeksAfter(mending, sessions),
    notices: [
      ...previous.notices.filter(({ code }) => !fleeting.includes(code)),
      ...notices,
      ...leftOut(input, sessions),
      ...cautions(input, [...outcome.values()], 1),
    ],
    sessions,
  }
  return { plan, diff: diffPlans(previous.sessions, sessions, mending.reasons) }
}

import type { CandidateRecord, Plan } from '@climber/contract'
import { today } from '../../test/arbitrary'
import { gardenRecord, practice } from '../../test/fixture'
import {
  dateOf,
  dayNumber,
  isStudy,
  previewPlan,
  reasonsToMend,
  replan,
  restOf,
  sessionsSat,
  withPlan,
} from '../index'

const at = (days: number) => ({ date: dateOf(dayNumber(today) + days), minute: 420 })
const base = gardenRecord()
const made = previewPlan(base, at(0), 1)!.plan
const lived = (until: string, but: (id: string) => boolean = () => false): Plan => ({
  ...made,
  sessions: made.sessions.map((one) =>
    one.date < until && !but(one.id) ? { ...one, status: 'done' as const } : one,
  ),
})
const recordOf = (plan: Plan): CandidateRecord => withPlan(base, plan)

describe('reasons to mend', () => {
  it('are none while all is lived as it was planned', () => {
    expect(reasonsToMend(base, at(0))).toBeUndefined()
    expect(reasonsToMend(recordOf(made), at(0))).toBeUndefined()
  })
  it('are what slipped, what was left in part, and what follows a test that is not sat', () => {
    const study = made.sessions.filter(isStudy)
    const slip = study[0]!
    const part = study.find(({ id, minutes }) => id !== slip.id && minutes >= 40)!
    const day = at(dayNumber(part.date) - dayNumber(today) + 1)
    const test = made.sessions.find(({ kind, date }) => kind === 'test' && date > day.date)!
    const followers = made.sessions.filter((one) => 'of' in one && one.of === test.id)
    const plan = lived(day.date, (id) => id === slip.id)
    plan.sessions = plan.sessions.map((one) => {
      if (one.id === test.id) return { ...one, status: 'skipped' as const }
      if (one.id !== part.id) return one
      const done = { ...one, minutesDone: one.minutes - 25 }
      return { ...done, restMinutes: restOf(done) }
    })
    const record = recordOf(plan)
    const found = reasonsToMend(record, day)!
    expect(found).toMatchObject({ slipped: 1, rests: 1, orphans: followers.length, clashes: 0 })
    expect(followers.length).toBeGreaterThan(0)
    const { plan: mended } = replan(record, day, 1)!
    expect(reasonsToMend(withPlan(record, mended), day)).toBeUndefined()
    expect(
      mended.sessions.filter((one) => 'of' in one && one.of === test.id && one.status === 'planned'),
    ).toEqual([])
  })
  it('are the topics that a test showed to be otherwise than was thought; until the plan is mended', () => {
    const day = at(20)
    const plan = lived(day.date)
    const bad = practice(1, at(19).date, {
      'names-items': { right: 6, wrong: 54, blank: 0, notReached: 0 },
      'ledgers-items': { right: 58, wrong: 2, blank: 0, notReached: 0 },
    })
    const record: CandidateRecord = { ...recordOf(plan), attempts: [...base.attempts, bad] }
    const changed = {
      ...record,
      plan: {
        ...plan,
        sessions: plan.sessions.map((one) => sessionsSat(plan, bad).find(({ id }) => id === one.id) ?? one),
      },
    }
    const found = reasonsToMend(changed, day)!
    expect(found.more.length + found.less.length).toBeGreaterThan(1)
    const { plan: mended, diff } = replan(changed, day, 1)!
    expect(diff.changed.length + diff.added.length + diff.dropped.length).toBeGreaterThan(0)
    const after = reasonsToMend(withPlan(changed, mended), day)
    expect([...(after?.more ?? []), ...(after?.less ?? [])]).toEqual([])
  })
})

import type { PlanSession } from '@climber/contract'
import { today } from '../../test/arbitrary'
import { gardenRecord, practice } from '../../test/fixture'
import { assess, dateOf, dayNumber, latelyOf, previewPlan, weekdayOf, withPlan } from '../index'

const at = (days: number) => ({ date: dateOf(dayNumber(today) + days), minute: 420 })
const base = gardenRecord()
const made = previewPlan(base, at(0), 1)!.plan
const now = at(21)
/** What has happened by the twenty-second day where some sessions were not done. */
function after(isDone: (session: PlanSession) => boolean, change: Parameters<typeof gardenRecord>[0] = {}) {
  const sessions = made.sessions.map((session) =>
    session.date < now.date && isDone(session) ? { ...session, status: 'done' as const } : session,
  )
  return latelyOf(assess(withPlan(gardenRecord(change), { ...made, sessions }), now))
}
const wholes = (right: number) => ({
  'names-items': { right, wrong: 64 - right, blank: 0 },
  'ledgers-items': { right: 15, wrong: 15, blank: 0 },
})

describe('what has happened lately', () => {
  it('is nothing on the first day, but for the test that was sat', () => {
    const found = latelyOf(assess(withPlan(base, made), at(0)))
    expect(found).toMatchObject({ week: { planned: 0, done: 0 }, weekday: null, before: null, topic: null })
    expect(found.lastWork === null || found.lastWork <= today).toBe(true)
  })
  it('tells of the last week what was planned and done, and the last day of work', () => {
    const all = after(() => true)
    expect(all.week.planned).toBeGreaterThan(0)
    expect(all.week.done).toBe(all.week.planned)
    const past = made.sessions.filter(({ date }) => date < now.date)
    expect(all.lastWork).toBe(
      past
        .map(({ date }) => date)
        .sort()
        .pop(),
    )
    const half = after(({ date }) => date < at(14).date)
    expect(half.week.done).toBe(0)
    expect(half.week.planned).toBe(all.week.planned)
    expect(half.lastWork! < at(14).date).toBe(true)
  })
  it('finds the day of the week on which work slips, and none where none does', () => {
    expect(after(() => true).weekday).toBeNull()
    const isWednesday = ({ date }: PlanSession) => weekdayOf(dayNumber(date)) === 3
    const planned = made.sessions.filter((one) => one.date < now.date && isWednesday(one)).length
    expect(planned).toBeGreaterThan(1)
    expect(after((one) => !isWednesday(one)).weekday).toEqual({ weekday: 3, slipped: planned, of: planned })
  })
  it('sets the last test against the one before, with the topic most worked on between them', () => {
    const attempts = [practice(1, at(2).date, wholes(30)), practice(2, at(18).date, wholes(40))]
    const found = after(() => true, { attempts })
    expect(found.before?.date).toBe(at(2).date)
    const minutes = new Map<string, number>()
    for (const session of made.sessions)
      if ('topics' in session && session.date > at(2).date && session.date <= at(18).date)
        for (const id of session.topics)
          minutes.set(id, (minutes.get(id) ?? 0) + session.minutes / session.topics.length)
    expect(found.topic!.minutes).toBe(Math.round(Math.max(...minutes.values())))
    expect(after(() => true, { attempts: attempts.slice(1) }).before).toBeNull()
  })
})

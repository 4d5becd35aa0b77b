import fc from 'fast-check'
import type { Plan, PlanSession } from '@climber/contract'
import { changedLately, dateOf, dayNumber, withChanges } from '../../index'

const today = '2030-03-11'
const on = (days: number) => dateOf(dayNumber(today) + days)
const drill = (id: string, date: string, start = '18:00', topic = 'moss'): PlanSession =>
  ({
    id,
    kind: 'drill',
    date,
    start,
    minutes: 45,
    status: 'planned',
    pinned: false,
    topics: [topic],
  }) as PlanSession
const planOf = (sessions: PlanSession[]) => ({ sessions }) as unknown as Plan
const after = (before: PlanSession[], now: PlanSession[], day = today) =>
  withChanges({ sessions: before }, planOf(now), day).sessions

describe('what a change of the plan touched', () => {
  it('is marked with the day and how', () => {
    const [a, b, c] = [drill('a', on(1)), drill('b', on(2)), drill('c', on(3))]
    const marks = after(
      [a, b, c],
      [{ ...a, start: '19:00' }, b, drill('c', on(3), '18:00', 'bark'), drill('d', on(4))],
    )
    expect(marks.map(({ changed }) => changed)).toEqual([
      { on: today, how: 'moved', date: a.date, start: '18:00' },
      undefined,
      { on: today, how: 'other work' },
      { on: today, how: 'new' },
    ])
    expect(marks[1]).toBe(b)
  })
  it('tells the whole of several changes in a week, and nothing of one that was taken back', () => {
    const a = drill('a', on(1))
    const [once] = after([a], [{ ...a, date: on(2) }])
    const [twice] = after([once!], [{ ...once!, date: on(3) }], on(1))
    expect(twice!.changed).toEqual({ on: on(1), how: 'moved', date: a.date, start: a.start })
    const [back] = after([twice!], [{ ...twice!, date: a.date }], on(1))
    expect(back).toEqual(a)
    // After more than a week only the last move counts.
    const [late] = after([once!], [{ ...once!, date: on(12) }], on(9))
    expect(late!.changed).toMatchObject({ on: on(9), date: on(2) })
  })
  it('stays new when it is moved, and keeps what earlier changes said of what this one leaves alone', () => {
    const [fresh] = after([], [drill('a', on(1))])
    expect(after([fresh!], [{ ...fresh!, date: on(2) }], on(1))[0]!.changed).toEqual(fresh!.changed)
    const { changed: _, ...remade } = fresh!
    expect(after([fresh!], [remade as PlanSession], on(1))[0]!.changed).toEqual(fresh!.changed)
  })
  it('notes what it took out, for a week, until it comes back', () => {
    const [a, b] = [drill('a', on(1)), drill('b', on(2))]
    const without = withChanges(planOf([a, b]), planOf([a]), today)
    expect(without.dropped).toEqual([{ on: today, session: b }])
    const later = (plan: Plan, sessions: PlanSession[], day: number) =>
      withChanges(plan, planOf(sessions), on(day)).dropped
    expect(later(without, [], 1)).toEqual([
      { on: today, session: b },
      { on: on(1), session: a },
    ])
    expect(later(without, [a, b], 1)).toBeUndefined()
    expect(later(without, [a], 7)).toBeUndefined()
    // One that came within the week and went again never was; one whose day is over is no loss of the plan's.
    const fresh = withChanges(planOf([a]), planOf([a, drill('c', on(3))]), today)
    expect(later(fresh, [a], 1)).toBeUndefined()
    expect(later(planOf([drill('d', on(-1))]), [], 0)).toBeUndefined()
  })
  it('is news for a week', () => {
    const session = { changed: { on: today, how: 'new' as const } }
    expect(changedLately(session, on(6))).toBeDefined()
    expect(changedLately(session, on(7))).toBeUndefined()
    expect(changedLately({}, today)).toBeUndefined()
  })
  it('changes nothing but marks, whatever moved', () => {
    const sessions = fc.uniqueArray(
      fc.record({
        id: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
        day: fc.nat(9),
        start: fc.constantFrom('09:00', '18:00'),
      }),
      { selector: ({ id }) => id, maxLength: 5 },
    )
    fc.assert(
      fc.property(sessions, sessions, (was, is) => {
        const [before, now] = [was, is].map((list) =>
          list.map(({ id, day, start }) => drill(id, on(day), start)),
        )
        const marks = after(before!, now!)
        const bare = marks.map(({ changed: _, ...session }) => session)
        expect(bare).toEqual(now)
        // The same change again touches nothing.
        expect(after(marks, now!).map(({ changed }) => changed)).toEqual(marks.map(({ changed }) => changed))
      }),
    )
  })
})

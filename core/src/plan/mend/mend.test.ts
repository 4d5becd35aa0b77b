import fc from 'fast-check'
import type { CandidateRecord, Plan, PlanSession, TestSession } from '@climber/contract'
import { inputsOf, randomPlan, today } from '../../../test/arbitrary'
import { gardenRecord, practice } from '../../../test/fixture'
import {
  arrange,
  Board,
  checkPlan,
  dateOf,
  dayNumber,
  followsOf,
  isWhole,
  makePlan,
  mend,
  rehearsalsOf,
  replan,
  reviewsOf,
  timeOf,
  topicsOf,
} from '../../index'

const spring = () => {
  const record = gardenRecord()
  const { plan: input, check } = inputsOf({ record, minute: 420, seed: 1 })
  const plan = makePlan(input)
  return { record: { ...record, plan }, input, check, plan }
}
const on = (days: number) => dateOf(dayNumber(today) + days)
const lived = (plan: Plan, until: string, but: string[] = []): Plan => ({
  ...plan,
  sessions: plan.sessions.map((session) =>
    session.date < until && !but.includes(session.date) ? { ...session, status: 'done' as const } : session,
  ),
})
const again = (record: CandidateRecord, date: string, minute = 420) => {
  const { plan: input, check } = inputsOf({ record, minute, seed: 1 }, date)
  return { ...mend(input, record.plan!), input, check }
}

describe('mending', () => {
  const { record, plan } = spring()
  it('changes nothing where nothing fell through', () => {
    const { diff } = again({ ...record, plan: lived(plan, on(20)) }, on(20))
    expect(diff).toMatchObject({ moved: [], added: [], dropped: [] })
    expect(diff.kept).toBe(plan.sessions.filter(({ date }) => date >= on(20)).length)
  })
  /** A week to the exam, its only Sunday lost: the review of its one test stood there. */
  const withoutSunday = (
    source: 'publisher' | 'other',
    exam: string,
    taperDays: number,
    windows: [number, string, string][],
  ) => {
    const base = gardenRecord({
      settings: { sessionMinutes: 25, breakMinutes: 0, reviewRatio: 0.5, taperDays },
      availability: {
        windows: windows.map(([weekday, from, to]) => ({ weekday, from, to })),
        minutesPerDay: 180,
        daysPerWeek: 6,
      },
    })
    const short = {
      ...base,
      attempts: [],
      exam: {
        ...base.exam,
        forms: [1, 2].map((n) => ({ ...base.exam.forms[0]!, id: `board-${n}`, source })),
        sittings: [{ id: 'spring', date: exam, start: '19:00' }],
      },
    }
    const whole = makePlan(inputsOf({ record: short, minute: 0, seed: 1 }).plan)
    // Study would only stand in the way.
    const made = {
      ...whole,
      sessions: whole.sessions.filter(({ kind }) => kind === 'test' || kind === 'review'),
    }
    const off = { ...short.availability, daysOff: ['2031-03-09'] }
    return {
      made,
      ...again({ ...short, availability: off, plan: lived(made, '2031-03-05') }, '2031-03-06', 0),
    }
  }
  it('puts no review back where it cannot stand, and places each part once', () => {
    const { made, plan: after } = withoutSunday('other', '2031-03-10', 0, [
      [2, '06:00', '06:20'],
      [3, '13:00', '13:20'],
      [4, '13:00', '14:45'],
      [5, '06:00', '09:00'],
      [6, '16:45', '21:45'],
      [7, '13:00', '14:15'],
    ])
    const minutes = ({ sessions }: Plan) =>
      sessions
        .filter(({ kind, status }) => kind === 'review' && status === 'planned')
        .map((one) => one.minutes)
    const sum = (all: number[]) => all.reduce((total, one) => total + one, 0)
    expect(made.sessions.filter(({ date, kind }) => kind === 'review' && date === '2031-03-09')).toHaveLength(
      2,
    )
    expect(
      after.sessions.filter(({ date, status }) => date === '2031-03-09' && status === 'planned'),
    ).toEqual([])
    expect(sum(minutes(after))).toBe(sum(minutes(made)))
    const stretches = after.sessions.map(({ date, start }) => `${date} ${start}`)
    expect(new Set(stretches).size).toBe(stretches.length)
  })
  it('keeps rehearsals at their distance from an exam that is moved, and spends no form before them', () => {
    const { exam } = record
    for (const days of [-7, 14]) {
      const sittings = exam.sittings.map((one) => ({ ...one, date: dateOf(dayNumber(one.date) + days) }))
      const moved = { ...record, exam: { ...exam, sittings }, plan: lived(plan, on(5)) }
      const { plan: after, check, input } = again(moved, on(5))
      expect(checkPlan({ ...check, kept: input.kept }, after)).toEqual([])
      const sitting = dayNumber(input.sitting.date)
      const rehearsal = after.phases.find(({ rehearsal: is }) => is)!
      const tests = after.sessions.filter((one) => isWhole(one) && one.status === 'planned')
      expect(tests.some(({ date }) => dayNumber(date) >= sitting - 10)).toBe(true)
      for (const test of tests) {
        const form = exam.forms.find(({ id }) => 'form' in test && id === test.form)!
        if (form.source === 'publisher' && 'seen' in test && !test.seen)
          expect(test.date >= rehearsal.from || dayNumber(test.date) >= sitting - 10).toBe(true)
      }
      // Weeks that came to be are worked in as others are.
      const last = after.weeks.filter(({ from }) => dayNumber(from) + 7 <= sitting - 2).pop()!
      expect(last.plannedMinutes).toBeGreaterThan(0.6 * last.freeMinutes)
    }
  })
  it('gives slipped work the slack near its day, and leaves all else where it is', () => {
    const slipped = plan.sessions.find(({ date, kind }) => date > on(8) && kind === 'learn')!
    const next = dateOf(dayNumber(slipped.date) + 1)
    const before = lived(plan, next, [slipped.date])
    const { diff, plan: after } = again({ ...record, plan: before }, next)
    const due = plan.sessions.filter(({ date }) => date === slipped.date).length
    expect(diff.moved.length + diff.dropped.length).toBe(due)
    expect(diff.moved.length).toBeGreaterThan(0)
    for (const { before: old, after: now } of diff.moved) {
      expect(old.date).toBe(slipped.date)
      expect(dayNumber(now.date) - dayNumber(old.date)).toBeLessThanOrEqual(21)
    }
    const done = ({ sessions }: Plan) => sessions.filter(({ status }) => status === 'done')
    expect(done(after)).toEqual(done(before))
  })
  it('a slipped test takes its review along, or goes with it', () => {
    const test = plan.sessions.find(({ date, kind }) => date > on(8) && kind === 'test')!
    const next = dateOf(dayNumber(test.date) + 1)
    const { plan: after, diff } = again({ ...record, plan: lived(plan, next, [test.date]) }, next)
    const now = after.sessions.find(({ id }) => id === test.id)!
    const reviews = reviewsOf(test.id, after.sessions)
    if (now.status === 'planned') for (const review of reviews) expect(review.date > now.date).toBe(true)
    else expect(diff.dropped.some(({ session }) => session.id === test.id)).toBe(true)
  })
  it('a holiday is left empty, and what it held finds a place or is said to be dropped', () => {
    const change = { kind: 'off' as const, from: on(14), to: on(18) }
    const found = replan({ ...record, plan }, { date: on(0), minute: 420 }, 1, change)!
    expect(
      found.plan.sessions.filter(
        ({ date, status }) => date >= on(14) && date <= on(18) && status === 'planned',
      ),
    ).toEqual([])
    const held = plan.sessions.filter(({ date }) => date >= on(14) && date <= on(18)).length
    expect(held).toBeGreaterThan(3)
    expect(found.diff.moved.length + found.diff.dropped.length).toBeGreaterThanOrEqual(held)
    expect(found.diff.dropped.every(({ why }) => why.length > 10)).toBe(true)
    expect(found.after!.odds!).toBeGreaterThanOrEqual(found.before!.odds! - 1e-9)
    expect(found.daysOff).toEqual([14, 15, 16, 17, 18].map(on))
  })
  it('more free time brings more work, in the weeks that gained it', () => {
    const { availability } = record
    const wide = {
      ...availability,
      windows: [...availability.windows, { weekday: 7, from: '09:00', to: '12:00' }],
      daysPerWeek: 7,
    }
    const { diff, check, plan: after, input } = again({ ...record, availability: wide }, on(0))
    expect(diff.added.length).toBeGreaterThan(8)
    expect(diff.moved).toEqual([])
    expect(diff.dropped).toEqual([])
    expect(checkPlan({ ...check, kept: input.kept }, after)).toEqual([])
  })
  it('a new test that shows one section short sends more hours there when the plan is made anew', () => {
    const test = (names: number, ledgers: number) =>
      practice(
        1,
        on(9),
        {
          'names-items': { right: names, wrong: 60 - names, blank: 0 },
          'ledgers-items': { right: ledgers, wrong: 30 - ledgers, blank: 0 },
        },
        { form: 'wall-1' },
      )
    const share = (names: number, ledgers: number) => {
      const lives = {
        ...record,
        plan: lived(plan, on(10)),
        attempts: [...record.attempts, test(names, ledgers)],
      }
      const {
        plan: after,
        before,
        after: odds,
      } = replan(lives, { date: on(10), minute: 420 }, 1, { kind: 'none' }, 'anew')!
      expect(before!.odds).toBeGreaterThan(0)
      expect(odds!.odds).toBeGreaterThan(0)
      const study = after.sessions.filter(
        (one) => one.date >= on(10) && topicsOf(one).length && one.status === 'planned',
      )
      const minutes = (all: PlanSession[]) => all.reduce((sum, one) => sum + one.minutes, 0)
      return minutes(study.filter((one) => topicsOf(one)[0]!.startsWith('ledgers'))) / minutes(study)
    }
    expect(share(50, 12)).not.toBe(share(25, 27))
    expect(Math.abs(share(50, 12) - share(25, 27))).toBeGreaterThan(0.05)
  })
  it('another sitting makes the plan anew', () => {
    const moved = { ...record, target: { ...record.target, sitting: 'autumn' }, plan }
    const found = replan(moved, { date: on(0), minute: 420 }, 1)!
    expect(found.mode).toBe('anew')
    expect(found.plan.sitting).toBe('autumn')
  })
  it('moves fewer than a fifth of the next two weeks, at the median over random candidates', () => {
    const shares: number[] = []
    for (const random of fc.sample(randomPlan, { numRuns: 120, seed: 7 })) {
      const { plan: input } = inputsOf(random)
      const made = makePlan(input)
      const day = made.sessions.find(({ date }) => date > on(4))?.date
      const exam = random.record.exam.sittings[0]!.date
      if (!day || dateOf(dayNumber(day) + 1) >= exam) continue
      const next = dateOf(dayNumber(day) + 1)
      const { diff } = again({ ...random.record, plan: lived(made, next, [day]) }, next)
      const fortnight = made.sessions.filter(
        ({ date }) => date >= next && date < dateOf(dayNumber(next) + 14),
      )
      const ids = new Set(fortnight.map(({ id }) => id))
      const touched =
        diff.moved.filter(({ before }) => ids.has(before.id)).length +
        diff.dropped.filter(({ session }) => ids.has(session.id)).length
      if (fortnight.length > 4) shares.push(touched / fortnight.length)
    }
    shares.sort((a, b) => a - b)
    expect(shares.length).toBeGreaterThan(40)
    expect(shares[Math.floor(shares.length / 2)]).toBeLessThan(0.2)
  })
})

describe('the board', () => {
  it('allows nothing that the checker refuses, over random pieces and spots', () => {
    let allowed = 0
    let refused = 0
    fc.assert(
      fc.property(
        randomPlan,
        fc.array(fc.tuple(fc.nat(1000), fc.integer({ min: 0, max: 40 }), fc.integer({ min: 6, max: 88 })), {
          minLength: 6,
          maxLength: 6,
        }),
        (random, tries) => {
          const { plan: input, check } = inputsOf(random)
          const plan = makePlan(input)
          const made = plan.sessions.filter(({ status, pinned }) => status === 'planned' && !pinned)
          if (!made.length) return
          const board = new Board(input, plan.sessions, rehearsalsOf(plan.phases))
          for (const [which, ahead, quarter] of tries) {
            const piece = made[which % made.length]!
            // Half of the spots anywhere, half of them in free time.
            const free = board.freeOn(dayNumber(on(ahead)))
            const anywhere = which % 2 === 0 || !free.length
            const start = anywhere ? quarter * 15 : free[quarter % free.length]!.from
            const spot = { date: on(ahead), start: timeOf(start), minutes: piece.minutes }
            const refusal = board.refusal(piece, spot)
            if (refusal) {
              refused++
              expect(refusal.length).toBeGreaterThan(8)
              continue
            }
            allowed++
            const moved: PlanSession = {
              ...piece,
              ...spot,
              ...(piece.kind === 'test' && { hour: piece.hour ?? 'moved' }),
            }
            const sessions = plan.sessions.map((session) => (session.id === piece.id ? moved : session))
            expect(checkPlan(check, { ...plan, sessions })).toEqual([])
          }
        },
      ),
      { numRuns: 150, seed: 20310303 },
    )
    expect(allowed).toBeGreaterThan(20)
    expect(refused).toBeGreaterThan(200)
  })
  it('says which rule stands against a spot', () => {
    const { plan, input } = spring()
    const board = new Board(input, plan.sessions, rehearsalsOf(plan.phases))
    const study = plan.sessions.find(({ kind }) => kind === 'drill')!
    const test = plan.sessions.find(isWhole)!
    const [review] = reviewsOf(test.id, plan.sessions)
    const at = (session: PlanSession, change: object) =>
      board.refusal(session, {
        date: session.date,
        start: session.start,
        minutes: session.minutes,
        ...change,
      })
    expect(at(study, {})).toBeUndefined()
    expect(at(study, { date: '2031-03-02' })).toMatch(/over/)
    expect(at(study, { date: '2031-05-23' })).toMatch(/last 2 days/)
    expect(at(study, { date: '2031-05-24' })).toMatch(/ends with the exam/)
    expect(at(study, { start: '05:00' })).toMatch(/Not free then: that day is free/)
    expect(at(study, { minutes: 5 })).toMatch(/10 minutes at least/)
    expect(at(test, { minutes: 60 })).toMatch(/full 130 minutes/)
    expect(board.refusal(review!, { date: on(1), start: '18:00', minutes: 20 })).toMatch(
      /is there|has to come first/,
    )
  })
  it('finds the nearest place that is allowed', () => {
    const { plan, input } = spring()
    const study = plan.sessions.find(({ kind }) => kind === 'drill')!
    const board = new Board(input, plan.sessions, [])
    const spot = board.nearest(study, { date: study.date, start: '12:00', minutes: 30 })!
    expect(board.refusal(study, spot)).toBeUndefined()
  })
})

describe('arranging', () => {
  it('pins what is moved, refuses what is done, and says what was done', () => {
    const { record, plan } = spring()
    const study = plan.sessions.find(({ kind }) => kind === 'drill')!
    const now = { date: on(0), minute: 420 }
    const lifted = arrange(record, now, [{ id: study.id, lifted: true }])
    expect(lifted.plan.sessions.find(({ id }) => id === study.id)!.status).toBe('slipped')
    const back = arrange({ ...record, plan: lifted.plan }, now, [
      { id: study.id, date: study.date, start: study.start },
    ])
    expect(back.plan.sessions.find(({ id }) => id === study.id)).toMatchObject({
      status: 'planned',
      pinned: true,
    })
    expect(back.what).toMatch(/^Drill /)
    const done = {
      ...plan,
      sessions: plan.sessions.map((one) => (one.id === study.id ? { ...one, status: 'done' as const } : one)),
    }
    expect(
      arrange({ ...record, plan: done }, now, [{ id: study.id, start: '18:05' }]).refusals[0]!.message,
    ).toMatch(/done or running/)
    expect(arrange(record, now, [{ id: 'nothing', start: '18:05' }]).refusals).toHaveLength(1)
  })
  it('places a test of the tray with an id of its own', () => {
    const { record, plan } = spring()
    const test = plan.sessions.find((one): one is TestSession => one.kind === 'test')!
    const { date, start, ...piece } = test
    const without = plan.sessions.filter((one) => one.id !== test.id && followsOf(one) !== test.id)
    const tray = { ...plan, sessions: without, unplaced: [{ ...piece, id: `test.${test.form}.tray` }] }
    const { plan: after, refusals } = arrange({ ...record, plan: tray }, { date: on(0), minute: 420 }, [
      { id: `test.${test.form}.tray`, date, start },
    ])
    expect(refusals).toEqual([])
    expect(after.unplaced).toEqual([])
    expect(after.sessions.find((one) => one.kind === 'test' && one.form === test.form)).toMatchObject({
      date,
      start,
      pinned: true,
    })
  })
})
